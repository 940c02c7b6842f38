import { writeProjectJson, writeSmf } from "@/core";
import { ApiError } from "@/server/errors";
import { answer } from "@/server/http";
import { service } from "@/server/store";

export const dynamic = "force-dynamic";

/** `?format=mid|json`; with `mid`, `pattern` takes one pattern instead of the whole. */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    const query = new URL(request.url).searchParams;
    const format = query.get("format");
    const { project } = service().read((await params).id);
    if (format === "json") {
      const samples = service()
        .samples.of(project)
        .map(({ id, name, bytes }) => ({ id, name, data: bytes.toString("base64") }));
      return file(writeProjectJson(project, samples), project.name, "json", "application/json");
    }
    if (format === "mid") {
      const pattern = query.get("pattern") ?? undefined;
      return file(Buffer.from(writeSmf(project, { pattern })), project.name, "mid", "audio/midi");
    }
    throw new ApiError(400, "format must be mid or json");
  });
}

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
