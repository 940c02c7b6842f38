import { type Ticks, plural } from "@/core/base";
import { barTicks, stepTicks } from "@/core/time";
import { type Note, sortNotes, trackOf } from "@/core/score";
import type { Idea } from "@/core/generate";
import { currentMetre, currentPart } from "../../state/current";
import type { Settings } from "../../state/ideas";
import type { Session } from "../../state/store";

/** Those of the current part's notes that are selected, or that alone were asked anew before. */
export function toChoose(
  state: Pick<Session, "selection" | "ideas"> & Parameters<typeof currentPart>[0],
): string[] {
  const wanted = state.selection.size > 0 ? state.selection : new Set(state.ideas.keep.chosen);
  // Asked at every change of the session: not all notes for nothing.
  if (wanted.size === 0) return [];
  return currentPart(state)
    .notes.filter(({ id }) => wanted.has(id))
    .map(({ id }) => id);
}

/**
 * The notes that alone are asked anew, where all others are kept: those selected, or that were when it was last asked;
 * null where that is not wished. Throws an Error where none of them is there.
 */
export function chosenIds(state: Session): string[] | null {
  if (!state.ideas.keep.unselected || currentPart(state).notes.length === 0) return null;
  const ids = toChoose(state);
  if (ids.length === 0)
    throw new Error(
      "No note is selected to be asked anew: select some, or do not keep all but the selected",
    );
  return ids;
}

/** The lanes of a kit that ideas are asked for: all, the current one, or those of the notes that alone are asked anew. */
export function lanesAsked(state: Session, { allLanes }: Settings): ReadonlySet<number> {
  const chosen = new Set(chosenIds(state));
  const notes = currentPart(state).notes.filter(({ id }) => chosen.has(id));
  if (notes.length > 0) return new Set(notes.map(({ pitch }) => pitch));
  const { lanes } = trackOf(state.project, state.track);
  return new Set(allLanes ? lanes.map((lane) => lane.pitch) : [state.caret.pitch]);
}

/** The notes of the part on some lanes. */
export const onLanes = (state: Session, lanes: ReadonlySet<number>): Note[] =>
  currentPart(state).notes.filter((note) => lanes.has(note.pitch));

/**
 * What makes of a beat one with what is kept of the part, on the lanes that were asked for: its kept bars, and where
 * only some hits are asked anew, all others. New ones come then from the first to the last of those in each lane.
 */
export function keeper(state: Session, lanes: ReadonlySet<number>): (idea: Idea) => Idea {
  const { bars } = state.ideas.keep;
  const ids = chosenIds(state);
  if (bars.length === 0 && !ids) return (idea) => idea;
  const bar = barTicks(currentMetre(state));
  const inKept = ({ start }: Note) => bars.includes(Math.floor(Math.max(0, start) / bar));
  const part = onLanes(state, lanes);
  const chosen = new Set(ids);
  const own = part.filter((note) => inKept(note) || (ids !== null && !chosen.has(note.id)));
  const spans =
    ids &&
    spansOf(
      state,
      part.filter((note) => chosen.has(note.id)),
    );
  const taken = (note: Note) =>
    own.some(({ pitch, start }) => pitch === note.pitch && Math.abs(start - note.start) < NEAR);
  const comes = (note: Note) => {
    if (inKept(note) || taken(note)) return false;
    if (!spans) return true;
    const span = spans.get(note.pitch);
    return span !== undefined && note.start >= span.from && note.start < span.to;
  };
  return (idea) => {
    const fresh = idea.notes.filter(comes);
    const notes = [...sortNotes([...fresh, ...own])];
    if (!ids) return { ...idea, notes };
    return {
      ...idea,
      notes,
      description: `${plural(fresh.length, "hit")} anew, ${own.length} kept`,
    };
  };
}

/** Ideas that end with a loop which ends within a bar, as far as they have notes before that. */
export function cutAt(ideas: readonly Idea[], loop: Ticks): Idea[] {
  const cut = ideas.map((idea) => {
    const before = idea.notes.filter(({ start }) => start < loop);
    const ended = ({ length, start }: Note) => Math.min(length, loop - start);
    const description =
      idea.description && `first ${plural(before.length, "note")} of: ${idea.description}`;
    const notes = before.map((note) => ({ ...note, length: ended(note) }));
    return { ...idea, notes, ...(description && { description }) };
  });
  return cut.filter(({ notes }) => notes.length > 0);
}

/** Hits of a lane that are nearer than this are one. */
const NEAR: Ticks = 60;

/** From the first to the end of the step of the last of some hits, by lane. */
function spansOf(
  state: Session,
  hits: readonly Note[],
): ReadonlyMap<number, { from: Ticks; to: Ticks }> {
  const track = trackOf(state.project, state.track);
  const spans = new Map<number, { from: Ticks; to: Ticks }>();
  for (const { pitch, start } of hits) {
    const lane = track.lanes.find((one) => one.pitch === pitch);
    const step = stepTicks(lane?.grid ?? currentPart(state).grid);
    const { from, to } = spans.get(pitch) ?? { from: start, to: start };
    // A hit that is a little early begins its step all the same.
    spans.set(pitch, { from: Math.min(from, start), to: Math.max(to, start + step - NEAR) });
  }
  return spans;
}
