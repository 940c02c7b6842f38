import { answer } from "@/server/http";
import { service } from "@/server/store";

export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    service().restore((await params).id);
    return Response.json({ restored: true });
  });
}
