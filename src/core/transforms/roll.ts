import {
  type MidiPitch,
  type Milliseconds,
  type Semitones,
  type Ticks,
  clamp,
  clampVelocity,
  nth,
} from "../base";
import { boundary, ticksToMs } from "../time";
import { pitchHz, pitchName } from "../pitch";
import type { Note } from "../score";
import { param, params } from "../params";
import { counted, counter, defineTransform, figure, pieceIds, evenly } from "./kit";

/** Below this rate repeats are heard one by one; above it they fuse into a tone (common practice). */
const TONE_HZ = 20;

/**
 * Starts of `count` hits over `length` ticks from 0. With `ratio` 1 hit *i* is at
 * `round(i · length / count)`; otherwise each gap is `ratio` times the one before it.
 */
export function rollOffsets(count: number, length: Ticks, ratio: number): number[] {
  if (ratio === 1) return Array.from({ length: count }, (_, i) => boundary(i, count, length));
  const whole = (1 - ratio ** count) / (1 - ratio);
  return Array.from({ length: count }, (_, i) =>
    Math.round((length * (1 - ratio ** i)) / (1 - ratio) / whole),
  );
}

/** The rate of repeats `ms` apart: in ms, and from 20 Hz up also in Hz with the nearest pitch. */
export function rollRate(ms: Milliseconds): string {
  const hz = 1000 / ms;
  if (hz < TONE_HZ) return `${figure(ms)} ms`;
  const nearest = nearestTone(ms);
  const name =
    nearest === null ? "" : `, near ${pitchName(nearest)} at ${figure(pitchHz(nearest))} Hz`;
  return `${figure(ms)} ms (${figure(hz)} Hz${name})`;
}

/** The pitch that a row of hits so far apart is nearest to; null where it is heard as no tone. */
export function nearestTone(ms: Milliseconds): MidiPitch | null {
  const hz = 1000 / ms;
  const nearest = Math.round(69 + 12 * Math.log2(hz / 440));
  return hz < TONE_HZ || nearest < 0 || nearest > 127 ? null : nearest;
}

/** Cuts each hit into `count` hits that tile it exactly; velocity and tune may ramp across. */
export const roll = defineTransform({
  label: "Roll",
  family: "rhythm",
  example: { notes: evenly(960, 110, 80, 110, 80), params: { count: 4 } },
  about: "Cuts each hit into several quick ones",
  schema: params({
    count: param.whole("Hits", 1, 64),
    ratio: param.number("Speeds up or down", 0.25, 4, { unit: "×", step: 0.05 }),
    velocityFrom: param.whole("Velocity at start", -126, 126),
    velocityTo: param.whole("Velocity at end", -126, 126),
    tuneFrom: param.number("Tune at start", -24, 24, { unit: "st" }),
    tuneTo: param.number("Tune at end", -24, 24, { unit: "st" }),
  }),
  defaults: { count: 2, ratio: 1, velocityFrom: 0, velocityTo: 0, tuneFrom: 0, tuneTo: 0 },
  run(selected, p, context, all) {
    const pieceId = pieceIds(all);
    const making = counter(context);
    let shortest = Infinity;
    let longest = 0;
    // Most hits of a part are equally long: their cuts are worked out once.
    const cuts = new Map<number, number[]>();
    const replaced = selected.map((note) => {
      let offsets = cuts.get(note.length);
      if (!offsets) {
        // A hit of few ticks cannot hold more hits than ticks.
        const most = Math.min(p.count, note.length);
        const all = [...rollOffsets(most, note.length, p.ratio), note.length];
        offsets = all.filter((from, i) => i === most || nth(all, i + 1) - from >= 1);
        cuts.set(note.length, offsets);
        for (let i = 1; i < offsets.length; i++) {
          const gap = nth(offsets, i) - nth(offsets, i - 1);
          if (gap < shortest) shortest = gap;
          if (gap > longest) longest = gap;
        }
      }
      const count = offsets.length - 1;
      making(count);
      const pieces: Note[] = [];
      for (let i = 0; i < count; i++) {
        const at = count === 1 ? 0 : i / (count - 1);
        pieces.push({
          ...note,
          id: i === 0 ? note.id : pieceId(note.id, i),
          start: note.start + nth(offsets, i),
          length: nth(offsets, i + 1) - nth(offsets, i),
          velocity: clampVelocity(
            note.velocity + p.velocityFrom + at * (p.velocityTo - p.velocityFrom),
          ),
          tune: clampTune(note.tune + p.tuneFrom + at * (p.tuneTo - p.tuneFrom)),
          slide: note.slide && i === count - 1,
        });
      }
      return pieces;
    });
    return {
      replaced,
      sentence: (counts) => {
        if (selected.length === 0) return "No hits to cut";
        const [slow, fast] = [longest, shortest].map((t) => rollRate(ticksToMs(t, context.tempo)));
        const rate =
          longest - shortest <= 1 ? `every ${slow}` : `from every ${slow} to every ${fast}`;
        const after = selected.length + counts.added;
        return `${counted(selected.length, context)} became ${after}, ${rate}`;
      },
    };
  },
});

const clampTune = (tune: Semitones) => clamp(tune, -48, 48);
