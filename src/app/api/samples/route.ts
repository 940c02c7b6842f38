import { MAX_SAMPLE, answer, readBytes } from "@/server/http";
import { service } from "@/server/store";

/** Body: the bytes of an audio file; `?name=` its name. Answers with the sample's id. */
export function POST(request: Request) {
  return answer(request, async () => {
    const name = new URL(request.url).searchParams.get("name") ?? "";
    const bytes = await readBytes(request, MAX_SAMPLE);
    return Response.json(service().samples.add(bytes, name), { status: 201 });
  });
}
