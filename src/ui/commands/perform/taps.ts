import * as edits from "@/core/edits";
import { gridTicks, lineAt, nearestLine, stepTicks } from "@/core/time";
import { pitchName } from "@/core/pitch";
import { type Note, changePart, makeNote, patternOf, sortNotes, tickInLoop } from "@/core/score";
import { nanoid } from "nanoid";
import { currentPart, currentPlace } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { tapPitch } from "../notes/notes";

/** Where in the current part's loop a tick since the pattern began to play lies. */
const inCurrentLoop = (state: Session, tick: number) =>
  tickInLoop(
    state.project,
    patternOf(state.project, state.pattern),
    tick,
    currentPart(state).length,
  );

/**
 * A tap at a tick since the pattern began to play: a hit of a pad, or one without a pitch. Gives its
 * id.
 */
export function tapAt(
  store: SessionStore,
  tick: number,
  velocity?: number,
  pad?: number,
): string | null {
  const state = store.getState();
  const { entry } = state;
  if (!entry) return null;
  const part = currentPart(state);
  const cell = stepTicks(part.grid);
  const inLoop = inCurrentLoop(state, tick);
  const gridLine = lineAt(part.grid, nearestLine(part.grid, inLoop));
  const start = Math.round(entry.snapTaps ? gridLine % part.length : inLoop);
  const note = makeNote({
    id: nanoid(8),
    start,
    length: Math.max(1, Math.round(cell / 2)),
    pitch: pad ?? tapPitch(state),
    velocity: velocity ?? entry.velocity,
  });
  const put = (notes: readonly Note[]) =>
    sortNotes(
      pad === undefined
        ? [
            ...notes.filter((note) => !note.unpitched || note.start !== start),
            { ...note, unpitched: true },
          ]
        : [...notes.filter((note) => note.pitch !== pad || note.start !== start), note],
    );
  state.edit(
    "Tap",
    (project) =>
      changePart(project, currentPlace(state), (now) => ({ ...now, notes: put(now.notes) })),
    { group: `tap-${note.id}`, selection: [note.id], touch: true },
  );
  return note.id;
}

/** A tap ends: it is as long as it was held, to the grid if asked. One step of the history with its start. */
export function endTap(store: SessionStore, id: string, tick: number): void {
  const state = store.getState();
  const part = currentPart(state);
  const note = part.notes.find((note) => note.id === id);
  if (!note) return;
  const cell = part.grid.kind === "off" || !state.entry?.snapTaps ? 1 : gridTicks(part.grid);
  const inLoop = inCurrentLoop(state, tick);
  const held = inLoop > note.start ? inLoop - note.start : inLoop + part.length - note.start;
  const length = Math.max(cell, Math.round(held / cell) * cell);
  const lengthened = (note: Note) => ({
    ...note,
    length: Math.max(1, Math.min(part.length, length)),
  });
  state.edit(
    "Tap",
    (project) => edits.changeNotes(project, currentPlace(state), new Set([id]), lengthened),
    {
      group: `tap-${id}`,
    },
  );
}

/** The tapped hits that still have no pitch, in order. */
export function tapped(state: Session): Note[] {
  return state.track ? currentPart(state).notes.filter((note) => note.unpitched) : [];
}

/** Gives the selected tapped hit a pitch and selects the next one. */
export function givePitch(store: SessionStore, pitch: number): void {
  const state = store.getState();
  const open = tapped(state);
  const target = open.find((note) => state.selection.has(note.id)) ?? open[0];
  if (!target) {
    state.announce("Every note has a pitch: tap a rhythm first");
    return;
  }
  const pitched = ({ unpitched: _, ...note }: Note) => ({ ...note, pitch });
  state.edit("Set pitch", (project) =>
    edits.changeNotes(project, currentPlace(state), new Set([target.id]), pitched),
  );
  const rest = tapped(store.getState());
  const next = rest.find((note) => note.start >= target.start) ?? rest[0] ?? target;
  state.select([next.id]);
  state.announce(`${pitchName(pitch, state.project.key)}, ${rest.length} to go`);
}
