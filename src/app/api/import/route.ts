import { MAX_IMPORT, answer, jsonBytes, readBytes } from "@/server/http";
import { heavy } from "@/server/store";

/** Body: the bytes of a file of any format that is read; `?name=` its file name. Answers with the new project. */
export function POST(request: Request) {
  return answer(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const bytes = await readBytes(request, MAX_IMPORT);
    return jsonBytes(await heavy().run("import", bytes, name.slice(0, 300)), 201);
  });
}
