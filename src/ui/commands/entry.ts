import { tapPitch } from "./notes";
import { nanoid } from "nanoid";
import {
  edits,
  grid,
  gridTicks,
  lineAt,
  makeNote,
  nearestLine,
  partOf,
  patternOf,
  patternTicks,
  pitchName,
  sortNotes,
  type Note,
  type Part,
} from "@/core";
import { place, type Session, type SessionStore } from "../session/store";
import type { Entry, EntryMode } from "../session/entry";

export const ENTRY_VALUES = [1, 2, 4, 8, 16, 32, 64, 128] as const;

/** Dynamics with their velocities (common practice). */
export const DYNAMICS: readonly [name: string, velocity: number][] = [
  ["ppp", 16],
  ["pp", 33],
  ["p", 49],
  ["mp", 64],
  ["mf", 80],
  ["f", 96],
  ["ff", 112],
  ["fff", 127],
];

export const entryTicks = ({ value, kind }: Pick<Entry, "value" | "kind">) =>
  gridTicks(grid(value, kind));

/** Begins step entry on the melodic track in hand; it goes on where the caret stands. */
export function startEntry(store: SessionStore, mode: EntryMode = "notes"): void {
  const state = store.getState();
  const track = state.project.tracks.find((t) => t.id === state.track);
  if (track?.kind !== "melody") {
    store.setState({ said: "Notes are entered on a melodic track: take one in hand first" });
    return;
  }
  if (state.entry) {
    setMode(store, mode);
    return;
  }
  const near = partOf(state.project, place(state)).notes.at(-1)?.pitch ?? state.caret.pitch;
  store.setState({
    entry: {
      mode,
      value: 8,
      kind: "straight",
      velocity: 80,
      low: Math.min(96, Math.max(24, Math.floor((near - 4) / 12) * 12)),
      insert: false,
      gather: false,
      snapTaps: true,
      open: null,
      steps: [],
    },
    selection: new Set(),
    said: "Step entry on",
  });
  setMode(store, mode);
}

/** Changes what the keys do; where pitches are to be given, the first tapped hit is taken in hand. */
export function setMode(store: SessionStore, mode: EntryMode): void {
  set(store, { mode, open: null });
  const first = mode === "pitches" ? tapped(store.getState())[0] : undefined;
  if (first) store.setState({ selection: new Set([first.id]) });
}

export function leaveEntry(store: SessionStore): void {
  store.setState({ entry: null, said: "Step entry off" });
}

export function set(store: SessionStore, change: Partial<Entry>): void {
  const { entry } = store.getState();
  if (entry) store.setState({ entry: { ...entry, ...change } });
}

/** Makes room for a step: moves what follows on, or takes away what begins in it. */
function roomFor(part: Part, tick: number, ticks: number, insert: boolean): readonly Note[] {
  if (insert) {
    return part.notes.map((note) =>
      note.start >= tick ? { ...note, start: note.start + ticks } : note,
    );
  }
  return part.notes
    .filter((note) => note.start < tick || note.start >= tick + ticks)
    .map((note) =>
      note.start < tick && note.start + note.length > tick
        ? { ...note, length: tick - note.start }
        : note,
    );
}

/** How far entry can go in the pattern in hand. */
const endOf = (state: Session) =>
  patternTicks(state.project, patternOf(state.project, state.pattern));

