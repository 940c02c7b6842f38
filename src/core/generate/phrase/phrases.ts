import { type MidiPitch, type Random, type Ticks, seeded } from "../../base";
import { barTicks, beatTicks } from "../../time";
import { type Key, scalePitches, scaleSemitones } from "../../pitch";
import type { Note } from "../../score";
import { drawLine, type Moves, type Step } from "../common/chain";
import type { PhrasedOptions, PhraseWish } from "./options";
import { nearestIndex } from "../line/walk";
import { barAt, type NoteSlot } from "../rhythm/places";
import { endOf, phraseBars, planOf, type BarPlan } from "./plan";
import { climaxOf, rhythmOf } from "./rhythm";
import { sentenceOf } from "./sentence";
import { classesAt } from "../common/tones";

/** A line of phrases, and what it is in a sentence. */
export interface PhrasedLine {
  notes: (Pick<Note, "start" | "length" | "pitch"> & Pick<NoteSlot, "velocity" | "fixed">)[];
  description: string;
}

/**
 * How often lines go on by so many steps of the scale: mostly by none or one (after P. von Hippel and D. Huron, “Why
 * do skips precede reversals?”, Music Perception 18(1), 2000, and D. Huron, Sweet Anticipation, 2006; figures from
 * memory).
 */
const STEPS = [0.2, 0.29, 0.075, 0.03, 0.016, 0.008, 0.004, 0.006] as const;
const FAR = 0.0005;
/** A leap from so many semitones on is answered by a step back: so much likelier, and going on so much less. */
const LEAP = 5;
const BACK = 6;
const ON = 0.15;
/** What is against a wish is not impossible, where nothing else is left. */
const AGAINST = 1e-4;
/** So is moving what should come again as it was. */
const MOVED = 1e-6;
/** So strictly, where strictness is full, does a tone outside the chord go on by step. */
const TIED = 0.97;
/** How far, as a share of the compass, a line strays from its contour. */
const STRAY = 0.2;
/** Semitones above the root on which phrases end, the likelier first, as far as a scale has them: root or third; fifth or second. */
const ENDS = {
  closed: [[0], [4, 3]],
  open: [
    [7, 6, 8],
    [2, 1],
  ],
} as const;
const endsOf = ({ scale }: Key, end: "open" | "closed"): number[] => {
  const has = scaleSemitones(scale);
  return ENDS[end].flatMap((choices) => choices.find((semitones) => has.includes(semitones)) ?? []);
};

/**
 * A line of phrases: each with a contour, a cadence and a breath; one highest note where it was asked for; bars that
 * carry the first one's motif as often as was asked, note for note or moved along the scale.
 */
