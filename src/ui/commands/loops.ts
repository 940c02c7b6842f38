import {
  barTicks,
  beatTicks,
  edits,
  lanePeriod,
  partOf,
  patternOf,
  trackOf,
  type Project,
} from "@/core";
import { nanoid } from "nanoid";
import { place, type SessionStore } from "../session/store";
/** Bars and beats as ticks for menus. */
export function loopChoices(project: Project, pattern: string): { label: string; ticks: number }[] {
  const bar = barTicks(project.metre);
  const { bars } = patternOf(project, pattern);
  const wholes = Array.from({ length: Math.min(bars, 16) }, (_, i) => i + 1).map((n) => ({
    label: n === 1 ? "1 bar" : `${n} bars`,
    ticks: n * bar,
  }));
  const beats = [1, 2, 3].filter((n) => n < project.metre.beats);
  return [
    ...beats.map((n) => ({
      label: n === 1 ? "1 beat" : `${n} beats`,
      ticks: n * beatTicks(project.metre),
    })),
    ...wholes,
  ];
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
