import { parseChangeBody } from "@/server/change";
import { answer, readJson } from "@/server/http";
import { service } from "@/server/store";

export const dynamic = "force-dynamic";
type Context = { params: Promise<{ id: string }> };

export function GET(request: Request, { params }: Context) {
  return answer(request, async () => Response.json(service().read((await params).id)));
}

export function PATCH(request: Request, { params }: Context) {
  return answer(request, async () => {
    const { revision, change } = parseChangeBody(await readJson(request));
    return Response.json(service().change((await params).id, revision, change));
  });
}

export function DELETE(request: Request, { params }: Context) {
  return answer(request, async () => {
    service().remove((await params).id);
    return Response.json({ deleted: true });
  });
}
