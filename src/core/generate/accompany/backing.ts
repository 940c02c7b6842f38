import { type MidiPitch, type Random, bell, plural, nth } from "../../base";
import { PPQ, barTicks } from "../../time";
import type { DescribedLine } from "./bass";
import { movement } from "../chords/voicing";
import { harmonyOf, spanAt, type Span } from "./harmony";
import type { BackingOptions } from "./options";
import { partPlaces } from "../rhythm/places";

/** A stab is so long at most, as a share of a quarter note. */
const SHORT = 0.4;

/**
 * Chords as they accompany: a pad holds each for as long as it lasts, stabs strike it in a rhythm. Voices lie in the
 * register and move little from chord to chord.
 */
export function backing(options: BackingOptions, random: Random): DescribedLine {
  const spans = harmonyOf(options);
  const laid = layings(spans, options, random);
  const chords = plural(spans.length, "chord");
  if (options.role === "pad") {
    const notes = spans.flatMap(({ from, to }, i) =>
      nth(laid, i).map((pitch) => ({ start: from, length: to - from, pitch })),
    );
    return { notes, description: `pad, ${chords} held, ${voicesOf(laid)}` };
  }
  const bar = barTicks(options.metre);
  const slots = partPlaces(options, bar, random);
  const longest = Math.round(PPQ * SHORT * (1 + random()));
  const notes: DescribedLine["notes"] = [];
  let struck = 0;
  for (const { start, length } of slots) {
    const i = spanAt(spans, start);
    const short = options.rhythm ? length : Math.min(length, longest);
    const held = Math.min(short, nth(spans, i).to - start);
    for (const pitch of nth(laid, i)) notes.push({ start, length: held, pitch });
    struck++;
  }
  return { notes, description: `stabs, ${chords}, struck ${struck} times, ${voicesOf(laid)}` };
}

const voicesOf = (laid: readonly (readonly MidiPitch[])[]) => {
  const moves = laid.slice(1).map((pitches, i) => movement(nth(laid, i), pitches));
  const mean = moves.reduce((sum, way) => sum + way, 0) / Math.max(1, moves.length);
  return laid.length > 1
    ? `voices move ${mean.toFixed(1)} semitones`
    : plural(laid[0]?.length ?? 0, "voice");
};

/** How each chord is laid in the register: the first by chance, each other near to the one before. */
function layings(spans: readonly Span[], options: BackingOptions, random: Random): MidiPitch[][] {
  const open = random() < 0.4;
  const middle = (options.low + options.high) / 2 + bell(random) * 4;
  let last: MidiPitch[] | null = null;
  return spans.map(({ classes }) => {
    const choices = closeVoicings(classes, options, open);
    const cost = (pitches: readonly MidiPitch[]) => {
      const centre = pitches.reduce((sum, pitch) => sum + pitch, 0) / pitches.length;
      // Rather near its middle than slowly out of the register.
      return (last ? movement(last, pitches) : 0) + Math.abs(centre - middle) * (last ? 0.12 : 1);
    };
    last = choices.reduce((best, one) => (cost(one) < cost(best) ? one : best), nth(choices, 0));
    return last;
  });
}

/** All ways to lay a chord within the register, from each of its tones on; the widest that fit. */
function closeVoicings(
  classes: readonly number[],
  options: BackingOptions,
  open: boolean,
): MidiPitch[][] {
  const all: MidiPitch[][] = [];
  const size = Math.min(options.voices, classes.length);
  // Of four tones in three voices the fifth is the one left out, the second after the root.
  const wanted =
    size < classes.length ? classes.filter((_, i) => i !== 2 || size > 3).slice(0, size) : classes;
  for (let low = options.low; low <= options.high; low++) {
    if (!wanted.includes(low % 12)) continue;
    const pitches = [low];
    for (let pitch = low + 1; pitches.length < wanted.length && pitch <= options.high; pitch++)
      if (wanted.includes(pitch % 12)) pitches.push(pitch);
    // Open: every second tone an octave up.
    const laid = open
      ? pitches.map((pitch, i) => (i % 2 === 1 && pitch + 12 <= options.high ? pitch + 12 : pitch))
      : pitches;
    all.push(laid.sort((a, b) => a - b));
  }
  const most = Math.max(...all.map((pitches) => pitches.length));
  return all.length > 0 ? all.filter((pitches) => pitches.length === most) : [[]];
}
