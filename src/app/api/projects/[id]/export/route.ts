import { FORMATS, writeFile } from "@/core";
import { ApiError } from "@/server/errors";
import { answer } from "@/server/http";
import { service } from "@/server/store";

export const dynamic = "force-dynamic";

/** `?format=` an id or ending of a format that is written; its options are the rest of the query. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    const { format: wanted = "", ...options } = Object.fromEntries(
      new URL(request.url).searchParams,
    );
    const found = Object.entries(FORMATS).find(
      ([id, { writer, extensions }]) => writer && (id === wanted || extensions[0] === wanted),
    );
    if (!found) throw new ApiError(400, `format must be one of ${written()}`);
    const [format, { writer }] = found;
    const { project } = service().read((await params).id);
    const samples = writer!.withSamples ? service().samples.filesOf(project) : [];
    const { body, extension, type } = writeFile(project, format, options, samples);
    const bytes = typeof body === "string" ? body : Buffer.from(body);
    return file(bytes, project.name, extension, type);
  });
}

/** The endings of what can be written, to be named in an error. */
const written = () =>
  Object.values(FORMATS)
    .flatMap(({ writer, extensions }) => (writer ? [extensions[0]] : []))
    .join(", ");

function file(body: string | Buffer<ArrayBuffer>, name: string, ending: string, type: string) {
  const plain = name.replace(/[^\w -]+/g, "_").trim() || "project";
  const full = encodeURIComponent(`${name}.${ending}`);
  return new Response(body, {
    headers: {
      "content-type": type,
      "content-disposition": `attachment; filename="${plain}.${ending}"; filename*=UTF-8''${full}`,
    },
  });
}
