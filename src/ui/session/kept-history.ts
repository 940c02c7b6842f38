import {
  keepHistory,
  keepLastHistory,
  keptHistory,
  takeLastHistory,
  type KeptEdit,
  type KeptHistory,
} from "../saving/kept-history";
import { notesOf, pack, type Entry, type History } from "../state/history";
import { putOff } from "./keeping";
import type { SessionStore } from "../state/store";

/** So many edits are kept, and notes in them: the last ones. */
const MAX_EDITS = 200;
const MAX_NOTES = 60_000;
/** A history is kept when nothing was done for so long, in ms. */
const PAUSE_MS = 250;

/** Edits as what they changed, from the first of a list on, as many as there is room for. */
function keptEdits(entries: readonly Entry[]): KeptEdit[] {
  const kept: KeptEdit[] = [];
  let notes = 0;
  for (const entry of entries) {
    const packed = pack(entry);
    if (!packed) continue;
    notes += notesOf(packed);
    if (kept.length >= MAX_EDITS || notes > MAX_NOTES) break;
    kept.push(packed);
  }
  return kept;
}

/** A history as it can be kept: without the projects it refers to, only what each edit changed. */
export const toKept = ({ past, future }: History): Pick<KeptHistory, "past" | "future"> => ({
  past: keptEdits([...past].reverse()).reverse(),
  future: keptEdits(future),
});

/**
 * A kept history. Each edit stands by itself: undoing it turns back what it changed and leaves what came
 * from elsewhere.
 */
export const fromKept = ({ past, future }: Pick<KeptHistory, "past" | "future">): History => ({
  past: past.map((edit) => ({ ...edit, group: null })),
  future: future.map((edit) => ({ ...edit, group: null })),
});

/** Keeps the history from now on, and at once when the page is left. Gives a way to stop. */
export function keepsHistory(store: SessionStore, project: string, key: string): () => void {
  const keeping = putOff((leaving) => {
    const { history } = store.getState();
    const kept = { key, project, at: Date.now(), ...toKept(history) };
    // A page that is left may be gone before the database has it.
    if (leaving) keepLastHistory(kept);
    return keepHistory(kept).catch((error: unknown) => {
      console.warn("The history cannot be kept in this browser", error);
      throw error;
    });
  }, PAUSE_MS);
  const stop = store.subscribe((now, before) => {
    if (now.history !== before.history) keeping.ask({ anew: true });
  });
  return () => {
    keeping.stop();
    stop();
  };
}

/** Puts the history of an earlier page before what was done in a session meanwhile. */
export async function restoreHistory(
  store: SessionStore,
  project: string,
  key: string,
): Promise<void> {
  const last = takeLastHistory(key);
  const kept = await keptHistory(project, key).catch(() => null);
  const found = last && last.at >= (kept?.at ?? 0) ? last : kept;
  store.getState().foundHistory(found && fromKept(found));
}
