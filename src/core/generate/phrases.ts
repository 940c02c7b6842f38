import { pitchName, scalePitches, scaleSemitones, type Key } from "../pitch/scales";
import { seeded, type Random } from "../random";
import type { Note } from "../score/model";
import { barTicks, beatTicks } from "../time/ticks";
import { plural } from "../words";
import { drawLine, type Moves, type Step } from "./chain";
import type { IdeaOptions } from "./options";
import type { PhraseWish } from "./phrase-options";
import { barOf } from "./places";
import { fillRhythm, type Slot } from "./rhythm";
import { classesAt } from "./tones";
import type { MidiPitch, Ticks } from "../units";

/** A line of phrases, and what it is in a sentence. */
export interface PhrasedLine {
  notes: Pick<Note, "start" | "length" | "pitch">[];
  says: string;
}

/** What a bar is: new, or one that was there again, from its own pitch or moved; and whether a phrase ends in it. */
interface BarPlan {
  copies: number | null;
  moved: boolean;
  /** Only its first half is copied. */
  half: boolean;
  cadence: "open" | "closed" | null;
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
/** A last note is at least so many times as long as the others on average; after it a breath, in beats. */
const LONGER = 1.8;
const BREATH = 0.5;
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
export function phrasedLine(o: IdeaOptions, wish: PhraseWish, seed: number): PhrasedLine {
  const random = seeded(seed);
  const bar = barTicks(o.metre);
  const plan = planOf(o, wish, random);
  const pitches = scalePitches(o.key, o.low, o.high);
  const rhythm = rhythmOf(o, plan, bar, random);
  const climax = climaxOf(rhythm, plan, (wish.climax / 100) * o.bars * bar, o);
  const top = topOf(o, pitches, climax, random);
  const compass = Math.min(top, 8 + Math.floor(random() * 4));
  const ends = { open: endsOf(o.key, "open"), closed: endsOf(o.key, "closed") };
  const moves = movesOf(o, pitches);
  const line: number[][] = [];
  let last: number | null = null;
  let before: number | null = null;

  const weight = (
    index: number,
    start: Ticks,
    end: "open" | "closed" | null,
    again = false,
  ): number => {
    if (start === climax) return index === top ? 1 : 0;
    if (index >= top) return 0;
    if (end) {
      const above = (pitches[index]! - o.key.root + 120) % 12;
      const at = ends[end].indexOf(above);
      if (at < 0) return AGAINST * AGAINST;
      const tone = classesAt(o, start).has(pitches[index]! % 12);
      return (AGAINST + heightWeight(index, start)) * (at === 0 ? 2 : 1) * (tone ? 3 : 1);
    }
    const beat = start % beatTicks(o.metre) === 0;
    const tone = classesAt(o, start).has(pitches[index]! % 12);
    const chordal = o.pool === "chords" && o.chords.length > 0;
    const strict = chordal ? 1 : beat ? wish.strict / 100 : 0;
    const least = start % bar === 0 ? AGAINST * AGAINST : AGAINST;
    const fits = tone ? 1 : Math.max(least, 1 - strict);
    return fits * (again ? 1 : AGAINST + heightWeight(index, start));
  };
  const phrase = phraseBars(o, wish) * bar;
  const heightWeight = (index: number, start: Ticks): number => {
    const from = Math.floor(start / phrase) * phrase;
    const peak = climax >= from && climax < from + phrase ? (climax - from) / phrase : 0.6;
    const wanted = top - compass + compass * heightAt(wish, (start - from) / phrase, peak);
    return Math.exp(-0.5 * ((index - wanted) / Math.max(1, STRAY * compass)) ** 2);
  };
  const stepOf = (
    slots: readonly Slot[],
    offsets: readonly number[],
    end: BarPlan["cadence"],
  ): Step => ({
    starts: slots.map(({ start }) => start),
    offsets,
    weight: (index, n) => weight(index, slots[n]!.start, end),
  });
  /** The steps of a bar: a figure that is copied, then notes one by one, the cadence last. */
  const stepsOf = (b: number, alone: boolean): Step[] => {
    const slots = rhythm[b]!;
    const { copies, cadence, half } = plan[b]!;
    const source = alone || copies === null ? null : line[copies]!;
    const limit = half
      ? slots.filter(({ start }) => start - b * bar < bar / 2).length
      : slots.length;
    const copied = source ? Math.min(source.length, limit, slots.length - (cadence ? 1 : 0)) : 0;
    const steps: Step[] = [];
    if (source && copied > 0) {
      const offsets = source.slice(0, copied).map((index) => index - source[0]!);
      const exact = source[0]!;
      const group = stepOf(slots.slice(0, copied), offsets, null);
      const { moved } = plan[b]!;
      steps.push({
        ...group,
        weight: (index, n) => {
          const same = index - offsets[n]! === exact;
          if (moved) return group.weight(index, n) * (same && n === 0 ? 0.3 : 1);
          // Again as it was, whatever the contour has here; moved only where the chord does not bear it.
          const fits = weight(index, slots[n]!.start, null, true);
          return fits * (same || n > 0 ? 1 : MOVED);
        },
      });
    }
    slots.slice(copied).forEach((slot, i) => {
      const end = cadence !== null && copied + i === slots.length - 1;
      steps.push(stepOf([slot], [0], end ? cadence : null));
    });
    return steps;
  };
  const put = (bars: readonly number[], steps: readonly Step[]): boolean => {
    const drawn = drawLine(steps, moves, last, before, random);
    if (!drawn) return false;
    const flat = drawn.flatMap((index, k) => steps[k]!.offsets.map((offset) => index + offset));
    let at = 0;
    for (const b of bars) {
      line[b] = flat.slice(at, at + rhythm[b]!.length);
      at += rhythm[b]!.length;
    }
    if (flat.length > 0) {
      before = flat.at(-2) ?? last;
      last = flat.at(-1)!;
    }
    return true;
  };
  // The first bar is the motif; then phrase by phrase, so that each knows what it copies and how it ends.
  for (let b = 0; b < o.bars;) {
    const until = b === 0 && plan[0]!.cadence === null ? 1 : endOf(plan, b);
    const bars = Array.from({ length: until - b }, (_, i) => b + i);
    const together = put(
      bars,
      bars.flatMap((one) => stepsOf(one, false)),
    );
    // A figure that fits nowhere in the register gives way.
    if (
      !together &&
      !put(
        bars,
        bars.flatMap((one) => stepsOf(one, true)),
      )
    )
      for (const one of bars) line[one] = rhythm[one]!.map(() => 0);
    b = until;
  }
  const notes = rhythm.flatMap((slots, b) =>
    slots.map(({ start, length }, i) => ({ start, length, pitch: pitches[line[b]![i]!]! })),
  );
  return { notes, says: sentence(o, wish, notes, plan) };
}

/** The bar after the one in which the phrase of a bar ends. */
function endOf(plan: readonly BarPlan[], from: number): number {
  const end = plan.findIndex(({ cadence }, b) => b >= from && cadence !== null);
  return end < 0 ? plan.length : end + 1;
}

/** Bars of a phrase: as asked, where the line has as many. */
function phraseBars(o: IdeaOptions, { form, bars }: PhraseWish): number {
  if (form === "sentence") return o.bars;
  if (form === "AABA") return Math.max(1, Math.floor(o.bars / 4));
  if (form === "period") return Math.max(1, Math.min(bars, Math.floor(o.bars / 2)));
  return Math.min(bars, o.bars);
}

function planOf(o: IdeaOptions, wish: PhraseWish, random: Random): BarPlan[] {
  const size = phraseBars(o, wish);
  const plan = Array.from({ length: o.bars }, (_, b): BarPlan => {
    const ends = (b + 1) % size === 0 || b === o.bars - 1;
    return { copies: null, moved: false, half: false, cadence: ends ? "open" : null };
  });
  plan.at(-1)!.cadence = "closed";
  const copy = (b: number, copies: number, more: Partial<BarPlan> = {}) => {
    if (plan[b] && copies < b) plan[b] = { ...plan[b], copies, ...more };
  };
  if (wish.form === "period") {
    for (let from = size; from < o.bars; from += size) {
      if ((from / size) % 2 === 0) continue;
      plan[Math.min(o.bars, from + size) - 1]!.cadence = "closed";
      // The same beginning, another end.
      if (size === 1) copy(from, from - 1, { half: true });
      else for (let i = 0; i < size / 2; i++) copy(from + i, from - size + i);
    }
  } else if (wish.form === "sentence" && o.bars >= 4) {
    const unit = Math.floor(o.bars / 4);
    for (let i = 0; i < unit; i++) copy(unit + i, i, { moved: true });
  } else if (wish.form === "AABA" && o.bars >= 4) {
    for (const part of [1, 3]) for (let i = 0; i < size; i++) copy(part * size + i, i);
  }
  // As many bars as asked carry the motif, by their form or because they were chosen to.
  const wanted = (o.repetition / 100) * (o.bars - 1);
  const most = Math.floor(wanted) + (random() < wanted % 1 ? 1 : 0);
  const free = plan.flatMap(({ copies }, b) => (b === 0 || copies !== null ? [] : [b]));
  while (free.length > 0 && carrying(plan) < most) {
    const [b] = free.splice(Math.floor(random() * free.length), 1);
    const before = plan[b!]!;
    copy(b!, 0, { moved: random() < 0.7 });
    if (carrying(plan) > most) plan[b!] = before;
  }
  return plan;
}

/** How many bars after the first carry its motif, through others too. */
function carrying(plan: readonly BarPlan[]): number {
  const roots: number[] = [];
  plan.forEach(({ copies }, b) => (roots[b] = copies === null ? b : roots[copies]!));
  return roots.filter((root, b) => b > 0 && root === 0).length;
}

/** The rhythm of all bars: copies have their source's, and a phrase ends on a long note on a beat, with a breath after. */
function rhythmOf(o: IdeaOptions, plan: readonly BarPlan[], bar: Ticks, random: Random): Slot[][] {
  const inBar: Slot[][] = [];
  plan.forEach(({ copies, half }, b) => {
    let own = copies === null || half ? barOf(o, bar, random) : inBar[copies]!;
    if (copies !== null && half) {
      const head = inBar[copies]!.filter(({ start }) => start < bar / 2);
      own = [...head, ...own.filter(({ start }) => start >= bar / 2)];
    }
    if (own.length === 0 && b === 0) own = fillRhythm(bar, o.values, random).slice(0, 1);
    inBar.push(own);
  });
  const all = inBar.flat();
  const mean = all.reduce((sum, { length }) => sum + length, 0) / Math.max(1, all.length);
  return plan.map(({ cadence }, b) => {
    const slots = cadence ? ended(inBar[b]!, o, bar, mean) : inBar[b]!;
    return slots.map((slot) => ({ ...slot, start: slot.start + b * bar }));
  });
}

/** A bar that comes to rest: its last note on the latest beat from which it is long enough, and a breath after it. */
function ended(slots: readonly Slot[], o: IdeaOptions, bar: Ticks, mean: Ticks): Slot[] {
  const beat = beatTicks(o.metre);
  const breath = Math.min(bar / 4, BREATH * beat);
  const enough = LONGER * mean * 1.08;
  const beats = Math.round(bar / beat);
  let at = 0;
  for (let k = Math.floor(beats / 2); k >= 1; k--)
    if (bar - k * beat - breath >= enough) {
      at = k * beat;
      break;
    }
  const before = slots
    .filter(({ start }) => start < at)
    .map((slot) => ({ ...slot, length: Math.min(slot.length, at - slot.start) }));
  const longest = bar - at - (bar - at - breath >= enough ? breath : 0);
  return [...before, { start: at, length: longest }];
}

/**
 * The start of the one highest note: nearest to where it is asked for, rather on a beat, and never a phrase's last. A
 * bar that comes again would bring it twice; one that is a copy goes its own way from its middle on.
 */
function climaxOf(
  rhythm: readonly Slot[][],
  plan: BarPlan[],
  wanted: Ticks,
  o: IdeaOptions,
): Ticks {
  const [bar, beat] = [barTicks(o.metre), beatTicks(o.metre)];
  const sources = new Set(
    plan.flatMap(({ copies, moved }) => (copies === null || moved ? [] : [copies])),
  );
  let [best, least, at] = [0, Infinity, 0];
  rhythm.forEach((slots, b) =>
    slots.forEach(({ start }, i) => {
      const lasts = plan[b]!.cadence !== null && i === slots.length - 1;
      const copied = plan[b]!.copies !== null && start - b * bar < bar / 2;
      const away =
        Math.abs(start - wanted) +
        (start % beat === 0 ? 0 : beat / 2) +
        (lasts ? 16 * beat : 0) +
        (sources.has(b) || copied ? 4 * beat : 0);
      if (away < least) [best, least, at] = [start, away, b];
    }),
  );
  if (plan[at]!.copies !== null) plan[at] = { ...plan[at]!, half: true };
  return best;
}

/** The highest note: near the top of the register, and of the chord where it stands on a beat. */
function topOf(
  o: IdeaOptions,
  pitches: readonly MidiPitch[],
  climax: Ticks,
  random: Random,
): number {
  const high = pitches.length - 1;
  const near = pitches.flatMap((_, i) =>
    i > high - Math.max(1, Math.min(5, high / 3)) ? [i] : [],
  );
  const tones = near.filter((i) => classesAt(o, climax).has(pitches[i]! % 12));
  const from = climax % beatTicks(o.metre) === 0 && tones.length > 0 ? tones : near;
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

function movesOf(o: IdeaOptions, pitches: readonly MidiPitch[]): Moves {
  const size = pitches.length;
  const weight = (from: number, to: number) => {
    const far = Math.abs(pitches[to]! - pitches[from]!) > o.leap;
    return (STEPS[Math.abs(to - from)] ?? FAR) * (far ? AGAINST : 1);
  };
  const table = Float64Array.from({ length: size * size }, (_, i) =>
    weight(Math.floor(i / size), i % size),
  );
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

function sentence(
  o: IdeaOptions,
  wish: PhraseWish,
  notes: PhrasedLine["notes"],
  plan: readonly BarPlan[],
): string {
  const size = phraseBars(o, wish);
  const count = Math.ceil(o.bars / size);
  const of = plural(size, "bar");
  const highest = notes.reduce((best, note) => (note.pitch > best.pitch ? note : best), notes[0]!);
  const peak = `${wish.contour === "drawn" ? "your curve" : wish.contour} to ${pitchName(highest.pitch)}`;
  const above = (notes.at(-1)!.pitch - o.key.root + 120) % 12;
  const ending = above === 0 ? "the root" : above === 3 || above === 4 ? "the third" : "no rest";
  const carried = plan.filter(({ copies }) => copies === 0).length;
  const motif = carried > 0 ? `, motif in ${carried + 1} of ${plural(o.bars, "bar")}` : "";
  if (wish.form === "period" && count > 1)
    return `question of ${of}, ${peak}, answer ends on ${ending}${motif}`;
  const what = { period: "phrase", sentence: "sentence", AABA: "AABA", phrases: "phrase" }[
    wish.form
  ];
  const many =
    what === "phrase" && count > 1 ? `${plural(count, "phrase")} of ${of}` : `${what} of ${of}`;
  const whole = wish.form === "AABA" ? `AABA, each of ${of}` : many;
  return `${whole}, ${peak}, ends on ${ending}${motif}`;
}
