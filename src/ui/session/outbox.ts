import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Change } from "@/core";

/**
 * Edits not yet on the server: the touched rows as they are now (`change`) and as they were at
 * `revision` (`base`), so that they can be merged into whatever the project has become.
 */
export interface Unsent {
  key: string;
  project: string;
  revision: number;
  base: Change;
  change: Change;
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

/**
 * Keeps edits. The write is handed over and committed before this returns to the event loop, so it
 * also stands when the page goes away right after.
 */
export function keepUnsent(unsent: Unsent): void {
  if (!database) return;
  const transaction = database.transaction("unsent", "readwrite");
  void transaction.store.put(unsent);
  transaction.commit();
  transaction.done.catch((error: unknown) => console.warn("Edits could not be kept here", error));
}

/** All edits of a project that never reached the server, from this tab and from closed ones. */
export async function unsentOf(project: string): Promise<Unsent[]> {
  await openOutbox();
  return database!.getAllFromIndex("unsent", "project", project);
}

export function dropUnsent(keys: readonly string[]): void {
  if (!database || keys.length === 0) return;
  const transaction = database.transaction("unsent", "readwrite");
  for (const key of keys) void transaction.store.delete(key);
  transaction.commit();
  transaction.done.catch(() => undefined);
}
