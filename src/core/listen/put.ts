import { type Bpm, type MidiPitch, type Seconds, type Ticks, clamp } from "../base";
import { MAX_EARLY, PPQ, grid, gridTicks } from "../time";
import { LIMITS, type Note, compareNotes, makeNote } from "../score";
import type { DrumHit, DrumKind } from "./drum-hits";
import type { HeardNote } from "./pitch-line";

/** Pads of the percussion map that the kinds of hits are put on (common practice). */
export const KIND_PADS: Readonly<Record<DrumKind, MidiPitch>> = { low: 36, middle: 38, high: 42 };

/** How a recording lies against the bars. */
export interface Laid {
  tempo: Bpm;
  /** When the first bar begins. */
  first: Seconds;
}

/** The tick of a pattern at a time of its recording; below 0 before the first bar. */
export const tickAt = ({ tempo, first }: Laid, time: Seconds): Ticks =>
  Math.round(((time - first) * tempo * PPQ) / 60);

/** What hangs over by less than this share of a bar is the last sound's end. */
const OVERHANG = 0.125;

/** Whole bars of so many ticks that a recording takes, at least one: it is a loop of so many. */
export const barsHeard = (length: Seconds, { tempo, first }: Laid, bar: Ticks): number => {
  const bars = ((length - first) * tempo * PPQ) / 60 / bar;
  return clamp(Math.ceil(bars - OVERHANG), 1, LIMITS.bars);
};

const HIT: Ticks = gridTicks(grid(16));

/** Notes in order, without those that would lie before what a pattern can hold. */
const kept = (notes: Note[]): Note[] =>
  notes.filter((note) => note.start >= -MAX_EARLY).sort(compareNotes);

/** Hits on the three pads, as they were played: not on any grid. */
export const hitNotes = (hits: readonly DrumHit[], laid: Laid): Note[] =>
  kept(
    hits.map(({ time, kind, velocity }, i) =>
      makeNote({
        ...{ id: `h${i}`, start: tickAt(laid, time), length: HIT },
        ...{ pitch: KIND_PADS[kind], velocity },
      }),
    ),
  );

/** The notes of a line, as they were sung or played. */
export const lineNotes = (line: readonly HeardNote[], laid: Laid): Note[] =>
  kept(
    line.map(({ time, length, pitch, velocity }, i) => {
      const start = tickAt(laid, time);
      const ticks = Math.max(1, tickAt(laid, time + length) - start);
      return makeNote({ id: `l${i}`, start, length: ticks, pitch, velocity });
    }),
  );

/** A rhythm without pitches, each note until the next. */
export function rhythmNotes(
  hits: readonly Pick<DrumHit, "time" | "velocity">[],
  laid: Laid,
  end: Seconds,
  pitch: MidiPitch,
): Note[] {
  return kept(
    hits.map(({ time, velocity }, i) => {
      const start = tickAt(laid, time);
      const until = tickAt(laid, hits[i + 1]?.time ?? end);
      const rest = { length: clamp(until - start, 1, PPQ), pitch, velocity };
      return makeNote({ id: `r${i}`, start, ...rest, unpitched: true });
    }),
  );
}

/** Pieces of a recording, each at its time until the next, on pads one after another from the first on. */
export const sliceNotes = (
  times: readonly Seconds[],
  laid: Laid,
  end: Seconds,
  firstPad: MidiPitch,
): Note[] =>
  kept(
    times.map((time, i) => {
      const start = tickAt(laid, time);
      const length = Math.max(1, tickAt(laid, times[i + 1] ?? end) - start);
      return makeNote({ id: `s${i}`, start, length, pitch: firstPad + i, velocity: 127 });
    }),
  );