/** A key goes down: its note joins the step that is held, or begins one at the caret. */
export function press(store: SessionStore, pitch: number, velocity?: number): void {
  const state = store.getState();
  const { entry } = state;
  if (!entry || pitch < 0 || pitch > 127) return;
  const ticks = entryTicks(entry);
  const { tick } = entry.open ?? state.caret;
  if (tick >= endOf(state)) {
    store.setState({ said: "The pattern ends here: lengthen it to go on" });
    return;
  }
  const note = makeNote({
    id: nanoid(8),
    start: tick,
    length: ticks,
    pitch,
    velocity: velocity ?? entry.velocity,
  });
  const first = entry.open === null;
  const ids = [...(entry.open?.ids ?? []), note.id];
  // All notes of a step are undone together.
  const group = `entry-${ids[0]}`;
  state.edit(
    "Enter a step",
    (project) =>
      edits.changePart(project, place(state), (part) => {
        const kept = first ? roomFor(part, tick, ticks, entry.insert) : part.notes;
        const other = kept.filter((n) => n.start !== tick || n.pitch !== pitch || n.unpitched);
        const length = Math.min(endOf(state), Math.max(part.length, tick + ticks));
        return { ...part, length, notes: sortNotes([...other, note]) };
      }),
    group,
  );
  set(store, { open: { tick, ids } });
  store.setState({
    selection: new Set(ids),
    caret: { pitch, tick },
    said: `${pitchName(pitch, state.project.key)} entered`,
  });
}

/** All keys are up: the step is done and the caret goes on. */
export function settle(store: SessionStore): void {
  const { entry } = store.getState();
  if (!entry?.open) return;
  const { tick, ids } = entry.open;
  goOn(store, tick, ids);
}

/** Moves the caret past a step and remembers it. */
function goOn(store: SessionStore, tick: number, ids: string[]): void {
  const state = store.getState();
  const entry = state.entry!;
  const ticks = entryTicks(entry);
  const next = tick + ticks;
  set(store, { open: null, steps: [...entry.steps.slice(-255), { tick, ticks, ids }] });
  store.setState({ caret: { ...state.caret, tick: Math.min(next, endOf(state)) } });
}

/** A step without a note. */
export function rest(store: SessionStore): void {
  const state = store.getState();
  const { entry, caret } = state;
  if (!entry || caret.tick >= endOf(state)) return;
  const ticks = entryTicks(entry);
  state.edit("Enter a rest", (project) =>
    edits.changePart(project, place(state), (part) => {
      const notes = sortNotes(roomFor(part, caret.tick, ticks, entry.insert));
      return { ...part, notes };
    }),
  );
  goOn(store, caret.tick, []);
  store.setState({ selection: new Set(), said: "Rest" });
}

/** Holds the last step on through this one. */
export function tie(store: SessionStore): void {
  const state = store.getState();
  const { entry } = state;
  const last = entry?.steps.findLast((step) => step.ids.length > 0);
  if (!entry || !last || state.caret.tick >= endOf(state)) return;
  const ticks = entryTicks(entry);
  const ids = new Set(last.ids);
  const { tick } = state.caret;
  state.edit("Tie", (project) =>
    edits.changePart(project, place(state), (part) => {
      const longer = roomFor(part, tick, ticks, entry.insert).map((note) =>
        ids.has(note.id) ? { ...note, length: tick + ticks - note.start } : note,
      );
      return { ...part, notes: sortNotes(longer) };
    }),
  );
  goOn(store, tick, last.ids);
  store.setState({ said: "Tied" });
}

/** Takes the last step away and goes back to where it began. */
export function stepBack(store: SessionStore): void {
  const state = store.getState();
  const { entry } = state;
  if (!entry) return;
  const last = entry.steps[entry.steps.length - 1];
  if (!last) {
    const tick = Math.max(0, state.caret.tick - entryTicks(entry));
    store.setState({ caret: { ...state.caret, tick } });
    return;
  }
  const ids = new Set(last.ids);
  state.edit("Step back", (project) =>
    edits.changePart(project, place(state), (part) => {
      const notes = part.notes.flatMap((note) => {
        if (!ids.has(note.id)) return [note];
        // A tied note loses the step it was held through, another goes.
        return note.start < last.tick ? [{ ...note, length: last.tick - note.start }] : [];
      });
      const moved = entry.insert
        ? notes.map((n) => (n.start >= last.tick ? { ...n, start: n.start - last.ticks } : n))
        : notes;
      return { ...part, notes: sortNotes(moved) };
    }),
  );
  set(store, { open: null, steps: entry.steps.slice(0, -1) });
  store.setState({
    caret: { ...state.caret, tick: last.tick },
    selection: new Set(),
    said: "A step back",
  });
}

