import { must } from "@/core/base";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { SentChange } from "@/core/stored";

/**
 * Edits not yet on the server: what was touched as it is now (`change`) and as they were at
 * `revision` (`base`), so that they can be merged into whatever the project has become.
 */
export interface Unsent {
  key: string;
  project: string;
  revision: number;
  base: SentChange;
  change: SentChange;
}

interface Schema extends DBSchema {
  unsent: { key: string; value: Unsent; indexes: { project: string } };
}

let opened: Promise<IDBPDatabase<Schema>> | null = null;
let database: IDBPDatabase<Schema> | null = null;

/** Opens the browser's own store. */
function openOutbox(): Promise<unknown> {
  opened ??= openDB<Schema>("hailstep", 1, {
    upgrade(db) {
      db.createObjectStore("unsent", { keyPath: "key" }).createIndex("project", "project");
    },
  }).then((db) => (database = db));
  return opened;
}

/** Keeps edits: handed over at once, written by the browser in its own time. */
export function keepUnsent(unsent: Unsent): void {
  if (!database) return;
  const transaction = database.transaction("unsent", "readwrite");
  void transaction.store.put(unsent);
  transaction.commit();
  transaction.done.catch((error: unknown) => console.warn("Edits could not be kept here", error));
}

const LAST_WORDS = "hailstep-unsent/";

/**
 * Keeps edits of a page that goes away. The browser may drop a database write of a page that is
 * gone before it is done, so they are also put where writing is done when the call returns. What is
 * too large for that place still has the database.
 */
export function keepLast(unsent: Unsent): void {
  try {
    localStorage.setItem(LAST_WORDS + unsent.key, JSON.stringify(unsent));
  } catch {
    // Full, or not allowed here.
  }
  keepUnsent(unsent);
}

/** Moves what pages said last into the database, where it is older than nothing else of its key. */
async function collectLast(project: string): Promise<void> {
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(`${LAST_WORDS}${project}/`)) continue;
    const text = localStorage.getItem(key);
    if (text) await must(database).put("unsent", JSON.parse(text) as Unsent);
    localStorage.removeItem(key);
  }
}

/** All edits of a project that never reached the server, from this tab and from closed ones. */
export async function unsentOf(project: string): Promise<Unsent[]> {
  await openOutbox();
  await collectLast(project);
  return must(database).getAllFromIndex("unsent", "project", project);
}

/** Forgets edits that the server has. */
export function dropUnsent(keys: readonly string[]): void {
  if (!database || keys.length === 0) return;
  const transaction = database.transaction("unsent", "readwrite");
  for (const key of keys) void transaction.store.delete(key);
  transaction.commit();
  transaction.done.catch(() => undefined);
}
