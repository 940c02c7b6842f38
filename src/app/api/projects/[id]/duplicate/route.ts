import { answer } from "@/server/http";
import { service } from "@/server/store";

export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () =>
    Response.json(service().duplicate((await params).id), { status: 201 }),
  );
}
