import { bell, seeded, clampVelocity, nth } from "../base";
import { MAX_EARLY, msToTicks, ticksToMs } from "../time";
import { type Note, compareNotes } from "../score";
import { param, params } from "../params";
import { clampLength, counted, defineTransform, figure, roundLoop, evenly } from "./kit";

/**
 * Velocity ± v, start ± t ms, length ± %: bell-shaped (standard deviation a third of the limit)
 * and never beyond the limit. `bias` moves the middle of the timing: −100 all early by t, 100 all
 * late. Order within a lane (equal pitch) never changes.
 */
export const humanize = defineTransform({
  label: "Humanize",
  family: "feel",
  example: {
    notes: evenly(240, 90, 90, 90, 90, 90, 90, 90, 90),
    params: { velocity: 30, timing: 36 },
  },
  about: "Small uneven differences in velocity, timing and length",
  schema: params({
    velocity: param.whole("Velocity", 0, 64, { unit: "±" }),
    timing: param.number("Timing", 0, 60, { unit: "ms" }),
    length: param.number("Length", 0, 100, { unit: "%" }),
    bias: param.number("Early or late", -100, 100, { unit: "%" }),
    seed: param.seed(),
  }),
  defaults: { velocity: 9, timing: 0, length: 0, bias: 0, seed: 1 },
  starts: { velocity: 14, timing: 6 },
  run(selected, p, context, all) {
    const random = seeded(p.seed);
    const limit = Math.floor(msToTicks(p.timing, context.tempo));
    const lean = p.bias / 100;
    let [different, widest] = [0, 0];
    const wanted = selected.map((note) => {
      const velocity = clampVelocity(note.velocity + Math.round(bell(random) * p.velocity));
      const shift = limit * (bell(random) * (1 - Math.abs(lean)) + lean);
      const length = clampLength(note.length * (1 + (bell(random) * p.length) / 100));
      if (velocity !== note.velocity) different++;
      return { ...note, velocity, length, start: note.start + Math.round(shift) };
    });
    if (limit > 0) keepOrder(all, selected, wanted);
    for (let i = 0; i < wanted.length; i++) {
      const [before, after] = [selected[i]!, wanted[i]!];
      widest = Math.max(widest, Math.abs(after.start - before.start));
      const start = roundLoop(before, after.start, context);
      if (start !== after.start) after.start = start;
    }
    return {
      replaced: wanted,
      sentence: (counts) => {
        const moved = counts.moved
          ? `${counts.moved} moved, at most ${figure(ticksToMs(widest, context.tempo))} ms`
          : "none moved";
        return `${counted(different, context)} louder or softer, ${moved}`;
      },
    };
  },
});

/** All pitches of MIDI. */
const PITCHES = 128;

/**
 * Holds the wanted starts so that notes of one pitch stay in their order, strictly where they were
 * strictly apart, between notes that do not move. Changes `wanted` (made by the caller) in place.
 */
function keepOrder(all: readonly Note[], selected: readonly Note[], wanted: Note[]): void {
  const order = inOrder(all);
  // Where all are selected, and in order, the wanted notes stand as they are.
  const whole = selected.length === all.length;
  let next = 0;
  const now = whole ? null : all.map((note) => (selected[next] === note ? wanted[next++]! : null));
  // Whole numbers throughout: a start that was once infinite would be slow to keep.
  const bound = new Int32Array(PITCHES).fill(FAR);
  const last = new Int32Array(PITCHES).fill(FAR);
  // From the back: no later than what follows in its lane allows.
  for (let k = all.length - 1; k >= 0; k--) {
    const i = order ? order[k]! : k;
    const { pitch, start } = all[i]!;
    const is = now ? now[i] : wanted[i];
    const highest = last[pitch] === start ? bound[pitch]! : bound[pitch]! - 1;
    if (is && is.start > highest) is.start = Math.max(highest, -MAX_EARLY);
    bound[pitch] = is ? is.start : start;
    last[pitch] = start;
  }
  // From the front: no earlier than what came before allows, and never before the first early tick.
  bound.fill(-FAR);
  last.fill(-FAR);
  for (let k = 0; k < all.length; k++) {
    const i = order ? order[k]! : k;
    const { pitch, start } = all[i]!;
    const is = now ? now[i] : wanted[i];
    const lowest = Math.max(last[pitch] === start ? bound[pitch]! : bound[pitch]! + 1, -MAX_EARLY);
    if (is && is.start < lowest) is.start = lowest;
    bound[pitch] = is ? is.start : start;
    last[pitch] = start;
  }
}

/** Farther than any note lies, as a whole number of 31 bits. */
const FAR = 2 ** 30;

/** The order of notes in time as indices; null where those of each pitch are in it already. */
function inOrder(notes: readonly Note[]): number[] | null {
  const last = new Int32Array(PITCHES).fill(-FAR);
  for (const { pitch, start } of notes) {
    if (start < last[pitch]!) {
      return notes.map((_, k) => k).sort((a, b) => compareNotes(nth(notes, a), nth(notes, b)));
    }
    last[pitch] = start;
  }
  return null;
}
