import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { PlayedBend, PlayedNote } from "@/core/perform";

type Kept<T> = T & { project: string };

interface Schema extends DBSchema {
  notes: { key: string; value: Kept<PlayedNote>; indexes: { at: [string, number] } };
  bends: { key: number; value: Kept<PlayedBend>; indexes: { at: [string, number] } };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;

function open(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>("hailstep-played", 1, {
    upgrade(db) {
      db.createObjectStore("notes", { keyPath: "id" }).createIndex("at", ["project", "at"]);
      db.createObjectStore("bends", { autoIncrement: true }).createIndex("at", ["project", "at"]);
    },
  });
  // Refused once, it is asked for again the next time.
  opened.catch(() => (opened = null));
  return opened;
}

/** Keeps notes and bends that were played on a project, each once: a note that ended in place of itself. */
export async function keepPlayed(
  project: string,
  notes: readonly PlayedNote[],
  bends: readonly PlayedBend[],
): Promise<void> {
  const db = await open();
  const tx = db.transaction(["notes", "bends"], "readwrite");
  for (const note of notes) void tx.objectStore("notes").put({ ...note, project });
  for (const bend of bends) void tx.objectStore("bends").put({ ...bend, project });
  await tx.done;
}

/** Forgets notes by id. */
export async function forgetPlayed(ids: Iterable<string>): Promise<void> {
  const db = await open();
  const tx = db.transaction("notes", "readwrite");
  for (const id of ids) void tx.store.delete(id);
  await tx.done;
}

/** What was played on a project since a time; what is older, of whatever project, is forgotten. */
export async function keptPlayed(
  project: string,
  since: number,
): Promise<{ notes: PlayedNote[]; bends: PlayedBend[] }> {
  const db = await open();
  const range = IDBKeyRange.bound([project, since], [project, Infinity]);
  const [notes, bends] = await Promise.all([
    db.getAllFromIndex("notes", "at", range),
    db.getAllFromIndex("bends", "at", range),
  ]);
  for (const name of ["notes", "bends"] as const) {
    const tx = db.transaction(name, "readwrite");
    for (let at = await tx.store.openCursor(); at; at = await at.continue()) {
      if (at.value.at < since) await at.delete();
    }
    await tx.done;
  }
  const plain = <T extends object>({ project: _, ...rest }: Kept<T>) => rest as unknown as T;
  return { notes: notes.map(plain<PlayedNote>), bends: bends.map(plain<PlayedBend>) };
}
