import { mergeProjects, type Project } from "@/core";

/** One named edit. Edits that share a `group` (one drag) are one step. */
export interface Entry {
  label: string;
  before: Project;
  after: Project;
  group: string | null;
  /** What was selected after it: edits of a group go on only while that is. */
  selection?: ReadonlySet<string>;
}

/** What was done, the last edit last, and what was undone, the next one first. */
export interface History {
  past: readonly Entry[];
  future: readonly Entry[];
}

export const EMPTY_HISTORY: History = { past: [], future: [] };

/**
 * Adds an edit. One of the same group as the last widens that step, as long as the same notes are
 * selected as after it: edits by key of other notes are another step.
 */
export function record(history: History, entry: Entry, selected?: ReadonlySet<string>): History {
  const last = history.past[history.past.length - 1];
  const goesOn =
    last &&
    entry.group !== null &&
    last.group === entry.group &&
    last.after === entry.before &&
    last.selection === selected;
  if (goesOn) {
    const before = history.past.slice(0, -1);
    // A gesture that was taken back leaves nothing to undo.
    if (entry.after === last.before) return { past: before, future: [] };
    const widened = { ...last, after: entry.after, selection: entry.selection };
    return { past: [...before, widened], future: [] };
  }
  return { past: [...history.past, entry], future: [] };
}

/**
 * Takes one step back (or forward). What changed since by other means, such as another tab, stays:
 * only what the edit itself did is turned back.
 */
export function step(
  history: History,
  project: Project,
  direction: "back" | "forward",
): { history: History; project: Project; label: string } | null {
  if (direction === "back") {
    const entry = history.past[history.past.length - 1];
    if (!entry) return null;
    return {
      label: entry.label,
      project: mergeProjects(entry.after, entry.before, project),
      history: { past: history.past.slice(0, -1), future: [entry, ...history.future] },
    };
  }
  const entry = history.future[0];
  if (!entry) return null;
  return {
    label: entry.label,
    project: mergeProjects(entry.before, entry.after, project),
    history: {
      past: [...history.past, { ...entry, group: null }],
      future: history.future.slice(1),
    },
  };
}
