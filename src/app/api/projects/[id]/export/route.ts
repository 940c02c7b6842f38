import { answer, fileAnswer } from "@/server/http";
import { heavy, service } from "@/server/store";

export const dynamic = "force-dynamic";

/**
 * `?format=` an id or ending of a format that is written; its options are the rest of the query.
 * `?format=raw` gives the rows as they are kept: what can be had of a project that cannot be read.
 */
export function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  return answer(request, async () => {
    const { format = "", ...options } = Object.fromEntries(new URL(request.url).searchParams);
    const { id } = await params;
    if (format === "raw") {
      const { name, rows } = service().raw(id);
      return fileAnswer(rows, `${name} as kept`, "json", "application/json");
    }
    const { body, name, extension, type } = await heavy().run("export", id, format, options);
    return fileAnswer(body, name, extension, type);
  });
}
