import { type MidiPitch, type Random, type Ticks, pickWeighted, plural, nth } from "../../base";
import { barTicks, beatTicks } from "../../time";
import { scalePitches } from "../../pitch";
import { harmonyOf, spanAt, type Span } from "./harmony";
import type { BassOptions } from "./options";
import { partPlaces } from "../rhythm/places";
import type { Slot } from "../rhythm/slots";

/** A line and what it is in a sentence. */
export interface DescribedLine {
  notes: { start: Ticks; length: Ticks; pitch: MidiPitch }[];
  description: string;
}

/** A change that no note begins on takes the first that begins within so many beats after it. */
const LATE = 0.75;

/**
 * A bass line: the root where a chord begins, then root, fifth and octave on the beats, chord tones between, and often
 * a step into the next root: of the scale, or on wish a semitone outside of it. The last bar leads back into the first.
 */
export function bassLine(options: BassOptions, random: Random): DescribedLine {
  const bar = barTicks(options.metre);
  const beat = beatTicks(options.metre);
  const spans = harmonyOf(options);
  const slots = partPlaces(options, bar, random);
  const places = options.rhythm ? slots : onChanges(slots, spans, beat);
  const scale = new Set(scalePitches(options.key, 0, 127).map((pitch) => pitch % 12));
  let last: MidiPitch | null = null;
  let approaches = 0;
  const notes = places.map(({ start, length }, i) => {
    const at = spanAt(spans, start);
    const span = nth(spans, at);
    const next = nth(spans, (at + 1) % spans.length);
    const root = nearestTo(span.root, last, options);
    const isLast = (places[i + 1]?.start ?? Infinity) >= span.to;
    const leads = isLast && spans.length > 1 && start > span.from && span.to - start <= beat;
    let pitch: MidiPitch;
    if (start === span.from || last === null) pitch = root;
    else if (leads && random() * 100 < options.approach) {
      pitch = approachTo(nearestTo(next.root, last, options), last, scale, options, random);
      approaches++;
    } else pitch = inChord(span, root, start % beat === 0, last, options, random);
    last = pitch;
    return { start, length, pitch };
  });
  const parts = [
    spans.length > 1 ? "follows the roots" : "stays on its root",
    `${plural(notes.length, "note")} in ${plural(options.bars, "bar")}`,
    ...(approaches > 0 ? [`${plural(approaches, "step")} into the next chord`] : []),
  ];
  return { notes, description: `bass line, ${parts.join(", ")}` };
}

/** Places so that each chord has a note on its beginning. */
function onChanges(slots: readonly Slot[], spans: readonly Span[], beat: Ticks): Slot[] {
  const places = [...slots].sort((a, b) => a.start - b.start);
  for (const { from, to } of spans) {
    const at = places.findIndex(({ start }) => start >= from);
    const place = places[at];
    if (place?.start === from) continue;
    if (place && place.start < to && place.start - from <= LATE * beat) {
      places[at] = { start: from, length: place.length + place.start - from };
    } else {
      const until = Math.min(place?.start ?? to, to) - from;
      places.splice(at < 0 ? places.length : at, 0, {
        start: from,
        length: Math.min(until, 2 * beat),
      });
    }
  }
  // None sounds into the next.
  return places.map((place, i) => {
    const next = places[i + 1]?.start ?? Infinity;
    return { ...place, length: Math.max(1, Math.min(place.length, next - place.start)) };
  });
}

/** A pitch class in the register, nearest to what was before; at first in its lower half. */
function nearestTo(pc: number, last: MidiPitch | null, options: BassOptions): MidiPitch {
  const wanted = last ?? options.low + (options.high - options.low) / 3;
  let best = -1;
  for (let pitch = options.low; pitch <= options.high; pitch++) {
    if (pitch % 12 !== pc) continue;
    if (best < 0 || Math.abs(pitch - wanted) < Math.abs(best - wanted)) best = pitch;
  }
  // A register that has no such note: the nearest outside of it would be another's.
  return best < 0 ? Math.max(options.low, Math.min(options.high, Math.round(wanted))) : best;
}

/** A step of the scale away from a root, or a semitone whatever the scale; from where the line comes rather. */
function approachTo(
  root: MidiPitch,
  last: MidiPitch,
  scale: ReadonlySet<number>,
  options: BassOptions,
  random: Random,
): MidiPitch {
  const outside = options.chromatic > 0 && random() * 100 < options.chromatic;
  const from = (pitch: MidiPitch) => {
    if (pitch < options.low || pitch > options.high || pitch === last) return 0;
    if (outside ? Math.abs(pitch - root) > 1 : !scale.has(pitch % 12)) return 0;
    return 1 / (1 + Math.abs(pitch - last) / 5);
  };
  const ways = [-2, -1, 1, 2].map((by) => root + by).filter((pitch) => from(pitch) > 0);
  return pickWeighted(ways, from, random) ?? root;
}

/** A tone of the chord: the root rather, then its fifth and octave, within reach. */
function inChord(
  { classes, root: pc }: Span,
  root: MidiPitch,
  onBeat: boolean,
  last: MidiPitch,
  options: BassOptions,
  random: Random,
): MidiPitch {
  const near = Array.from(
    { length: options.high - options.low + 1 },
    (_, i) => options.low + i,
  ).filter((pitch) => classes.includes(pitch % 12) && Math.abs(pitch - last) <= options.leap);
  const weight = (pitch: MidiPitch) => {
    const above = (pitch - pc + 120) % 12;
    const own = above === 0 ? (pitch === root ? 4 : 1.5) : above === 7 ? 2.2 : onBeat ? 0.4 : 0.9;
    return own / (1 + Math.abs(pitch - last) / 8);
  };
  return pickWeighted(near, weight, random) ?? root;
}