export function phrasedLine(options: PhrasedOptions, wish: PhraseWish, seed: number): PhrasedLine {
  const random = seeded(seed);
  const bar = barTicks(options.metre);
  const plan = planOf(options, wish, random);
  const pitches = scalePitches(options.key, options.low, options.high);
  const rhythm = rhythmOf(options, plan, wish.pickup ?? false, random);
  const climax = climaxOf(rhythm, plan, (wish.climax / 100) * options.bars * bar, options);
  const ends = { open: endsOf(options.key, "open"), closed: endsOf(options.key, "closed") };
  const b = barAt(climax, bar);
  const rests = plan[b]?.cadence && rhythm[b]!.at(-1 - plan[b].pickups)?.start === climax;
  const top = topOf(options, pitches, climax, rests ? ends[plan[b]!.cadence!] : null, random);
  const compass = Math.min(top, 8 + Math.floor(random() * 4));
  const moves = movesOf(options, pitches);
  const scale = scalePitches(options.key, 0, 127);
  let answers = false;
  const line: number[][] = [];
  let last: number | null = null;
  let before: number | null = null;

  const beat = beatTicks(options.metre);
  const chordal = options.pool === "chords" && options.chords.length > 0;
  const phrase = phraseBars(options, wish) * bar;
  /** How welcome each pitch is to a note: as a phrase's last, or as one that comes again, whatever the contour. */
  const whole = wish.over === "line";
  const weightsAt = (
    { start: at, fixed }: NoteSlot,
    end: BarPlan["cadence"],
    again = false,
  ): Float64Array => {
    const weights = new Float64Array(pitches.length);
    const start = Math.max(0, at);
    if (fixed) {
      weights[nearestIndex(pitches, fixed.pitch)] = 1;
      return weights;
    }
    if (start === climax) {
      weights[top] = 1;
      return weights;
    }
    const size = whole ? options.bars * bar : phrase;
    const from = Math.floor(start / size) * size;
    const peak = climax >= from && climax < from + size ? (climax - from) / size : 0.6;
    const wanted = top - compass + compass * heightAt(wish, (start - from) / size, peak);
    const stray = Math.max(1, STRAY * compass);
    const classes = classesAt(options, start);
    const strict = chordal ? 1 : start % beat === 0 ? wish.strict / 100 : 0;
    const strange = Math.max(start % bar === 0 ? AGAINST ** 3 : AGAINST, 1 - strict);
    // The climax is the one highest note.
    for (let index = 0; index < top; index++) {
      const pitch = pitches[index]!;
      const near = again ? 1 : AGAINST + Math.exp(-0.5 * ((index - wanted) / stray) ** 2);
      const tone = classes.has(pitch % 12);
      if (!end) weights[index] = (tone ? 1 : strange) * near;
      else {
        const at = ends[end].indexOf((pitch - options.key.root + 120) % 12);
        weights[index] = at < 0 ? AGAINST * AGAINST : near * (at === 0 ? 2 : 1) * (tone ? 3 : 1);
      }
    }
    return weights;
  };
  const stepOf = (
    slots: readonly NoteSlot[],
    offsets: readonly number[],
    end: BarPlan["cadence"],
  ) => {
    const rows = slots.map((slot) => weightsAt(slot, end));
    const classes = classesAt(options, Math.max(0, slots.at(-1)!.start));
    const lead = offsets.at(-1)!;
    return {
      offsets,
      weight: (index: number, n: number) => rows[n]![index]!,
      // What is no tone of the chord goes on by step.
      tied: (index: number) =>
        classes.has((pitches[index + lead] ?? 0) % 12) ? 0 : (TIED * wish.strict) / 100,
    };
  };
  /** The steps of a bar: a figure that is copied, then notes one by one, the cadence last. */
  const stepsOf = (b: number, alone: boolean): Step[] => {
    const slots = rhythm[b]!;
    const { copies, cadence, half, pickups, turned } = plan[b]!;
    const moves = !alone && slots.every(({ fixed }) => !fixed);
    const asked = slots.some(({ call }) => call !== undefined);
    const source = moves && copies !== null && !asked ? line[copies]! : null;
    const limit = half
      ? slots.filter(({ start }) => start - b * bar < bar / 2).length
      : slots.length;
    const copied = source
      ? Math.max(0, Math.min(source.length, limit, slots.length - (cadence ? 1 + pickups : 0)))
      : 0;
    const steps: Step[] = [];
    if (source && copied > 0) {
      const way = turned ? -1 : 1;
      const offsets = source.slice(0, copied).map((index) => way * (index - source[0]!));
      const exact = source[0]!;
      const group = stepOf(slots.slice(0, copied), offsets, null);
      const again = slots.slice(0, copied).map((slot) => weightsAt(slot, null, true));
      const { moved } = plan[b]!;
      steps.push({
        ...group,
        weight: (index, n) => {
          const same = index - offsets[n]! === exact;
          if (moved) return group.weight(index, n) * (same && n === 0 ? 0.3 : 1);
          // Again as it was, whatever the contour has here; moved only where the chord does not bear it.
          return again[n]![index]! * (same || n > 0 ? 1 : MOVED);
        },
      });
    }
    const cadenceAt = slots.length - 1 - pickups;
    for (let i = copied; i < slots.length;) {
      const called = moves ? callFrom(slots, i, cadence ? cadenceAt : slots.length) : [];
      if (called.length > 1) {
        // As the question went: its intervals, from wherever they fit.
        const first = nearestIndex(scale, called[0]!);
        const offsets = called.map((pitch) => nearestIndex(scale, pitch) - first);
        steps.push(stepOf(slots.slice(i, i + called.length), offsets, null));
        answers = true;
        i += called.length;
        continue;
      }
      const at = i - cadenceAt;
      const step = stepOf([slots[i]!], [0], cadence !== null && at === 0 ? cadence : null);
      const first = b === options.bars - 1 && at > 0 ? line[0]?.[0] : undefined;
      // The last pick-up leads back to where the line begins.
      steps.push(first === undefined ? step : { ...step, weight: (index) => leadTo(index, first) });
      i++;
    }
    return steps;
  };
  const put = (bars: readonly number[], alone: boolean): boolean => {
    const steps = bars.flatMap((bar) => stepsOf(bar, alone));
    // A phrase that begins as another did does so from wherever the line was.
    const first = plan[bars[0]!]!;
    const anew = !alone && first.copies !== null && !first.moved;
    const drawn = drawLine(steps, moves, anew ? null : last, anew ? null : before, random);
    if (!drawn) return false;
    const flat = drawn.flatMap((index, k) => steps[k]!.offsets.map((offset) => index + offset));
    let at = 0;
    for (const bar of bars) {
      line[bar] = flat.slice(at, at + rhythm[bar]!.length);
      at += rhythm[bar]!.length;
    }
    if (flat.length > 0) {
      before = flat.at(-2) ?? last;
      last = flat.at(-1)!;
    }
    return true;
  };
  // Phrase by phrase, so that each knows how it ends; a bar that copies one of its own phrase begins a stretch of its own.
  for (let bar = 0; bar < options.bars;) {
    const end = endOf(plan, bar);
    const own = plan.findIndex(
      ({ copies }, k) => k > bar && k < end && copies !== null && copies >= bar,
    );
    const until = own < 0 ? end : own;
    const bars = Array.from({ length: until - bar }, (_, i) => bar + i);
    // A figure that fits nowhere in the register gives way.
    const fits = [false, true].some((alone) => put(bars, alone));
    if (!fits) for (const one of bars) line[one] = rhythm[one]!.map(() => 0);
    bar = until;
  }
  let next = 0;
  const notes = rhythm.flatMap((slots, bar) =>
    slots.map(({ start, length, velocity, fixed }, i) => {
      const drawn = pitches[line[bar]![i]!]!;
      const pitch = fixed?.pitch ?? options.pitches?.[next++] ?? drawn;
      return { start, length, pitch, velocity, ...(fixed && { fixed }) };
    }),
  );
  const says = sentenceOf(options, wish, notes, plan);
  return { notes, description: answers ? `${says}; takes up what it answers` : says };
}

