import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { type Ticks, plural } from "@/core/base";
import { type Metre, barTicks, beatTicks, beatsInBar, formatLoop } from "@/core/time";
import { LIMITS, partOf, trackOf } from "@/core/score";
import { lanePeriod } from "@/core/playback";
import { currentPart, currentPlace, currentMetre } from "../../state/current";
import type { SessionStore } from "../../state/store";

/** Most bars that a menu of loop lengths lists. */
const LISTED_BARS = 16;

/** Loop lengths to choose from in a pattern of so many bars: in beats and bars up to its length, with their ticks. */
export function loopChoices(bars: number, metre: Metre): { label: string; ticks: number }[] {
  const beats = [1, 2, 3].filter((count) => count < beatsInBar(metre));
  const wholes = Array.from({ length: Math.min(bars, LISTED_BARS) }, (_, i) => i + 1);
  return [
    ...beats.map((count) => ({ label: plural(count, "beat"), ticks: count * beatTicks(metre) })),
    ...wholes.map((count) => ({ label: plural(count, "bar"), ticks: count * barTicks(metre) })),
  ];
}

/** Sets the length in ticks of a track's part in the current pattern; it repeats under the rest. */
export function setPartLoop(store: SessionStore, track: string, ticks: Ticks): void {
  const { pattern, edit } = store.getState();
  edit("Loop length", (project) => edits.setPartLength(project, { pattern, track }, ticks));
}

/** Doubles the loop: of the current lane where it has its own, else of the part. */
export function doubleLoop(store: SessionStore): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const lane = track.lanes.find((lane) => lane.pitch === state.caret.pitch);
  const at = currentPlace(state);
  if (!lane?.steps) {
    const done = state.edit(
      "Double the loop",
      (project) => edits.doubleLoop(project, at, () => nanoid(8)),
      (after) => {
        const { length } = partOf(after, at);
        return { message: `The loop is now ${formatLoop(length, currentMetre(state))}` };
      },
    );
    if (!done) state.announce(`The loop stays: a pattern has at most ${LIMITS.bars} bars`);
    return;
  }
  const steps = lane.steps * 2;
  const period = lanePeriod(track, lane.pitch, 0);
  const again = currentPart(state)
    .notes.filter((note) => note.pitch === lane.pitch && note.start < period)
    .map((note) => ({ ...note, id: nanoid(8), start: note.start + period }));
  state.edit(
    `Double the loop of ${lane.name}`,
    (project) => edits.addNotes(edits.changeLane(project, track.id, lane.id, { steps }), at, again),
    { message: `The loop of ${lane.name} is now ${plural(steps, "step")}` },
  );
}

/** Copies the caret's bar to the next and goes there. */
export function copyBarToNext(store: SessionStore): void {
  const state = store.getState();
  const ticks = barTicks(currentMetre(state));
  const bar = Math.floor(state.caret.tick / ticks);
  state.edit(
    `Copy bar ${bar + 1} to ${bar + 2}`,
    (project) => edits.copyBarOn(project, currentPlace(state), bar, () => nanoid(8)),
    {
      caret: { tick: state.caret.tick + ticks },
      selection: [],
      message: `Bar ${bar + 1} copied to bar ${bar + 2}`,
    },
  );
}
