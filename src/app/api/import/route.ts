import { MAX_IMPORT, answer, readBytes } from "@/server/http";
import { readFile } from "@/core";
import { service } from "@/server/store";

/** Body: the bytes of a file of any format that is read; `?name=` its file name. Answers with the new project. */
export function POST(request: Request) {
  return answer(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const bytes = await readBytes(request, MAX_IMPORT);
    const { project, samples, notKept } = readFile(bytes, name);
    return Response.json({ ...service().import(project, samples), notKept }, { status: 201 });
  });
}
