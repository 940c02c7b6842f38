import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import { type Grid, gridTicks } from "@/core/time";
import { type Note, type PartAddress, type Project, partOf, trackOf } from "@/core/score";
import { type SelectedNotes, selectedOn } from "../../geometry/selected-on";
import { selectedTracks } from "../../state/selected";
import type { Session } from "../../state/store";
import { noteAtCaret } from "./current-row";
import { gridOfNote, ownIds, startAllowed, startByLines } from "./notes";

/** The session as far as notes are worked on in it. */
type Worked = SelectedNotes & Pick<Session, "project" | "pattern">;

/** The notes of one part that are worked on. */
export interface PartNotes {
  at: PartAddress;
  ids: ReadonlySet<string>;
  /** As they were when they were asked for, in order of time. */
  notes: readonly Note[];
  drums: boolean;
  /** The grid that a note of it is measured against. */
  gridOf(note: Note): Grid;
  /** Whether a note may begin at a start. */
  mayStart(note: Note, start: number): boolean;
}

function notesOf(state: Worked, track: string, ids: ReadonlySet<string>): PartNotes {
  const at = { pattern: state.pattern, track };
  const on = track === state.track ? state : { ...state, track };
  const notes = partOf(state.project, at).notes.filter((note) => ids.has(note.id));
  return {
    at,
    ids,
    notes,
    drums: trackOf(state.project, track).kind === "drums",
    gridOf: (note) => gridOfNote(on, note),
    mayStart: startAllowed(on),
  };
}

/** What is selected, part by part, the current one first; nothing where only made notes are. */
export const selectedByPart = (state: Worked): PartNotes[] =>
  selectedTracks(state)
    .map((track) => notesOf(state, track, ownIds(selectedOn(state, track))))
    .filter(({ notes }) => notes.length > 0);

/** What is worked on: what is selected, else the note at the caret. */
export function notesByPart(state: Session): PartNotes[] {
  if (selectedTracks(state).length > 0) return selectedByPart(state);
  const note = noteAtCaret(state);
  return note ? [notesOf(state, state.track, new Set([note.id]))] : [];
}

/** So many notes in all parts. */
export const countOf = (all: readonly PartNotes[]): number =>
  all.reduce((sum, { notes }) => sum + notes.length, 0);

/** In words: `4 hits`, `12 notes in 2 tracks`. */
export function countText(all: readonly PartNotes[]): string {
  const word = all.every(({ drums }) => drums) ? "hit" : "note";
  const text = plural(countOf(all), word);
  return all.length > 1 ? `${text} in ${plural(all.length, "track")}` : text;
}

/** Whether something is so of each of the notes. */
export const everyNote = (
  all: readonly PartNotes[],
  is: (note: Note, of: PartNotes) => boolean,
): boolean => all.every((of) => of.notes.every((note) => is(note, of)));

/**
 * Where a note begins that is moved by steps: lines of its own grid, or with notes of other tracks by steps of one
 * grid, so that they keep together. What lies beside a line stays as far beside it.
 */
export function startBySteps(
  note: Note,
  steps: number,
  { gridOf }: PartNotes,
  together: Grid | null,
): number {
  const own = gridOf(note);
  const asOne = together !== null && together.kind !== "off" && !sameLines(together, own);
  return asOne ? note.start + steps * gridTicks(together) : startByLines(note, steps, own);
}

const sameLines = (a: Grid, b: Grid): boolean =>
  a.kind === b.kind && a.value === b.value && a.swing === b.swing;

/** The project with each of the notes as `change` makes it. */
export const changeEach = (
  project: Project,
  all: readonly PartNotes[],
  change: (note: Note, of: PartNotes) => Note,
): Project =>
  all.reduce(
    (after, of) => edits.changeNotes(after, of.at, of.ids, (note) => change(note, of)),
    project,
  );

/** The project without the notes. */
export const deleteAll = (project: Project, all: readonly PartNotes[]): Project =>
  all.reduce((after, { at, ids }) => edits.deleteNotes(after, at, ids), project);

/** Notes of several parts as the selection that an edit leaves. */
export function selectionOf(
  state: Pick<Session, "track">,
  all: readonly { at: PartAddress; ids: Iterable<string> }[],
): { selection: string[]; beside: Map<string, Set<string>> } {
  const by = new Map(all.map(({ at, ids }) => [at.track, new Set(ids)]));
  const selection = [...(by.get(state.track) ?? [])];
  by.delete(state.track);
  return { selection, beside: by };
}
