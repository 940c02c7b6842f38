import { keepHistory, keptHistory, type KeptEdit, type KeptHistory } from "../saving/kept-history";
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

/** Brings the history of an earlier page back, and keeps it from now on. Gives a way to stop. */
export function keepsHistory(store: SessionStore, project: string, key: string): () => void {
  const keeping = putOff(() => {
    const { history } = store.getState();
    keepHistory({ key, project, at: Date.now(), ...toKept(history) }).catch((error: unknown) =>
      console.warn("The history cannot be kept in this browser", error),
    );
  }, PAUSE_MS);
  const stop = store.subscribe((now, before) => {
    if (now.history !== before.history) keeping.ask({ anew: true });
  });
  return () => {
    keeping.stop();
    stop();
  };
}

/** Puts the history of an earlier page into a session that has none yet. */
export async function restoreHistory(
  store: SessionStore,
  project: string,
  key: string,
): Promise<void> {
  const kept = await keptHistory(project, key).catch(() => null);
  const { history, setHistory } = store.getState();
  if (!kept || history.past.length > 0 || history.future.length > 0) return;
  setHistory(fromKept(kept));
}
