import { LITTLE, answer, jsonBytes, readBytes } from "@/server/http";
import { changeLittle, readWhole } from "@/server/requests";
import { heavy, service } from "@/server/store";
import { summariseSoon } from "@/server/summaries";

export const dynamic = "force-dynamic";
type Context = { params: Promise<{ id: string }> };

/** `?other=R` answers `{ "unchanged": true }` while the project is still at revision R (`&stamp=`: and that save). */
export function GET(request: Request, { params }: Context) {
  return answer(request, async () => {
    const { id } = await params;
    const query = new URL(request.url).searchParams;
    const known = query.get("other");
    if (known !== null && !service().isOther(id, Number(known), query.get("stamp"))) {
      return Response.json({ unchanged: true });
    }
    return jsonBytes(await readWhole(id));
  });
}

export function PATCH(request: Request, { params }: Context) {
  return answer(request, async () => {
    const { id } = await params;
    const body = await readBytes(request);
    const saved =
      body.length <= LITTLE ? changeLittle(id, body) : await heavy().run("change", id, body);
    summariseSoon(id);
    return Response.json(saved);
  });
}

export function DELETE(request: Request, { params }: Context) {
  return answer(request, async () => {
    service().remove((await params).id);
    return Response.json({ deleted: true });
  });
}
