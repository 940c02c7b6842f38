import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural, nth } from "@/core/base";
import { MAX_EARLY, driftOf, gridTicks, lineAt, msToTicks, nearestLine } from "@/core/time";
import { padName } from "@/core/pitch";
import { type Note, partOf, trackOf } from "@/core/score";
import { currentPart, currentPlace } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { ownNotes } from "../../geometry/made";
import { madeMessage, selectedMade } from "../tracks/made";
import { currentRow, noteAtCaret } from "./caret";
import {
  driftText,
  farthest,
  frontMoved,
  gridOfNote,
  louder,
  ownIds,
  pitchAllowed,
  pitchByDegrees,
  startAllowed,
  startByLines,
  touchedBy,
  velocityAllowed,
} from "./notes";
import { revealPitch } from "./rows";
import { scrollTo } from "./time";

/** Ids to work on: the selection, else the note at the caret. */
export function selectedIds(state: Session): Set<string> {
  if (state.selection.size > 0) return ownIds(state.selection);
  const note = noteAtCaret(state);
  return new Set(note ? [note.id] : []);
}

/** The notes to work on, in order of time. */
export function selectedNotes(state: Session): Note[] {
  const ids = selectedIds(state);
  return currentPart(state).notes.filter((note) => ids.has(note.id));
}

const NOTHING = "Nothing selected: put the caret on a note, or select some";

/** Whether there is nothing to work on, which is said: nothing selected, or only what cards made. */
function isNothing(state: Session, ids: ReadonlySet<string>): boolean {
  const own = ownNotes(currentPart(state).notes);
  if ([...ids].some((id) => own.has(id))) return false;
  state.announce(selectedMade(state).length > 0 ? madeMessage(state) : NOTHING);
  return true;
}

/**
 * Changes the selected notes, each by `change`, as one edit; says `said` of the first one as it is
 * then. Says so where nothing is selected.
 */
function changeSelected(
  store: SessionStore,
  label: string,
  group: string,
  change: (note: Note, state: Session) => Note,
  message?: (first: Note, state: Session) => string,
): void {
  const state = store.getState();
  const ids = selectedIds(state);
  if (isNothing(state, ids)) return;
  const at = currentPlace(state);
  state.edit(
    label,
    (project) => edits.changeNotes(project, at, ids, (note) => change(note, state)),
    (after) => {
      const first = message && partOf(after, at).notes.find((note) => ids.has(note.id));
      return first ? { group, message: message(first, state) } : { group };
    },
  );
  showSelected(store);
}

/** Brings into view what the first selected note was moved to: a row of a line, a time before the first bar. */
export function showSelected(store: SessionStore): void {
  const state = store.getState();
  const [first] = selectedNotes(state);
  const melody = trackOf(state.project, state.track).kind === "melody";
  if (!first || state.selection.size === 0) return;
  if (melody) revealPitch(store, first.pitch);
  // Before the first bar there is room that is scrolled to.
  if (first.start < 0) scrollTo(store, first.start);
}

/** Deletes the selected notes. */
export function deleteSelected(store: SessionStore): void {
  const state = store.getState();
  const ids = selectedIds(state);
  if (isNothing(state, ids)) return;
  const what = plural(
    ids.size,
    trackOf(state.project, state.track).kind === "drums" ? "hit" : "note",
  );
  const at = currentPlace(state);
  state.edit(`Delete ${what}`, (project) => edits.deleteNotes(project, at, ids), {
    selection: [],
    message: `${what} deleted`,
  });
}

/** Makes the selected notes louder or softer as one; the next new note takes over the first one's velocity. */
export function changeVelocity(store: SessionStore, by: number): void {
  const notes = selectedNotes(store.getState());
  const held = farthest(by, (step) => notes.every((note) => velocityAllowed(note.velocity + step)));
  changeSelected(
    store,
    "Velocity",
    "key-velocity",
    (note) => louder(note, held),
    (first, state) => {
      const row = currentRow(state);
      if (row) state.setTouched(touchedBy(first, row.grid));
      return held === 0 ? `${EDGE} of velocity` : `Velocity ${first.velocity}`;
    },
  );
}

export const EDGE = "Nothing moved: a selected note is at the end";

/**
 * Moves the selected notes by lines of their own grids, keeping their drift, and by degrees of the key.
 * They stop as one at the ends of the loop and of the range of pitches.
 */
