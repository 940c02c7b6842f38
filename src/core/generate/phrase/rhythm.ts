import type { PhrasedOptions } from "./options";
import { type Random, type Ticks, nth } from "../../base";
import { barTicks, beatTicks } from "../../time";
import type { BarPlan } from "./plan";
import {
  barOf,
  exactly,
  keptPlaces,
  onlyPlaces,
  rhythmPlaces,
  type NoteSlot,
} from "../rhythm/places";
import { fillRhythm, type Slot } from "../rhythm/slots";

/** A last note is at least so many times as long as the others on average; after it a breath, in beats. */
const LONGER = 1.8;
const BREATH = 0.5;
/** The rhythm of all bars: copies have their source's, and a phrase ends on a long note on a beat, with a breath after. */
export function rhythmOf(
  options: PhrasedOptions,
  plan: BarPlan[],
  pickup: boolean,
  random: Random,
): NoteSlot[][] {
  const bar = barTicks(options.metre);
  const given = givenOf(options, bar);
  if (given) return byBar(given, options.bars);
  const inBar: Slot[][] = [];
  plan.forEach(({ copies, half }, b) => {
    let own =
      copies === null || half || options.follow
        ? barOf(options, bar, random, b)
        : nth(inBar, copies);
    if (copies !== null && nth(plan, b).otherRhythm && !options.follow) {
      const other = otherRhythm(own, bar);
      plan[b] = { ...nth(plan, b), otherRhythm: other !== null };
      own = other ?? own;
    }
    if (copies !== null && half && !options.follow) {
      const tail = own.filter(({ start }) => start >= bar / 2);
      const until = tail[0]?.start ?? bar;
      const head = nth(inBar, copies).filter(({ start }) => start < bar / 2);
      own = [
        ...head.map(({ start, length }) => ({ start, length: Math.min(length, until - start) })),
        ...tail,
      ];
    }
    // A bar that is kept is a motif for others too.
    if (options.keepBars.includes(b))
      own = keptPlaces(options.kept, b, bar).map(({ start, length }) => ({
        start: Math.max(0, start - b * bar),
        length,
      }));
    if (own.length === 0 && b === 0) own = fillRhythm(bar, options.values, random).slice(0, 1);
    inBar.push(own);
  });
  const all = inBar.flat();
  const mean = all.reduce((sum, { length }) => sum + length, 0) / Math.max(1, all.length);
  const made = plan.map(({ cadence }, b): NoteSlot[] => {
    if (options.keepBars.includes(b)) return keptPlaces(options.kept, b, bar);
    // What goes with another part keeps its places to the end.
    let slots =
      cadence && !options.follow ? ended(nth(inBar, b), options, bar, mean) : nth(inBar, b);
    if (cadence && pickup && !options.follow && !options.pitches) {
      const led = withPickups(slots, bar, beatTicks(options.metre), random);
      plan[b] = { ...nth(plan, b), pickups: led.length - slots.length };
      slots = led;
    }
    return slots.map((slot) => ({
      ...{ ...slot, start: slot.start + b * bar, bar: b, velocity: null },
    }));
  });
  if (!options.pitches) return made;
  const kept = made.flat().filter((place) => place.fixed).length;
  return byBar(exactly(made.flat(), options.pitches.length + kept, random), options.bars);
}

/** The places that are given: a rhythm that is kept, or all notes of which only some are to change. */
function givenOf(options: PhrasedOptions, bar: Ticks): NoteSlot[] | null {
  if (options.only) return onlyPlaces(options.only, bar, options.bars);
  return options.rhythm && rhythmPlaces(options, options.rhythm, bar);
}

const byBar = (places: readonly NoteSlot[], bars: number): NoteSlot[][] =>
  Array.from({ length: bars }, (_, bar) => places.filter((place) => place.bar === bar));

