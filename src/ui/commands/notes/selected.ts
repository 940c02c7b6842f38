import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { mustGet, plural, nth } from "@/core/base";
import { MAX_EARLY, driftOf, gridTicks, lineAt, msToTicks, nearestLine } from "@/core/time";
import { padName } from "@/core/pitch";
import { type Note, type PartAddress, partOf, sortNotes, trackOf } from "@/core/score";
import { currentPart, currentPlace } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { madeMessage, selectedMade } from "../tracks/made";
import { currentRow, noteAtCaret } from "./current-row";
import {
  type PartNotes,
  changeEach,
  countOf,
  deleteAll,
  everyNote,
  notesByPart,
  countText,
  selectionOf,
  startBySteps,
} from "./by-part";
import {
  driftText,
  farthest,
  frontMoved,
  louder,
  ownIds,
  pitchAllowed,
  pitchByDegrees,
  touchedBy,
  velocityAllowed,
} from "./notes";
import { revealPitch } from "./rows";
import { scrollTo } from "./time";

/** Ids of the current part to work on: the selection, else the note at the caret. */
export function selectedIds(state: Session): Set<string> {
  if (state.selection.size > 0 || state.beside.size > 0) return ownIds(state.selection);
  const note = noteAtCaret(state);
  return new Set(note ? [note.id] : []);
}

/** The notes of the current part to work on, in order of time. */
export function selectedNotes(state: Session): Note[] {
  const ids = selectedIds(state);
  return currentPart(state).notes.filter((note) => ids.has(note.id));
}

const NOTHING = "Nothing selected: put the cursor on a note, or select some";