/** The pitches of the question that an answer has from a slot on, up to `end`. */
function callFrom(slots: readonly NoteSlot[], from: number, end: number): MidiPitch[] {
  const called: MidiPitch[] = [];
  for (let i = from; i < end; i++) {
    const { call } = slots[i]!;
    if (call === undefined) break;
    called.push(call);
  }
  return called;
}

/** How welcome a pitch is before another: a step from it rather. */
const leadTo = (index: number, to: number): number => 1 / (1 + (Math.abs(index - to) - 1) ** 4);

/** The highest note: near the top of the register, of the chord where it stands on a beat, of `ends` where it ends a phrase. */
function topOf(
  options: PhrasedOptions,
  pitches: readonly MidiPitch[],
  climax: Ticks,
  ends: readonly number[] | null,
  random: Random,
): number {
  const high = pitches.length - 1;
  const near = pitches.flatMap((_, i) =>
    i > high - Math.max(1, Math.min(5, high / 3)) ? [i] : [],
  );
  const resting = (ends ? pitches : []).flatMap((pitch, i) =>
    i > high / 2 && ends!.includes((pitch - options.key.root + 120) % 12) ? [i] : [],
  );
  // The highest of them that there is: a phrase rests on few tones.
  if (resting.length > 0) return resting.at(-1)!;
  const tones = near.filter((i) => classesAt(options, climax).has(pitches[i]! % 12));
  const from = climax % beatTicks(options.metre) === 0 && tones.length > 0 ? tones : near;
  return from[Math.floor(random() * from.length)] ?? high;
}

/** The height 0–1 of a contour at a place of its phrase, 0–1; `peak` is where it has its highest note. */
export function heightAt({ contour, drawn }: PhraseWish, at: number, peak: number): number {
  const arch = (x: number, top: number) =>
    x < top ? x / Math.max(0.05, top) : 1 - (x - top) / Math.max(0.05, 1 - top);
  switch (contour) {
    case "arch":
      return 0.15 + 0.85 * Math.sin((Math.PI / 2) * arch(at, peak));
    case "rise":
      return 0.1 + 0.85 * at;
    case "fall":
      return 0.95 - 0.85 * at;
    case "wave":
      return 0.5 - 0.4 * Math.cos(4 * Math.PI * at);
    case "valley":
      return 0.9 - 0.8 * Math.sin(Math.PI * at);
    case "drawn": {
      const place = at * (drawn.length - 1);
      const i = Math.min(drawn.length - 2, Math.floor(place));
      return drawn[i]! + (place - i) * (drawn[i + 1]! - drawn[i]!);
    }
  }
}

function movesOf(options: PhrasedOptions, pitches: readonly MidiPitch[]): Moves {
  const size = pitches.length;
  const weight = (from: number, to: number) => {
    const far = Math.abs(pitches[to]! - pitches[from]!) > options.leap;
    return (STEPS[Math.abs(to - from)] ?? FAR) * (far ? AGAINST : 1);
  };
  const table = new Float64Array(size * size);
  for (let i = 0; i < table.length; i++) table[i] = weight(Math.floor(i / size), i % size);
  return {
    size,
    weight: (from, to) => table[from * size + to]!,
    after: (before, from, to) => {
      const base = table[from * size + to]!;
      if (before === null) return base;
      const came = pitches[from]! - pitches[before]!;
      if (Math.abs(came) < LEAP) return base;
      const goes = to - from;
      if (goes === 0 || Math.sign(goes) === Math.sign(came)) return base * ON;
      return base * (Math.abs(goes) === 1 ? BACK : 1);
    },
  };
}