/** The lengths of a bar from back to front, or its halves exchanged; null where neither is another rhythm. */
function otherRhythm(slots: readonly Slot[], bar: Ticks): Slot[] | null {
  const back = slots
    .map(({ start, length }) => ({ start: bar - start - length, length }))
    .reverse();
  const half = bar / 2;
  const first = slots.filter(({ start }) => start < half);
  const whole = first.every(({ start, length }) => start + length <= half);
  const exchanged = [
    ...slots.slice(first.length).map((slot) => ({ ...slot, start: slot.start - half })),
    ...first.map((slot) => ({ ...slot, start: slot.start + half })),
  ];
  const differs = (other: readonly Slot[]) =>
    other[0]?.start === 0 && other.some(({ start }, i) => start !== nth(slots, i).start);
  return [back, ...(whole ? [exchanged] : [])].find(differs) ?? null;
}

/** A bar that comes to rest: its last note on the latest beat from which it is long enough, and a breath after it. */
function ended(slots: readonly Slot[], options: PhrasedOptions, bar: Ticks, mean: Ticks): Slot[] {
  const beat = beatTicks(options.metre);
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

/** One or two notes at the end of a bar, after the breath: where there is room for them before the bar line. */
function withPickups(slots: readonly Slot[], bar: Ticks, beat: Ticks, random: Random): Slot[] {
  const last = slots.at(-1);
  const half = beat / 2;
  for (const count of random() < 0.5 ? [1] : [2, 1]) {
    const first = bar - count * half;
    const length = Math.min(last?.length ?? 0, first - BREATH * beat - (last?.start ?? 0));
    if (!last || length < half) continue;
    const led = Array.from({ length: count }, (_, i) => ({
      start: first + i * half,
      length: half,
    }));
    return [...slots.slice(0, -1), { ...last, length }, ...led];
  }
  return [...slots];
}

/** In beats, how unwelcome the highest note is: in another third than asked, last of all, and last of a question. */
const ELSEWHERE = 20;
const AT_LAST = 16;
const AT_OPEN = 0.9;
/** The same where it spoils a motif that comes again, and where only the rest of its bar goes another way then. */
const SPOILS = 4;
const BENDS = 1;

/**
 * The start of the one highest note: nearest to where it is asked for, in the same third, rather on a beat, and last of
 * all only where nothing else is left. A bar that comes again would bring it twice: its copies go their own way from
 * the middle on, as does one that is a copy.
 */
export function climaxOf(
  rhythm: readonly Slot[][],
  plan: BarPlan[],
  wanted: Ticks,
  options: PhrasedOptions,
): Ticks {
  const [bar, beat] = [barTicks(options.metre), beatTicks(options.metre)];
  const sources = new Set(
    plan.flatMap(({ copies, moved }) => (copies === null || moved ? [] : [copies])),
  );
  const whole = options.bars * bar;
  const third = (tick: Ticks) => Math.min(2, Math.floor((3 * tick) / whole));
  let [best, least, at] = [0, Infinity, 0];
  rhythm.forEach((slots, b) =>
    slots.forEach(({ start }, i) => {
      const lasts = nth(plan, b).cadence !== null && i >= slots.length - 1 - nth(plan, b).pickups;
      const early = start - b * bar < bar / 2;
      const spoilt = Number(sources.has(b)) + Number(nth(plan, b).copies !== null);
      const unwelcome =
        (start % beat === 0 ? 0 : 0.5) +
        (third(start) === third(wanted) ? 0 : ELSEWHERE) +
        (lasts ? (nth(plan, b).cadence === "open" ? AT_OPEN : AT_LAST) : 0) +
        spoilt * (early ? SPOILS : BENDS);
      const away = Math.abs(start - wanted) + unwelcome * beat;
      if (away < least) [best, least, at] = [start, away, b];
    }),
  );
  const late = best - at * bar >= bar / 2;
  plan.forEach((one, bar) => {
    const again = late && one.copies === at && !one.moved;
    if (again || (bar === at && one.copies !== null)) plan[bar] = { ...one, half: true };
  });
  return best;
}
