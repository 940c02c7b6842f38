import { createReadStream } from "node:fs";
import { mkdtemp, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { Readable } from "node:stream";
import { answer, fileAnswer } from "@/server/http";
import { heavy } from "@/server/store";

export const dynamic = "force-dynamic";

/** All projects as project files in one zip file. */
export function GET(request: Request) {
  return answer(request, async () => {
    const folder = await mkdtemp(path.join(tmpdir(), "hailstep-export-"));
    const clear = () => void rm(folder, { recursive: true, force: true });
    try {
      const file = path.join(folder, "all.zip");
      await heavy().run("zip", file);
      const { size } = await stat(file);
      const stream = createReadStream(file);
      stream.once("close", clear);
      const day = new Date().toISOString().slice(0, 10);
      const response = fileAnswer(
        Readable.toWeb(stream) as ReadableStream,
        `Hailstep projects ${day}`,
        "zip",
        "application/zip",
      );
      response.headers.set("content-length", String(size));
      return response;
    } catch (error) {
      clear();
      throw error;
    }
  });
}
