import { clamp, must } from "@/core/base";
import * as edits from "@/core/edits";
import { grid, gridTicks } from "@/core/time";
import { padName, pitchName } from "@/core/pitch";
import { type Note, type Part, changePart, makeNote, sortNotes, trackOf } from "@/core/score";
import { nanoid } from "nanoid";
import { currentPart, currentPlace, currentTicks } from "../../state/current";
import type { Entry, EntryMode } from "../../state/entry";
import type { Outcome } from "../../state/editing";
import type { Session, SessionStore } from "../../state/store";
import { currentRow } from "../notes/current-row";
import { withGrowthMessage } from "../notes/past-loop";
import { tapped } from "./taps";

/** Note values of a step, as parts of a whole note. */
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

/** Length of a step in ticks. */
export const entryTicks = ({ value, kind }: Pick<Entry, "value" | "kind">) =>
  gridTicks(grid(value, kind));

/** Opens the playing surface on the current track; steps go on where the caret stands. */
export function startEntry(store: SessionStore, mode: EntryMode = "notes"): void {
  const state = store.getState();
  if (!state.track) return;
  if (state.entry) {
    setMode(store, mode);
    return;
  }
  const near = currentPart(state).notes.at(-1)?.pitch ?? state.caret.pitch;
  state.beginEntry({
    ...state.entryMemory,
    ...stepOfRow(state),
    mode,
    low: clamp(Math.floor((near - 4) / 12) * 12, 24, 96),
    gather: false,
    open: null,
    steps: [],
  });
  if (mode !== "play") state.select([]);
  state.announce(mode === "play" ? "Playing by keys" : "Step entry on");
  setMode(store, mode);
}

/** The step of a row in triplets or dotted notes, in which the caret stands; else it is as it was left. */
function stepOfRow(state: Session): Partial<Pick<Entry, "value" | "kind">> {
  const row = currentRow(state);
  if (!row || row.grid.kind === "off" || row.grid.kind === "straight") return {};
  return { value: row.grid.value, kind: row.grid.kind };
}

/** Undoes an edit; steps that were entered and are gone now are taken back, the caret with them. */
export function undoEdit(store: SessionStore): void {
  store.getState().undo();
  const state = store.getState();
  const { entry } = state;
  if (!entry || entry.mode === "play" || !state.track) return;
  const there = new Set(currentPart(state).notes.map(({ id }) => id));
  const isGone = ({ ids }: { ids: readonly string[] }) =>
    ids.length > 0 && !ids.some((id) => there.has(id));
  const kept = [...entry.steps];
  let back = entry.open && isGone(entry.open) ? entry.open.tick : null;
  for (let last = kept.at(-1); last && isGone(last); last = kept.at(-1)) {
    back = last.tick;
    kept.pop();
  }
  if (back === null) return;
  state.setEntry({ open: null, steps: kept });
  state.setCaret({ tick: back });
}

/** Whether the keys are pads: the current track is a kit. */
export const onKit = ({ project, track }: Pick<Session, "project" | "track">): boolean =>
  track !== "" && trackOf(project, track).kind === "drums";

/** Changes what the keys do; where pitches are to be set, the first tapped hit is selected. */
export function setMode(store: SessionStore, mode: EntryMode): void {
  const state = store.getState();
  // Hits of a kit have their pads: there is nothing to give pitches to.
  const next = mode === "pitches" && onKit(state) ? "notes" : mode;
  state.setEntry({ mode: next, open: null });
  const first = next === "pitches" ? tapped(store.getState())[0] : undefined;
  if (first) state.select([first.id]);
}

/** Puts the caret of step entry where the sheet was clicked; what is entered there is a new run. */
export function placeEntry(store: SessionStore, caret: { pitch: number; tick: number }): void {
  const state = store.getState();
  state.setEntry({ open: null, steps: [] });
  state.select([], { caret });
}

/** Ends step entry. */
export function leaveEntry(store: SessionStore): void {
  const { entry, endEntry, announce } = store.getState();
  endEntry();
  announce(entry?.mode === "play" ? "Playing by keys ended" : "Step entry off");
}

