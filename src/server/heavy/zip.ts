import { once } from "node:events";
import { createWriteStream } from "node:fs";
import { finished } from "node:stream/promises";
import { Zip, ZipDeflate } from "fflate";
import type { ProjectCard } from "@/core/stored";
import { writeFile } from "@/core/formats";
import type { Database } from "../database";
import { libraryPage } from "../library";
import type { ProjectService } from "../projects";

/** What a zip of all projects holds. */
export interface ZipResult {
  projects: number;
  /** Names of projects that could not be read: their rows are in it as they are kept. */
  asKept: string[];
}

/** A name that every file system takes, each once. */
function fileName(name: string, taken: Set<string>): string {
  const plain =
    name
      .replace(/[\\/:*?"<>|\p{Cc}]+/gu, "_")
      .trim()
      .replace(/^\.+/, "_") || "project";
  let free = plain;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${plain} ${n}`;
  taken.add(free.toLowerCase());
  return free;
}

/** All projects that are not deleted, the newest first, a page of the library at a time. */
function* cards(database: Database): Generator<ProjectCard> {
  for (let offset = 0; ; offset += 200) {
    const page = libraryPage(database, { offset, limit: 200 });
    yield* page.cards;
    if (page.cards.length < 200) return;
  }
}

/**
 * Writes every project as a project file with its samples into one zip file, one after another, so that
 * no more than one of them is held at a time.
 */
export async function zipAll(
  database: Database,
  service: ProjectService,
  file: string,
): Promise<ZipResult> {
  const out = createWriteStream(file);
  const zip = new Zip((error, chunk, final) => {
    if (error) out.destroy(error);
    else {
      out.write(chunk);
      if (final) out.end();
    }
  });
  const result: ZipResult = { projects: 0, asKept: [] };
  const taken = new Set<string>();
  const put = (name: string, text: string) => {
    const entry = new ZipDeflate(`${fileName(name, taken)}.json`, { level: 6 });
    zip.add(entry);
    entry.push(new TextEncoder().encode(text), true);
  };
  for (const { id, name } of cards(database)) {
    try {
      const { project } = service.read(id);
      const samples = service.samples.filesOf(project);
      put(name, writeFile(project, "project", {}, samples).body as string);
    } catch {
      put(`${name} as kept`, service.raw(id).rows);
      result.asKept.push(name);
    }
    result.projects++;
    if (out.writableNeedDrain) await once(out, "drain");
  }
  zip.end();
  await finished(out);
  return result;
}
