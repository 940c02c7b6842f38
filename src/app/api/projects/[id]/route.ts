import { parseChangeBody } from "@/server/change";
import { answer, readJson } from "@/server/http";
import { service } from "@/server/store";

export const dynamic = "force-dynamic";
type Context = { params: Promise<{ id: string }> };

/** `?other=R` answers `{ "unchanged": true }` while the project is still at revision R. */
export function GET(request: Request, { params }: Context) {
  return answer(request, async () => {
    const { id } = await params;
    const known = new URL(request.url).searchParams.get("other");
    if (known === null) return Response.json(service().read(id));
    return Response.json(service().readIfOther(id, Number(known)) ?? { unchanged: true });
  });
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
