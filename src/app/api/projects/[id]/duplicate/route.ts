import { answer, jsonBytes } from "@/server/http";
import { heavy } from "@/server/store";

export function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () =>
    jsonBytes(await heavy().run("duplicate", (await params).id), 201),
  );
}
