import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { SentChange } from "@/core/stored";

/** An edit as what it changed: as it was after it, and before it. */
export interface KeptEdit {
  label: string;
  group: string | null;
  forward: SentChange;
  back: SentChange;
}

/** The history of one project in one tab; the last edit done last, the next one to redo first. */
export interface KeptHistory {
  key: string;
  project: string;
  /** When it was kept, in ms since 1970. */
  at: number;
  past: readonly KeptEdit[];
  future: readonly KeptEdit[];
}

interface Schema extends DBSchema {
  histories: { key: string; value: KeptHistory; indexes: { project: string } };
}

/** Histories older than this are forgotten. */
const KEEP_MS = 30 * 24 * 60 * 60 * 1000;

let opened: Promise<IDBPDatabase<Schema>> | null = null;

function open(): Promise<IDBPDatabase<Schema>> {
  opened ??= openDB<Schema>("hailstep-history", 1, {
    upgrade(db) {
      db.createObjectStore("histories", { keyPath: "key" }).createIndex("project", "project");
    },
  });
  return opened;
}

/** Keeps a history in place of the one of its key. */
export async function keepHistory(history: KeptHistory): Promise<void> {
  const db = await open();
  await db.put("histories", history);
}

/**
 * The history of a project: of this tab (`key`), else the one kept last, so that it comes back in another
 * tab too. Null where none is kept. Forgets what is too old.
 */
export async function keptHistory(project: string, key: string): Promise<KeptHistory | null> {
  const db = await open();
  const all = await db.getAllFromIndex("histories", "project", project);
  const fresh = all.filter(({ at }) => Date.now() - at < KEEP_MS);
  for (const old of all) if (!fresh.includes(old)) await db.delete("histories", old.key);
  const newest = fresh.reduce<KeptHistory | null>(
    (best, one) => (!best || one.at > best.at ? one : best),
    null,
  );
  return fresh.find((one) => one.key === key) ?? newest;
}

/** Where the history of a tab waits for its next page, until the database has it. */
const LAST = "hailstep-history/";
/** No larger than this, in characters: the browser has no more room for all of it. */
const MOST = 2_000_000;

/** Keeps a history at once, where there is room: for a page that is just left. */
export function keepLastHistory(history: KeptHistory): void {
  try {
    const text = JSON.stringify(history);
    if (text.length <= MOST) sessionStorage.setItem(LAST + history.key, text);
  } catch {
    // Without room the database alone has it.
  }
}

/** The history that a page left at once, and no more than once; null where it left none. */
export function takeLastHistory(key: string): KeptHistory | null {
  try {
    const text = sessionStorage.getItem(LAST + key);
    sessionStorage.removeItem(LAST + key);
    return text === null ? null : (JSON.parse(text) as KeptHistory);
  } catch {
    return null;
  }
}