/**
 * Makes room for a step: moves what follows on, or deletes what begins in it. On a kit only what the pad
 * itself has there gives way, and nothing to a rest.
 */
function roomFor(
  part: Part,
  tick: number,
  ticks: number,
  { insert, pad }: { insert: boolean; pad?: number | null },
): readonly Note[] {
  if (!insert && pad !== undefined) {
    const inStep = (note: Note) => note.start >= tick && note.start < tick + ticks;
    return part.notes.filter((note) => note.pitch !== pad || !inStep(note));
  }
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

/** Changes the notes of the current part as one edit; with `makeRoom` its loop grows to hold them. */
const changeLine = (
  state: Session,
  label: string,
  change: (part: Part) => readonly Note[],
  outcome: Outcome = {},
  makeRoom = false,
) => {
  const place = currentPlace(state);
  let growth = "";
  state.edit(
    label,
    (project) => {
      const changed = changePart(project, place, (part) => ({
        ...part,
        notes: sortNotes(change(part)),
      }));
      if (!makeRoom) return changed;
      const roomy = edits.growLoops(changed, place, () => nanoid(8));
      growth = roomy.message;
      return roomy.project;
    },
    () =>
      outcome.message
        ? { ...outcome, message: withGrowthMessage(outcome.message, growth) }
        : outcome,
  );
};

/** A key goes down: its note joins the step that is held, or begins one at the caret. */
export function press(store: SessionStore, pitch: number, velocity?: number): void {
  const state = store.getState();
  const { entry } = state;
  if (!entry || pitch < 0 || pitch > 127) return;
  const ticks = entryTicks(entry);
  const { tick } = entry.open ?? state.caret;
  if (tick >= currentTicks(state)) {
    state.announce("The pattern ends here: lengthen it to go on");
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
  const place = currentPlace(state);
  const kit = onKit(state);
  const name = kit ? padName(pitch) : pitchName(pitch, state.project.key);
  let growth = "";
  state.edit(
    "Enter step",
    (project) => {
      const entered = changePart(project, place, (part) => {
        const kept = first
          ? roomFor(part, tick, ticks, { insert: entry.insert, ...(kit && { pad: pitch }) })
          : part.notes;
        const other = kept.filter(
          (note) => note.start !== tick || note.pitch !== pitch || note.unpitched,
        );
        return { ...part, notes: sortNotes([...other, note]) };
      });
      // What lies past the loop's end would not be heard: the loop grows to hold it.
      const roomy = edits.growLoops(entered, place, () => nanoid(8));
      growth = roomy.message;
      return roomy.project;
    },
    () => ({
      // All notes of a step are undone together.
      group: `entry-${ids[0]}`,
      selection: ids,
      touch: true,
      caret: { pitch, tick },
      message: withGrowthMessage(`${name} entered`, growth),
    }),
  );
  state.setEntry({ open: { tick, ids } });
}

/** All keys are up: the step is done and the caret goes on. */
export function settle(store: SessionStore): void {
  const { entry } = store.getState();
  if (entry?.open) goOn(store, entry.open.tick, entry.open.ids);
}

/** Moves the keys by octaves, as far as there are pitches. */
export function moveKeys(store: SessionStore, octaves: 1 | -1): void {
  const { entry, setEntry } = store.getState();
  if (entry) setEntry({ low: clamp(entry.low + 12 * octaves, 0, 108) });
}

/** Makes the steps triplets or dotted, or straight again. */
export function toggleKind(store: SessionStore, kind: "triplet" | "dotted"): void {
  const { entry, setEntry } = store.getState();
  if (entry) setEntry({ kind: entry.kind === kind ? "straight" : kind });
}

/** Begins to build a chord of clicked keys, or ends that: what was pressed so far is a step. */
export function leaveChord(store: SessionStore): void {
  settle(store);
  const { entry, setEntry } = store.getState();
  if (entry) setEntry({ gather: !entry.gather });
}

/** Most steps that can be taken back one by one. */
const REMEMBERED_STEPS = 256;

/** Moves the caret past a step and remembers it. */
function goOn(store: SessionStore, tick: number, ids: string[]): void {
  const state = store.getState();
  const entry = must(state.entry, "step entry");
  const ticks = entryTicks(entry);
  const before = entry.steps.slice(1 - REMEMBERED_STEPS);
  state.setEntry({ open: null, steps: [...before, { tick, ticks, ids }] });
  state.setCaret({ tick: Math.min(tick + ticks, currentTicks(state)) });
}

/** A step without a note. */
export function rest(store: SessionStore): void {
  const state = store.getState();
  const { entry, caret } = state;
  if (!entry || caret.tick >= currentTicks(state)) return;
  const ticks = entryTicks(entry);
  changeLine(
    state,
    "Enter rest",
    (part) =>
      roomFor(part, caret.tick, ticks, {
        insert: entry.insert,
        ...(onKit(state) && { pad: null }),
      }),
    { selection: [], message: "Rest" },
    entry.insert,
  );
  goOn(store, caret.tick, []);
}

/** Holds the last step on through this one. */
export function tie(store: SessionStore): void {
  const state = store.getState();
  const { entry } = state;
  const last = entry?.steps.at(-1);
  if (!entry || !last || state.caret.tick >= currentTicks(state)) return;
  if (last.ids.length === 0) {
    // What is held on is a rest.
    rest(store);
    return;
  }
  const ticks = entryTicks(entry);
  const ids = new Set(last.ids);
  const { tick } = state.caret;
  const longer = (note: Note) =>
    ids.has(note.id) ? { ...note, length: tick + ticks - note.start } : note;
  changeLine(
    state,
    "Tie",
    (part) =>
      roomFor(part, tick, ticks, { insert: entry.insert, ...(onKit(state) && { pad: null }) }).map(
        longer,
      ),
    {
      message: "Tied",
    },
  );
  goOn(store, tick, last.ids);
}

/** Deletes the last step and goes back to where it began. */
export function stepBack(store: SessionStore): void {
  const state = store.getState();
  const { entry } = state;
  if (!entry) return;
  if (entry.open) {
    backInChord(state, entry, entry.open);
    return;
  }
  const last = entry.steps[entry.steps.length - 1];
  if (!last) {
    state.setCaret({ tick: Math.max(0, state.caret.tick - entryTicks(entry)) });
    return;
  }
  const ids = new Set(last.ids);
  const without = (part: Part) => {
    const notes = part.notes.flatMap((note) => {
      if (!ids.has(note.id)) return [note];
      // A tied note loses the step it was held through, another goes.
      return note.start < last.tick ? [{ ...note, length: last.tick - note.start }] : [];
    });
    return entry.insert
      ? notes.map((note) =>
          note.start >= last.tick ? { ...note, start: note.start - last.ticks } : note,
        )
      : notes;
  };
  changeLine(state, "Step back", without, {
    caret: { tick: last.tick },
    selection: [],
    message: "Step deleted",
  });
  state.setEntry({ open: null, steps: entry.steps.slice(0, -1) });
}

/** Takes the last key of a chord that is being built. */
function backInChord(state: Session, entry: Entry, open: NonNullable<Entry["open"]>): void {
  const ids = open.ids.slice(0, -1);
  const gone = new Set(open.ids.slice(-1));
  state.edit("Step back", (project) => edits.deleteNotes(project, currentPlace(state), gone), {
    selection: ids,
    touch: true,
    message: "Last key of the chord deleted",
  });
  state.setEntry({ open: ids.length > 0 ? { ...open, ids } : null, steps: entry.steps });
}

/** Moves the caret by steps of the chosen value. */
export function moveEntryCaret(store: SessionStore, steps: 1 | -1): void {
  const state = store.getState();
  const ticks = entryTicks(must(state.entry, "step entry"));
  // What is entered elsewhere begins a new run of steps.
  state.setEntry({ open: null, steps: [] });
  state.setCaret({
    tick: clamp(state.caret.tick + steps * ticks, 0, currentTicks(state)),
  });
}
