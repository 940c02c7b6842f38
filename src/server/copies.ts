import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from "node:fs";
import path from "node:path";
import type { Database } from "./database";

/** The last so many daily copies are kept. */
export const COPIES_KEPT = 7;
const NAME = /^hailstep-\d{4}-\d{2}-\d{2}\.db$/;

/** The folder of the daily copies. */
export const copiesFolder = (data: string) => path.join(data, "copies");

/** Names of the copies there are, the oldest first. */
export function copiesIn(data: string): string[] {
  const folder = copiesFolder(data);
  return existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => NAME.test(name))
        .sort()
    : [];
}

/**
 * Makes the copy of a day, where there is none yet, by SQLite's online backup, which goes on while
 * others write; puts it in its place only when it is whole; keeps the last seven. Resolves to its name,
 * null where it was there.
 */
export async function keepCopies(
  { $client }: Database,
  data: string,
  day: Date,
): Promise<string | null> {
  const folder = copiesFolder(data);
  const name = `hailstep-${day.toISOString().slice(0, 10)}.db`;
  if (existsSync(path.join(folder, name))) return null;
  mkdirSync(folder, { recursive: true });
  const unfinished = path.join(folder, `${name}.part`);
  rmSync(unfinished, { force: true });
  await $client.backup(unfinished);
  renameSync(unfinished, path.join(folder, name));
  const all = copiesIn(data);
  for (const old of all.slice(0, Math.max(0, all.length - COPIES_KEPT))) {
    rmSync(path.join(folder, old), { force: true });
  }
  return name;
}