/** Moves the caret by steps of the value in hand. */
export function moveEntryCaret(store: SessionStore, steps: 1 | -1): void {
  const state = store.getState();
  const ticks = entryTicks(state.entry!);
  const tick = Math.min(endOf(state), Math.max(0, state.caret.tick + steps * ticks));
  // What is entered elsewhere begins a new run of steps.
  set(store, { open: null, steps: [] });
  store.setState({ caret: { ...state.caret, tick } });
}

/** A tap at a tick of the pattern: a hit without a pitch. Gives its id. */
export function tapAt(store: SessionStore, tick: number, velocity?: number): string | null {
  const state = store.getState();
  const { entry } = state;
  if (!entry) return null;
  const part = partOf(state.project, place(state));
  const cell = part.grid.kind === "off" ? 240 : gridTicks(part.grid);
  const inLoop = tick % part.length;
  const line = lineAt(part.grid, nearestLine(part.grid, inLoop));
  const start = Math.round(entry.snapTaps ? line % part.length : inLoop);
  const length = Math.max(1, Math.round(cell / 2));
  const note = makeNote({
    id: nanoid(8),
    start,
    length,
    pitch: tapPitch(state),
    velocity: velocity ?? entry.velocity,
  });
  state.edit("Tap", (p) =>
    edits.changePart(p, place(state), (now) => ({
      ...now,
      notes: sortNotes([
        ...now.notes.filter((n) => !n.unpitched || n.start !== start),
        { ...note, unpitched: true },
      ]),
    })),
  );
  store.setState({ selection: new Set([note.id]) });
  return note.id;
}

/** A tap ends: it is as long as it was held, to the grid if asked. */
export function endTap(store: SessionStore, id: string, tick: number): void {
  const state = store.getState();
  const part = partOf(state.project, place(state));
  const note = part.notes.find((n) => n.id === id);
  if (!note) return;
  const cell = part.grid.kind === "off" || !state.entry?.snapTaps ? 1 : gridTicks(part.grid);
  const inLoop = tick % part.length;
  const held = inLoop > note.start ? inLoop - note.start : inLoop + part.length - note.start;
  const length = Math.max(cell, Math.round(held / cell) * cell);
  state.edit("Tap", (p) =>
    edits.changeNotes(p, place(state), new Set([id]), (n) => ({
      ...n,
      length: Math.max(1, Math.min(part.length, length)),
    })),
  );
}

/** The tapped hits that still have no pitch, in order. */
export function tapped(state: Session): Note[] {
  if (!state.track) return [];
  return partOf(state.project, place(state)).notes.filter((note) => note.unpitched);
}

/** Gives the tapped hit in hand a pitch and takes the next one. */
export function givePitch(store: SessionStore, pitch: number): void {
  const state = store.getState();
  const open = tapped(state);
  const target = open.find((note) => state.selection.has(note.id)) ?? open[0];
  if (!target) {
    store.setState({ said: "Every note has a pitch: tap a rhythm first" });
    return;
  }
  state.edit("Give a pitch", (p) =>
    edits.changePart(p, place(state), (part) => ({
      ...part,
      notes: sortNotes(
        part.notes.map((note) => {
          if (note.id !== target.id) return note;
          const { unpitched: _, ...rest } = note;
          return { ...rest, pitch };
        }),
      ),
    })),
  );
  const rest = tapped(store.getState());
  const next = rest.find((note) => note.start >= target.start) ?? rest[0];
  store.setState({
    selection: new Set(next ? [next.id] : [target.id]),
    said: `${pitchName(pitch, state.project.key)}, ${rest.length} to go`,
  });
}