export function moveSelected(store: SessionStore, lines: number, degrees: number): void {
  const state = store.getState();
  const notes = selectedNotes(state);
  const drums = trackOf(state.project, state.track).kind === "drums";
  const mayStart = startAllowed(state);
  const along = farthest(lines, (by) =>
    notes.every((note) => mayStart(note, startByLines(note, by, gridOfNote(state, note)))),
  );
  if (drums && degrees !== 0) {
    moveAcrossLanes(store, -degrees);
    return;
  }
  const up = drums
    ? 0
    : farthest(degrees, (by) =>
        notes.every((note) => pitchAllowed(pitchByDegrees(state.project, note.pitch, by))),
      );
  if (notes.length > 0 && along === 0 && up === 0) {
    state.announce(EDGE);
    return;
  }
  changeSelected(store, "Move", "key-move", (note) => ({
    ...note,
    start: along === 0 ? note.start : startByLines(note, along, gridOfNote(state, note)),
    pitch: up === 0 ? note.pitch : pitchByDegrees(state.project, note.pitch, up),
  }));
}

/** Moves the selected hits to the lanes below (above where negative), as one; the caret goes along. */
function moveAcrossLanes(store: SessionStore, lanes: number): void {
  const state = store.getState();
  const notes = selectedNotes(state);
  const pitches = trackOf(state.project, state.track).lanes.map((lane) => lane.pitch);
  const goal = (note: Note, by: number) => pitches[pitches.indexOf(note.pitch) + by];
  const known = notes.filter((note) => pitches.includes(note.pitch));
  const by = farthest(lanes, (count) => known.every((note) => goal(note, count) !== undefined));
  if (known.length === 0 || by === 0) {
    state.announce(
      known.length === 0 ? NOTHING : "Nothing moved: there is no lane beyond this one",
    );
    return;
  }
  const place = currentPlace(state);
  const ids = new Set(known.map((note) => note.id));
  const lane = goal(nth(known, 0), by)!;
  state.edit(
    "Move to another lane",
    (project) =>
      edits.changeNotes(project, place, ids, (note) => ({
        ...note,
        pitch: goal(note, by) ?? note.pitch,
      })),
    {
      group: "key-lanes",
      selection: ids,
      touch: state.onlyTouched,
      caret: { pitch: lane },
      message: `${plural(known.length, "hit")} moved to ${padName(lane)}`,
    },
  );
}

/** Moves by small amounts, for feel, and says where the first one stands now; they stop as one. */
export function nudgeSelected(store: SessionStore, by: { ticks: number } | { ms: number }): void {
  const state = store.getState();
  const { tempo } = state.project;
  const wanted = "ticks" in by ? by.ticks : Math.round(msToTicks(by.ms, tempo)) || Math.sign(by.ms);
  const mayStart = startAllowed(state);
  const notes = selectedNotes(state);
  const ticks = farthest(wanted, (step) =>
    notes.every((note) => mayStart(note, note.start + step)),
  );
  changeSelected(
    store,
    "Nudge",
    "key-nudge",
    (note) => ({ ...note, start: note.start + ticks }),
    (first) => driftText(driftOf(gridOfNote(state, first), first.start), tempo),
  );
}

/** Moves the selected notes by ticks, as one and no farther than their loops; typed in the foot. */
export function shiftStarts(store: SessionStore, ticks: number): void {
  const state = store.getState();
  const notes = selectedNotes(state);
  const mayStart = startAllowed(state);
  const held = farthest(ticks, (by) => notes.every((note) => mayStart(note, note.start + by)));
  if (held === 0 && ticks !== 0) state.announce(EDGE);
  else {
    const later = (note: Note) => ({ ...note, start: note.start + held });
    changeSelected(store, "Start", "foot-Start", later);
  }
}

/** Moves the pitches of the selected notes by semitones, as one and no farther than MIDI's range. */
export function shiftPitches(store: SessionStore, semitones: number): void {
  const state = store.getState();
  const notes = selectedNotes(state);
  const held = farthest(semitones, (by) => notes.every((note) => pitchAllowed(note.pitch + by)));
  if (held === 0 && semitones !== 0) state.announce(EDGE);
  else {
    const higher = (note: Note) => ({ ...note, pitch: note.pitch + held });
    changeSelected(store, "Pitch", "foot-Pitch", higher);
  }
}

