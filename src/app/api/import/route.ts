import { answer, readBytes } from "@/server/http";
import { importFile } from "@/server/import";
import { service } from "@/server/store";

/** Body: the bytes of a .mid or .json file; `?name=` its file name. Answers with the new project. */
export function POST(request: Request) {
  return answer(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const { project, report } = importFile(await readBytes(request), name);
    return Response.json({ ...service().create(project), report }, { status: 201 });
  });
}
