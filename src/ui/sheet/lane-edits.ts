import { nanoid } from "nanoid";
import {
  TRANSFORMS,
  barTicks,
  driftOf,
  edits,
  gridTicks,
  lanePeriod,
  lineAt,
  makeLane,
  nearestLine,
  PERCUSSION,
  partOf,
  trackOf,
  type Note,
} from "@/core";
import { KITS, kitOf } from "@/audio/kits/registry";
import { place, type Session, type SessionStore } from "../session/store";
import {
  chosen,
  describeCaret,
  driftText,
  gridOfNote,
  newNote,
  noteInCell,
  cellOf,
  rowInHand,
} from "./editing";
import { transformNow } from "../commands/transforming";

/** Velocity of a ghost hit. */
export const GHOST = 32;

/** Puts a soft hit at the caret, or makes the one there soft. */
export function ghostAtCaret(store: SessionStore): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const there = noteInCell(partOf(state.project, place(state)).notes, row, state.caret.tick);
  if (there) {
    const soft = (note: Note) => ({ ...note, velocity: GHOST });
    state.edit("Ghost", (p) => edits.changeNotes(p, place(state), new Set([there.id]), soft));
    store.setState({ selection: new Set([there.id]) });
  } else {
    const note = { ...newNote(state, row, cellOf(row, state.caret.tick)), velocity: GHOST };
    state.edit("Ghost hit", (p) => edits.addNotes(p, place(state), [note]));
    store.setState({ selection: new Set([note.id]) });
  }
  store.setState({ said: describeCaret(store.getState()) });
}

/** Turns the lane or selection round its loop; a selected stretch in itself. */
export function rotateLane(store: SessionStore, steps: number): void {
  transformNow(store, "rotate", { steps }, "Shift round the loop", "lane", "key-rotate");
}

/** Velocities in a line from the first to the last selected hit, those between them included. */
export function rampBetween(store: SessionStore): void {
  const state = store.getState();
  const ids = chosen(state);
  const { notes } = partOf(state.project, place(state));
  const ends = notes.filter((note) => ids.has(note.id));
  const [first, last] = [ends[0], ends[ends.length - 1]];
  if (!first || !last || first.start === last.start) {
    store.setState({ said: "Select two hits or more: the ramp goes from the first to the last" });
    return;
  }
  const rows = new Set(ends.map((note) => note.pitch));
  const inside = notes.filter(
    (note) => rows.has(note.pitch) && note.start >= first.start && note.start <= last.start,
  );
  const all = new Set(inside.map((note) => note.id));
  const ramp = (note: Note) => {
    const share = (note.start - first.start) / (last.start - first.start);
    return {
      ...note,
      velocity: Math.round(first.velocity + share * (last.velocity - first.velocity)),
    };
  };
  state.edit("Velocity ramp", (p) => edits.changeNotes(p, place(state), all, ramp));
  store.setState({
    selection: all,
    said: `${inside.length} hits from ${first.velocity} to ${last.velocity}`,
  });
}

/** Puts a card for filling on the lane in hand, to be turned while it is heard. */
export function addFillCard(store: SessionStore): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const lane = track.kind === "drums" ? { lane: state.caret.pitch } : {};
  const step = {
    id: nanoid(8),
    transform: "fill",
    on: true,
    params: { ...TRANSFORMS.fill!.defaults },
    scope: null,
    ...lane,
  };
  state.edit("Add Fill", (p) => edits.addStep(p, place(state), step));
  store.setState({ bench: "transform" });
}

/** Hits of the part in hand that stand beside the lines of their own grids, in order. */
export function offGridHits(state: Session): { note: Note; drift: number }[] {
  if (!state.track) return [];
  return partOf(state.project, place(state)).notes.flatMap((note) => {
    const drift = driftOf(gridOfNote(state, note), note.start);
    return drift === 0 ? [] : [{ note, drift }];
  });
}

/** Takes a note in hand: selected, the caret on it, its drift said. */
export function takeNote(store: SessionStore, note: Note): void {
  const state = store.getState();
  store.setState({
    selection: new Set([note.id]),
    caret: { pitch: note.pitch, tick: Math.max(0, note.start) },
    said: driftText(driftOf(gridOfNote(state, note), note.start), state.project.tempo),
  });
}

/** Walks to the next or previous hit that is off its grid. */
export function walkOffGrid(store: SessionStore, direction: 1 | -1): void {
  const state = store.getState();
  const list = offGridHits(state);
  if (list.length === 0) {
    store.setState({ said: "Every hit stands on its grid" });
    return;
  }
  const at = list.findIndex(({ note }) => state.selection.has(note.id));
  const index = at < 0 ? (direction > 0 ? 0 : list.length - 1) : at + direction;
  takeNote(store, list[(index + list.length) % list.length]!.note);
}

/** The next kit of all, with the same hits. */
export function stepKit(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  if (track.kind !== "drums") return;
  const at = KITS.indexOf(kitOf(track.sound));
  const kit = KITS[(at + by + KITS.length) % KITS.length]!;
  state.edit("Kit", (p) => edits.changeTrack(p, track.id, { sound: kit.id }), "key-kit");
  store.setState({ said: kit.label });
}