/** Whether there is nothing to work on, which is said: nothing selected, or only what cards made. */
function isNothing(state: Session, held: readonly PartNotes[]): boolean {
  if (held.length > 0) return false;
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
  change: (note: Note, of: PartNotes) => Note,
  message?: (first: Note, of: PartNotes, state: Session) => string,
): void {
  const state = store.getState();
  const held = notesByPart(state);
  if (isNothing(state, held)) return;
  const of = nth(held, 0);
  state.edit(
    label,
    (project) => changeEach(project, held, change),
    (after) => {
      const first = message && partOf(after, of.at).notes.find((note) => of.ids.has(note.id));
      return first ? { group, message: message(first, of, state) } : { group };
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
  const held = notesByPart(state);
  if (isNothing(state, held)) return;
  const what = countText(held);
  state.edit(`Delete ${what}`, (project) => deleteAll(project, held), {
    selection: [],
    message: `${what} deleted`,
  });
}

/** Makes the selected notes louder or softer as one; the next new note takes over the first one's velocity. */
export function changeVelocity(store: SessionStore, by: number): void {
  const all = notesByPart(store.getState());
  const held = farthest(by, (step) =>
    everyNote(all, (note) => velocityAllowed(note.velocity + step)),
  );
  changeSelected(
    store,
    "Velocity",
    "key-velocity",
    (note) => louder(note, held),
    (first, _, state) => {
      const row = currentRow(state);
      if (row) state.setTouched(touchedBy(first, row.grid));
      return held === 0 ? `${EDGE} of velocity` : `Velocity ${first.velocity}`;
    },
  );
}

export const EDGE = "Nothing moved: a selected note is at the end";

/**
 * Moves the selected notes by lines of their own grids, with several tracks by steps of the current one, keeping their
 * drift, and by degrees of the key. They stop as one at the ends of the loop and of the range of pitches.
 */
export function moveSelected(store: SessionStore, lines: number, degrees: number): void {
  const state = store.getState();
  const held = notesByPart(state);
  const together = held.length > 1 ? (currentRow(state)?.grid ?? null) : null;
  const startOf = (note: Note, by: number, of: PartNotes) => startBySteps(note, by, of, together);
  const along = farthest(lines, (by) =>
    everyNote(held, (note, of) => of.mayStart(note, startOf(note, by, of))),
  );
  const melodic = held.filter(({ drums }) => !drums);
  const onKit = trackOf(state.project, state.track).kind === "drums";
  if (degrees !== 0 && (held.length === 0 ? onKit : melodic.length === 0)) {
    moveAcrossLanes(store, -degrees);
    return;
  }
  const up = farthest(degrees, (by) =>
    everyNote(melodic, (note) => pitchAllowed(pitchByDegrees(state.project, note.pitch, by))),
  );
  if (held.length > 0 && along === 0 && up === 0) {
    state.announce(EDGE);
    return;
  }
  changeSelected(store, "Move", "key-move", (note, of) => ({
    ...note,
    start: along === 0 ? note.start : startOf(note, along, of),
    pitch: up === 0 || of.drums ? note.pitch : pitchByDegrees(state.project, note.pitch, up),
  }));
  if (up !== 0) tellKept(store, held);
}

/** Says that hits stay in their lanes where pitches move. */
function tellKept(store: SessionStore, held: readonly PartNotes[]): void {
  const hits = held.filter(({ drums }) => drums);
  if (hits.length === 0) return;
  store.getState().announce(`Pitches moved; ${plural(countOf(hits), "hit")} kept in their lanes`);
}

/** Moves the selected hits to the lanes below (above where negative), as one; the caret goes along. */
function moveAcrossLanes(store: SessionStore, lanes: number): void {
  const state = store.getState();
  const lanesOf = new Map(
    state.project.tracks.map(({ id, lanes }) => [id, lanes.map(({ pitch }) => pitch)]),
  );
  const goal = (note: Note, { at }: PartNotes, by: number) => {
    const pitches = mustGet(lanesOf, at.track);
    return pitches[pitches.indexOf(note.pitch) + by];
  };
  const known = notesByPart(state).flatMap((of): PartNotes[] => {
    const pitches = mustGet(lanesOf, of.at.track);
    const notes = of.notes.filter(({ pitch }) => pitches.includes(pitch));
    return notes.length > 0 ? [{ ...of, notes, ids: new Set(notes.map(({ id }) => id)) }] : [];
  });
  const by = farthest(lanes, (count) =>
    everyNote(known, (note, of) => goal(note, of, count) !== undefined),
  );
  const [of] = known;
  if (!of || by === 0) {
    state.announce(of ? "Nothing moved: there is no lane beyond this one" : NOTHING);
    return;
  }
  const lane = goal(nth(of.notes, 0), of, by)!;
  const here = of.at.track === state.track;
  state.edit(
    "Move to another lane",
    (project) =>
      changeEach(project, known, (note, of) => ({
        ...note,
        pitch: goal(note, of, by) ?? note.pitch,
      })),
    {
      group: "key-lanes",
      ...selectionOf(state, known),
      touch: state.onlyTouched,
      ...(here && { caret: { pitch: lane } }),
      message: `${plural(countOf(known), "hit")} moved to ${padName(lane)}`,
    },
  );
}

/** Moves by small amounts, for feel, and says where the first one stands now; they stop as one. */
export function nudgeSelected(store: SessionStore, by: { ticks: number } | { ms: number }): void {
  const state = store.getState();
  const { tempo } = state.project;
  const wanted = "ticks" in by ? by.ticks : Math.round(msToTicks(by.ms, tempo)) || Math.sign(by.ms);
  const held = notesByPart(state);
  const ticks = farthest(wanted, (step) =>
    everyNote(held, (note, { mayStart }) => mayStart(note, note.start + step)),
  );
  changeSelected(
    store,
    "Nudge",
    "key-nudge",
    (note) => ({ ...note, start: note.start + ticks }),
    (first, { gridOf }) => driftText(driftOf(gridOf(first), first.start), tempo),
  );
}

/** Moves the selected notes by ticks, as one and no farther than their loops; typed in the foot. */
export function shiftStarts(store: SessionStore, ticks: number): void {
  const state = store.getState();
  const all = notesByPart(state);
  const held = farthest(ticks, (by) =>
    everyNote(all, (note, { mayStart }) => mayStart(note, note.start + by)),
  );
  if (held === 0 && ticks !== 0) state.announce(EDGE);
  else {
    const later = (note: Note) => ({ ...note, start: note.start + held });
    changeSelected(store, "Start", "foot-Start", later);
  }
}

/** Moves the pitches of the selected notes by semitones, as one and no farther than MIDI's range. */
export function shiftPitches(store: SessionStore, semitones: number): void {
  const state = store.getState();
  const all = notesByPart(state);
  const melodic = all.filter(({ drums }) => !drums);
  const held = farthest(semitones, (by) =>
    everyNote(melodic, (note) => pitchAllowed(note.pitch + by)),
  );
  if (held === 0 && semitones !== 0) state.announce(EDGE);
  else {
    const higher = (note: Note, { drums }: PartNotes) =>
      drums ? note : { ...note, pitch: note.pitch + held };
    changeSelected(store, "Pitch", "foot-Pitch", higher);
    if (held !== 0) tellKept(store, all);
  }
}

/** Moves to the previous or next line, whatever the drift was. */
export function moveToLine(store: SessionStore, lines: 1 | -1): void {
  changeSelected(store, "Move to line", "key-line", (note, { gridOf, mayStart }) => {
    const grid = gridOf(note);
    const gridLine = nearestLine(grid, note.start);
    const drift = note.start - lineAt(grid, gridLine);
    // From beside a line, the first step goes to that line where it lies the right way.
    const to = drift !== 0 && Math.sign(drift) !== lines ? gridLine : gridLine + lines;
    const start = Math.max(-MAX_EARLY, lineAt(grid, to));
    return mayStart(note, start) ? { ...note, start } : note;
  });
}

/** Moves the ends of the selected notes by grid steps. */
export function lengthenSelected(store: SessionStore, steps: number): void {
  changeSelected(store, "Length", "key-length", (note, { gridOf }) => {
    const cell = gridTicks(gridOf(note));
    return { ...note, length: Math.max(1, note.length + steps * cell) };
  });
}

/** Moves the front ends of the selected notes by grid steps; their ends stay. */
export function lengthenFront(store: SessionStore, steps: number): void {
  changeSelected(store, "Length", "key-front", (note, { gridOf }) =>
    frontMoved(note, -steps * gridTicks(gridOf(note))),
  );
}

/** Joins the selected notes: of one pitch all, else what touches and is one chord. */
export function joinSelected(store: SessionStore): void {
  const state = store.getState();
  const held = notesByPart(state);
  let kept: { at: PartAddress; ids: string[] }[] = [];
  const done = state.edit(
    "Join notes",
    (project) => {
      kept = [];
      return held.reduce((after, { at, ids }) => {
        const joined = edits.joinNotes(after, at, ids);
        kept.push({ at, ids: joined.ids });
        return joined.project;
      }, project);
    },
    () => ({
      ...selectionOf(state, kept),
      message: `${countText(held)} joined into ${kept.reduce((sum, { ids }) => sum + ids.length, 0)}`,
    }),
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
  const held = notesByPart(state);
  const slide = !everyNote(held, (note) => note.slide);
  const message = `${plural(countOf(held), "note")} ${slide ? "set to slide into the next" : "set not to slide"}`;
  state.edit(
    slide ? "Slide" : "No slide",
    (project) => changeEach(project, held, (note) => ({ ...note, slide })),
    { message },
  );
}

/** Velocities in a line from the first to the last selected hit, those between them included. */
export function rampBetween(store: SessionStore): void {
  const state = store.getState();
  const held = notesByPart(state);
  const ends = sortNotes(held.flatMap(({ notes }) => notes));
  const [first, last] = [ends[0], ends[ends.length - 1]];
  if (!first || !last || first.start === last.start) {
    state.announce("Select two hits or more: the ramp goes from the first to the last");
    return;
  }
  const all = held.map((of) => {
    const rows = new Set(of.notes.map((note) => note.pitch));
    const notes = partOf(state.project, of.at).notes.filter(
      (note) => rows.has(note.pitch) && note.start >= first.start && note.start <= last.start,
    );
    return { ...of, notes, ids: new Set(notes.map((note) => note.id)) };
  });
  const ramp = (note: Note) => {
    const share = (note.start - first.start) / (last.start - first.start);
    const velocity = Math.round(first.velocity + share * (last.velocity - first.velocity));
    return { ...note, velocity };
  };
  state.edit("Velocity ramp", (project) => changeEach(project, all, ramp), {
    ...selectionOf(state, all),
    message: `${countText(all)} from velocity ${first.velocity} to ${last.velocity}`,
  });
}
