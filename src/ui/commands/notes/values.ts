import * as edits from "@/core/edits";
import { type NumberChange, changedTogether, nth } from "@/core/base";
import { LIMITS, type Note } from "@/core/score";
import { PROFILES, type Profile } from "../../geometry/profiles";
import { currentPart, currentPlace } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { ownNotes } from "../../geometry/made";
import { madeMessage } from "../tracks/made";
import { type PartNotes, changeEach, notesByPart } from "./by-part";
import { EDGE } from "./selected";

/** A number that each note has: how it is read and put. */
export type NoteValue = Pick<Profile, "label" | "range" | "read" | "exactly" | "only">;

/** Whether notes of a kind of track have a value. */
const isOf = ({ only }: NoteValue, kind: "drums" | "melody") => (only ?? kind) === kind;

/** Changes one value of all selected notes; a run of changes of one value is one step of undo. */
export function changeSelected(
  store: SessionStore,
  label: string,
  change: (note: Note, of: PartNotes) => Note,
): void {
  const state = store.getState();
  const held = notesByPart(state);
  state.edit(label, (project) => changeEach(project, held, change), { group: `values-${label}` });
}

/** Changes notes of the current part by id, as one stroke over them does; `group` names the stroke. */
export function paintValues(
  store: SessionStore,
  ids: ReadonlySet<string>,
  change: (note: Note) => Note,
  { label, group }: { label: string; group: string },
): void {
  const state = store.getState();
  const own = ownNotes(currentPart(state).notes);
  if (![...ids].some((id) => own.has(id))) {
    // Only what cards made was passed.
    state.announce(madeMessage(state));
    return;
  }
  state.edit(label, (project) => edits.changeNotes(project, currentPlace(state), ids, change), {
    group,
  });
}

/**
 * Changes a number of notes together: set, all have it; else their differences stay, and all stop where the first
 * of them comes to an end of the range. `from` are the notes as they were before a drag of which this is the state
 * now, else what is selected or at the caret; `group` names what is one step of undo. Says so where nothing goes.
 */
export function changeValues(
  store: SessionStore,
  value: NoteValue,
  change: NumberChange,
  { group = `values-${value.label}`, from }: { group?: string; from?: readonly PartNotes[] } = {},
): void {
  const state = store.getState();
  const held = (from ?? notesByPart(state)).filter(({ drums }) =>
    isOf(value, drums ? "drums" : "melody"),
  );
  const notes = held.flatMap((of) => of.notes.map((note) => ({ note, of })));
  const before = notes.map(({ note }) => value.read(note));
  const after = changedTogether(before, change, value.range);
  const wanted = new Map(held.map((of) => [of, new Map<string, number>()]));
  notes.forEach(({ note, of }, i) => wanted.get(of)?.set(note.id, nth(after, i)));
  if (change.how !== "set" && !from && after.every((one, i) => one === before[i])) {
    state.announce(EDGE);
    return;
  }
  state.edit(
    value.label,
    (project) =>
      changeEach(project, held, (note, of) =>
        value.exactly(note, wanted.get(of)?.get(note.id) ?? value.read(note)),
      ),
    { group },
  );
}

/** How long notes are: not drawn as a profile. */
export const LENGTH: NoteValue = {
  label: "Length",
  range: { min: 1, max: LIMITS.ticks },
  read: (note) => note.length,
  exactly: (note, value) => ({ ...note, length: Math.max(1, Math.round(value)) }),
};

/** Makes selected notes louder by so many steps of the wheel over one of them. */
export function wheelVelocity(store: SessionStore, over: Note, steps: number): void {
  wheel(store, PROFILES.velocity, over, steps);
}

/** Changes the chance of selected notes by so many steps of the wheel over one of them. */
export function wheelChance(store: SessionStore, over: Note, steps: number): void {
  wheel(store, PROFILES.chance, over, 5 * steps);
}

function wheel(store: SessionStore, value: NoteValue, over: Note, by: number): void {
  const group = `wheel-${value.label}-${over.id}`;
  changeValues(store, value, { how: "shift", by }, { group });
}
