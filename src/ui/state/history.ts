import { deflateSync, inflateSync, strFromU8, strToU8 } from "fflate";
import type { Project } from "@/core/score";
import { type SentChange, applyPackedChange, mergeProjects, packedDiff } from "@/core/stored";
import { nth } from "@/core/base";

/** One named edit. Edits that share a `group` (one drag) are one step. */
export interface Edit {
  label: string;
  before: Project;
  after: Project;
  group: string | null;
  /** What was selected after it: edits of a group go on only while that is. */
  selection?: ReadonlySet<string>;
}

/** An edit as what it changed: a large part's many notes are not held once more for every hit. */
export interface PackedEdit {
  label: string;
  group: string | null;
  forward: SentChange;
  back: SentChange;
}

/** A packed edit of few notes as compressed text, a tenth of its size: a long day makes thousands. */
export interface ClosedEdit {
  label: string;
  group: null;
  text: string;
  /** How many notes it holds. */
  notes: number;
}

/** The last few edits are whole, older ones are closed or packed, and those read back are packed. */
export type Entry = Edit | PackedEdit | ClosedEdit;

/** What was done, the last edit last, and what was undone, the next one first. */
export interface History {
  past: readonly Entry[];
  future: readonly Entry[];
  /** Whether there were edits before the first one here. */
  forgotten?: boolean;
}

export const EMPTY_HISTORY: History = { past: [], future: [] };

/** So many of the last edits are whole: undoing them is quick, and goes back to the very same objects. */
const WHOLE = 8;
/** What all edits may hold of notes; the oldest are forgotten, but never these many. */
const MAX_NOTES = 400_000;
const LEAST_EDITS = 30;
/** An edit of more notes stays as it is: its notes are shared with others, text would not be. */
const CLOSED_NOTES = 64;

/** An edit as what it changed; null where that is nothing. */
export function pack(entry: Entry): PackedEdit | null {
  if ("forward" in entry) return entry;
  if ("text" in entry) return opened(entry);
  const { label, group, before, after } = entry;
  const forward = packedDiff(before, after);
  const back = packedDiff(after, before);
  return forward && back ? { label, group, forward, back } : null;
}

/** What most edits look like: as a dictionary it leaves of each only what is its own. */
const DICTIONARY = strToU8(
  `"partEdits":[{"pattern":"a","track":"bass","removed":["` +
    `"],"put":[]},"parts":[],"rest":{"length":3840,"grid":{"value":16,"kind":"straight","swing":50},` +
    `"chain":[{"id":"","transform":"","on":true,"params":{"seed":1},"scope":null}]},"velocity":96,` +
    `[{"partEdits":[{"pattern":"a","track":"drums","removed":[],"put":[{"id":"",` +
    `"start":240,"length":240,"pitch":36,"velocity":96,"pan":0,"tune":0,"slide":false}]}]},` +
    `{"partEdits":[{"pattern":"a","track":"drums","removed":["`,
);
const shrunk = (json: string) =>
  strFromU8(deflateSync(strToU8(json), { dictionary: DICTIONARY }), true);
const grown = (text: string) =>
  strFromU8(inflateSync(strToU8(text, true), { dictionary: DICTIONARY }));

/** A packed edit as text, where it is small. */
function closed(packed: PackedEdit): PackedEdit | ClosedEdit {
  const { label, forward, back } = packed;
  const notes = notesOf(packed);
  if (notes > CLOSED_NOTES) return packed;
  return { label, group: null, notes, text: shrunk(JSON.stringify([forward, back])) };
}

function opened({ label, text }: ClosedEdit): PackedEdit {
  const [forward, back] = JSON.parse(grown(text)) as [SentChange, SentChange];
  return { label, group: null, forward, back };
}

/** How many notes a packed edit holds; a whole one is not asked. */
export function notesOf(entry: Entry): number {
  if ("text" in entry) return entry.notes;
  return "forward" in entry ? notesIn(entry.forward) + notesIn(entry.back) : 0;
}
const notesIn = ({ parts = [], partEdits = [] }: SentChange) =>
  parts.reduce((sum, { part }) => sum + part.notes.length, 0) +
  partEdits.reduce((sum, { put }) => sum + put.length, 0);

/**
 * Adds an edit. One of the same group as the last widens that step, as long as the same notes are
 * selected as after it: edits by key of other notes are another step.
 */
export function record(history: History, entry: Edit, selected?: ReadonlySet<string>): History {
  const { past, forgotten } = history;
  const last = past.at(-1);
  const goesOn =
    last &&
    "after" in last &&
    entry.group !== null &&
    last.group === entry.group &&
    last.after === entry.before &&
    last.selection === selected;
  if (goesOn) {
    const before = past.slice(0, -1);
    // A gesture that was taken back leaves nothing to undo.
    if (entry.after === last.before) return { past: before, future: [], forgotten };
    const widened = { ...last, after: entry.after, selection: entry.selection };
    return { past: [...before, widened], future: [], forgotten };
  }
  return bounded({ past: [...past, entry], future: [], forgotten });
}

/** Packs the edit that has just become an older one, and forgets the oldest of too many notes. */
function bounded(history: History): History {
  const past = [...history.past];
  const at = past.length - 1 - WHOLE;
  const old = past[at];
  if (!old || "forward" in old || "text" in old) return history;
  const packed = pack(old);
  if (packed) past[at] = closed(packed);
  else past.splice(at, 1);
  if (!packed || notesOf(packed) === 0) return { ...history, past };
  let sum = 0;
  for (let i = past.length - 1; i >= 0; i--) {
    sum += notesOf(nth(past, i));
    if (sum > MAX_NOTES && past.length - i > LEAST_EDITS) {
      return { ...history, past: past.slice(i + 1), forgotten: true };
    }
  }
  return { ...history, past };
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
  const { past, future } = history;
  if (direction === "back") {
    const entry = past.at(-1);
    if (!entry) return null;
    const { before, after } = sides(entry, project);
    return {
      label: entry.label,
      project: mergeProjects(after, before, project),
      history: { ...history, past: past.slice(0, -1), future: [entry, ...future] },
    };
  }
  const entry = future[0];
  if (!entry) return null;
  const { before, after } = sides(entry, project);
  return {
    label: entry.label,
    project: mergeProjects(before, after, project),
    history: { ...history, past: [...past, { ...entry, group: null }], future: future.slice(1) },
  };
}

/** The project before and after an edit: of a packed one, what it changed laid over the project as it is. */
function sides(entry: Entry, project: Project): Pick<Edit, "before" | "after"> {
  if ("after" in entry) return entry;
  const { back, forward } = "text" in entry ? opened(entry) : entry;
  return { before: applyPackedChange(project, back), after: applyPackedChange(project, forward) };
}
