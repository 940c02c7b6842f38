import { MAX_IMPORT, answer, readBytes } from "@/server/http";
import { importFile } from "@/server/import";
import { service } from "@/server/store";

/** Body: the bytes of a .mid or .json file; `?name=` its file name. Answers with the new project. */
export function POST(request: Request) {
  return answer(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const bytes = await readBytes(request, MAX_IMPORT);
    const { project, report, samples } = importFile(bytes, name);
    return Response.json({ ...service().import(project, samples), report }, { status: 201 });
  });
}
