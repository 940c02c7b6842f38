import { firstIndex, nth } from "../base";
import { type Note, type Part, type Project, compareNotes, sortNotes } from "../score";
import { applyChange, diffProjects, type Change, type PartEdit, type SentChange } from "./diff";

/** A part of a project, where it is there. */
export const partIn = (project: Project, pattern: string, track: string): Part | undefined =>
  project.patterns.find((p) => p.id === pattern)?.parts.find((part) => part.track === track);

/**
 * What leads from one state of a part to another: by object identity, so that of two large parts only the
 * notes between their like beginnings and ends are looked at.
 */
export function editBetween(pattern: string, before: Part, after: Part): PartEdit {
  const [was, now] = [before.notes, after.notes];
  const most = Math.min(was.length, now.length);
  let head = 0;
  while (head < most && was[head] === now[head]) head++;
  let tail = 0;
  while (tail < most - head && was.at(-1 - tail) === now.at(-1 - tail)) tail++;
  const [gone, come] = [was.slice(head, was.length - tail), now.slice(head, now.length - tail)];
  const known = new Set(gone);
  const there = new Set(come.map((note) => note.id));
  const { notes: _was, ...restBefore } = before;
  const { notes: _now, ...restAfter } = after;
  const { track, ...rest } = restAfter;
  const keys = Object.keys({ ...restBefore, ...restAfter }) as (keyof typeof restAfter)[];
  return {
    pattern,
    track,
    removed: gone.filter((note) => !there.has(note.id)).map((note) => note.id),
    put: come.filter((note) => !known.has(note)),
    ...(keys.some((key) => before[key] !== after[key]) && { rest }),
  };
}

/** So many notes are put into their places one by one; more are sorted in. */
const FEW = 32;

/** The part with an edit laid over it: what is not there is not taken out, what is there is replaced. */
export function applyPartEdit(part: Part, { removed, put, rest }: PartEdit): Part {
  const gone = new Set([...removed, ...put.map((note) => note.id)]);
  const kept = part.notes.filter((note) => !gone.has(note.id));
  const notes = put.length > FEW ? sortNotes([...kept, ...put]) : putIn(kept, put);
  return rest ? { track: part.track, ...rest, notes } : { ...part, notes };
}

function putIn(notes: Note[], put: readonly Note[]): readonly Note[] {
  for (const note of put) {
    const at = firstIndex(notes.length, (i) => compareNotes(nth(notes, i), note) < 0);
    notes.splice(at, 0, note);
  }
  return notes;
}

/** The change between two states, of parts only what differs; null where there is none. */
export function packedDiff(from: Project, to: Project): SentChange | null {
  const change = diffProjects(from, to);
  return change && packChange(change, from, () => true);
}

/** A change made on a project, with those of its parts as edits that `worth` says are better so. */
export function packChange(
  change: Change,
  from: Project,
  worth: (edit: PartEdit, before: Part, after: Part) => boolean,
): SentChange {
  const { parts = [], ...rest } = change;
  const whole: { pattern: string; part: Part }[] = [];
  const partEdits: PartEdit[] = [];
  for (const one of parts) {
    const before = partIn(from, one.pattern, one.part.track);
    const edit = before && editBetween(one.pattern, before, one.part);
    if (edit && worth(edit, before, one.part)) partEdits.push(edit);
    else whole.push(one);
  }
  if (partEdits.length === 0) return change;
  return { ...rest, ...(whole.length > 0 && { parts: whole }), partEdits };
}

/** Lays a packed change over a project; edits of parts that are not there are left out. */
export function applyPackedChange(
  project: Project,
  { partEdits = [], ...change }: SentChange,
): Project {
  const edited = partEdits.flatMap((edit) => {
    const part = partIn(project, edit.pattern, edit.track);
    return part ? [{ pattern: edit.pattern, part: applyPartEdit(part, edit) }] : [];
  });
  const parts = [...(change.parts ?? []), ...edited];
  return applyChange(project, parts.length > 0 ? { ...change, parts } : change);
}