/** Moves to the previous or next line, whatever the drift was. */
export function moveToLine(store: SessionStore, lines: 1 | -1): void {
  changeSelected(store, "Move to line", "key-line", (note, state) => {
    const grid = gridOfNote(state, note);
    const gridLine = nearestLine(grid, note.start);
    const drift = note.start - lineAt(grid, gridLine);
    // From beside a line, the first step goes to that line where it lies the right way.
    const to = drift !== 0 && Math.sign(drift) !== lines ? gridLine : gridLine + lines;
    const start = Math.max(-MAX_EARLY, lineAt(grid, to));
    return startAllowed(state)(note, start) ? { ...note, start } : note;
  });
}

/** Moves the ends of the selected notes by grid steps. */
export function lengthenSelected(store: SessionStore, steps: number): void {
  changeSelected(store, "Length", "key-length", (note, state) => {
    const cell = gridTicks(gridOfNote(state, note));
    return { ...note, length: Math.max(1, note.length + steps * cell) };
  });
}

/** Moves the front ends of the selected notes by grid steps; their ends stay. */
export function lengthenFront(store: SessionStore, steps: number): void {
  changeSelected(store, "Length", "key-front", (note, state) =>
    frontMoved(note, -steps * gridTicks(gridOfNote(state, note))),
  );
}

/** Joins the selected notes: of one pitch all, else what touches and is one chord. */
export function joinSelected(store: SessionStore): void {
  const state = store.getState();
  const ids = selectedIds(state);
  let kept: string[] = [];
  const done = state.edit(
    "Join notes",
    (project) => {
      const done = edits.joinNotes(project, currentPlace(state), ids);
      kept = done.ids;
      return done.project;
    },
    () => ({ selection: kept, message: `${plural(ids.size, "note")} joined into ${kept.length}` }),
  );
  if (!done)
    state.announce("Nothing to join: select notes of one pitch, or of one chord that touch");
}

/** Cuts notes at a tick of their part; both pieces are selected then. */
export function cutAt(store: SessionStore, ids: ReadonlySet<string>, tick: number): void {
  const state = store.getState();
  let fresh: string[] = [];
  state.edit(
    "Cut notes",
    (project) => {
      const done = edits.cutNotes(project, currentPlace(state), { ids, tick }, () => nanoid(8));
      fresh = done.fresh;
      return done.project;
    },
    () =>
      fresh.length === 0
        ? { message: "No note crosses this place: none cut" }
        : { selection: [...ids, ...fresh], message: `${plural(fresh.length, "note")} cut in two` },
  );
}

/** Cuts at the caret: the selected notes, else all that cross it. */
export function cutAtCaret(store: SessionStore): void {
  const state = store.getState();
  const { notes, length } = currentPart(state);
  const tick = state.caret.tick % length;
  const own = ownIds(state.selection);
  const crossing = notes.filter((note) => note.start < tick && note.start + note.length > tick);
  cutAt(store, own.size > 0 ? own : new Set(crossing.map((note) => note.id)), tick);
}

/** Marks selected notes to slide into the next, or takes the marks off when all have one. */
export function toggleSlide(store: SessionStore): void {
  const state = store.getState();
  const own = selectedNotes(state);
  const slide = !own.every((note) => note.slide);
  const ids = new Set(own.map((note) => note.id));
  const message = `${plural(own.length, "note")} ${slide ? "set to slide into the next" : "set not to slide"}`;
  state.edit(
    slide ? "Slide" : "No slide",
    (project) =>
      edits.changeNotes(project, currentPlace(state), ids, (note) => ({ ...note, slide })),
    { message },
  );
}

/** Velocities in a line from the first to the last selected hit, those between them included. */
export function rampBetween(store: SessionStore): void {
  const state = store.getState();
  const ends = selectedNotes(state);
  const [first, last] = [ends[0], ends[ends.length - 1]];
  if (!first || !last || first.start === last.start) {
    state.announce("Select two hits or more: the ramp goes from the first to the last");
    return;
  }
  const rows = new Set(ends.map((note) => note.pitch));
  const inside = currentPart(state).notes.filter(
    (note) => rows.has(note.pitch) && note.start >= first.start && note.start <= last.start,
  );
  const all = new Set(inside.map((note) => note.id));
  const ramp = (note: Note) => {
    const share = (note.start - first.start) / (last.start - first.start);
    const velocity = Math.round(first.velocity + share * (last.velocity - first.velocity));
    return { ...note, velocity };
  };
  state.edit(
    "Velocity ramp",
    (project) => edits.changeNotes(project, currentPlace(state), all, ramp),
    {
      selection: all,
      message: `${plural(inside.length, "hit")} from velocity ${first.velocity} to ${last.velocity}`,
    },
  );
}
