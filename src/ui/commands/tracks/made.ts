import { type Note, trackOf } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { isMade } from "../../geometry/made";
import { currentPart, effectiveCurrent } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { writeChain } from "./chain";

const NONE: readonly Note[] = [];

/** What cards made of a part's notes, remembered with what is heard of it. */
const known = new WeakMap<readonly Note[], { of: readonly Note[]; made: readonly Note[] }>();

/** The notes of the current part that its cards made, in order; none while something else is heard in its place. */
export function madeNotes(state: Session): readonly Note[] {
  if (!state.track) return NONE;
  const { notes, chain } = currentPart(state);
  if (!chain.some(({ on }) => on) || state.preview || state.trial || state.hearingBefore)
    return NONE;
  const heard = effectiveCurrent(state).notes;
  let found = known.get(heard);
  if (found?.of !== notes) {
    found = { of: notes, made: heard.filter(({ id }) => isMade(notes, id)) };
    known.set(heard, found);
  }
  return found.made;
}

/** The selected notes that cards made. */
export const selectedMade = (state: Session): readonly Note[] =>
  state.selection.size === 0 ? [] : madeNotes(state).filter(({ id }) => state.selection.has(id));

/** By which cards, in words: “Fill”, or “the chain” where there are several. */
function makers(state: Session): string {
  const on = currentPart(state).chain.filter((step) => step.on);
  return on.length === 1 ? transformOf(on[0]!.transform).label : "the chain";
}

/** What is said of hits that cannot be changed before they are written. */
export function madeMessage(state: Session): string {
  const hit = trackOf(state.project, state.track).kind === "drums" ? "hit" : "note";
  return `Made by ${makers(state)}: write it to notes to change this ${hit}`;
}

/** Selects a note that a card made, and says what can be done with it. */
export function touchMade(store: SessionStore, note: Note): void {
  const state = store.getState();
  state.select([note.id], { touch: true });
  state.announce(madeMessage(state));
}

/** Writes the chain into the notes and selects what of the selection was made by it, as it is now. */
export function writeMade(store: SessionStore): void {
  const before = selectedMade(store.getState());
  writeChain(store);
  const state = store.getState();
  const places = new Set(before.map(({ start, pitch }) => `${start}:${pitch}`));
  const now = currentPart(state).notes.filter(({ start, pitch }) =>
    places.has(`${start}:${pitch}`),
  );
  state.select(
    now.map(({ id }) => id),
    { touch: true },
  );
}