/** Moves the lane in hand up or down in its kit. */
export function moveLaneInHand(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, state.track);
  const at = lanes.findIndex((lane) => lane.pitch === state.caret.pitch);
  if (at < 0) return;
  const id = lanes[at]!.id;
  state.edit("Move lane", (p) => edits.moveLane(p, state.track, id, at + by), "key-lane");
}

/** Moves the track in hand up or down. */
export function moveTrackInHand(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const at = state.project.tracks.findIndex((track) => track.id === state.track);
  state.edit("Move track", (p) => edits.moveTrack(p, state.track, at + by), "key-track");
}

/** Pads of the percussion map that the kit has no lane for yet. */
export function freePads(state: Session, track: string): number[] {
  const taken = new Set(trackOf(state.project, track).lanes.map((lane) => lane.pitch));
  return Object.keys(PERCUSSION)
    .map(Number)
    .filter((pitch) => !taken.has(pitch));
}

/** Adds a lane for a pad and takes it in hand. */
export function addLane(store: SessionStore, track: string, pitch: number): void {
  store.getState().edit("Add a lane", (p) => edits.addLane(p, track, makeLane(pitch)));
  store.getState().takeTrack(track, pitch);
}

export function removeLane(store: SessionStore, track: string, laneId: string): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, track);
  const at = lanes.findIndex((lane) => lane.id === laneId);
  if (at < 0) return;
  const lane = lanes[at]!;
  const next = lanes[at + 1] ?? lanes[at - 1];
  state.edit(`Remove ${lane.name}`, (p) => edits.removeLane(p, track, laneId));
  store.setState({ selection: new Set() });
  if (next) store.getState().takeTrack(track, next.pitch);
}

/** Doubles the loop: of the lane in hand where it has its own, else of the part. */
export function doubleLoop(store: SessionStore): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const lane = track.lanes.find((l) => l.pitch === state.caret.pitch);
  const at = place(state);
  if (!lane?.steps) {
    state.edit("Double the loop", (p) => edits.doubleLoop(p, at, () => nanoid(8)));
    return;
  }
  const { steps } = lane;
  const period = lanePeriod(track, lane.pitch, 0);
  const again = partOf(state.project, at)
    .notes.filter((note) => note.pitch === lane.pitch && note.start < period)
    .map((note) => ({ ...note, id: nanoid(8), start: note.start + period }));
  state.edit("Double the lane's loop", (p) =>
    edits.addNotes(edits.changeLane(p, track.id, lane.id, { steps: steps * 2 }), at, again),
  );
}

/** Copies the caret's bar onto the next and goes there. */
export function copyBarOn(store: SessionStore): void {
  const state = store.getState();
  const ticks = barTicks(state.project.metre);
  const bar = Math.floor(state.caret.tick / ticks);
  state.edit(`Copy bar ${bar + 1} onto ${bar + 2}`, (p) =>
    edits.copyBarOn(p, place(state), bar, () => nanoid(8)),
  );
  store.setState({
    caret: { ...state.caret, tick: state.caret.tick + ticks },
    selection: new Set(),
    said: `Bar ${bar + 1} is on bar ${bar + 2}`,
  });
}

/** Selects a lane, a step across all lanes, or the caret's bar, as a stretch of time. */
export function selectStretch(store: SessionStore, kind: "lane" | "column" | "bar"): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const part = partOf(state.project, place(state));
  const { tick } = state.caret;
  const bar = barTicks(state.project.metre);
  const cell = row.grid.kind === "off" ? 240 : gridTicks(row.grid);
  const line = nearestLine(row.grid, tick);
  const [from, to] =
    kind === "lane"
      ? [0, row.period]
      : kind === "bar"
        ? [Math.floor(tick / bar) * bar, (Math.floor(tick / bar) + 1) * bar]
        : row.grid.kind === "off"
          ? [tick, tick + cell]
          : [lineAt(row.grid, line), lineAt(row.grid, line + 1)];
  // Hits a little early belong to the step or bar they lead into.
  const early = Math.min(120, cell / 2);
  const inside = part.notes.filter(
    (note) =>
      note.start >= from - early &&
      note.start < to - early &&
      (kind !== "lane" || row.lane === null || note.pitch === row.pitch),
  );
  const of = new Set(inside.map((note) => note.id));
  store.setState({
    selection: of,
    stretch: { kind, from, to, of },
    said: `${of.size} ${of.size === 1 ? "hit" : "hits"} selected`,
  });
}

/** Puts what a track plays in the pattern in hand onto another, in place of what it had there. */
export function copyPartTo(store: SessionStore, from: string, to: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, to);
  state.edit(`Copy the part to ${name}`, (p) =>
    edits.copyPart(p, { pattern: state.pattern, track: from }, to, () => nanoid(8)),
  );
  store.setState({ selection: new Set(), said: `${name} plays it too` });
}

/** Puts what another track plays into a track's part and empties the other. */
export function joinPartFrom(store: SessionStore, into: string, from: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, from);
  state.edit(`Join the part of ${name}`, (p) =>
    edits.joinParts(p, { pattern: state.pattern, track: into }, [from], () => nanoid(8)),
  );
  store.setState({ selection: new Set(), said: `${name} is joined into it` });
}
