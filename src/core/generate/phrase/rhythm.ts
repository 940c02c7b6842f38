import type { PhrasedOptions } from "./options";
import { type Random, type Ticks, nth } from "../../base";
import { barTicks, beatTicks } from "../../time";
import type { BarPlan } from "./plan";
import { exactly, onlyPlaces, rhythmPlaces, type NoteSlot } from "../rhythm/places";
import type { Slot } from "../rhythm/slots";
import { LineRhythm } from "./line-rhythm";

/**
 * The rhythm of all bars. What could not be had of the plan is taken out of it: a motif in another rhythm where there is
 * none, notes that lead on where there is no room.
 */
export function rhythmOf(
  options: PhrasedOptions,
  plan: BarPlan[],
  pickup: boolean,
  random: Random,
): NoteSlot[][] {
  const bar = barTicks(options.metre);
  const given = givenOf(options, bar);
  if (given) return byBar(given, options.bars);
  const line = new LineRhythm(options, plan, pickup && !options.pitches, random);
  line.plan.forEach((had, b) => (plan[b] = had));
  const made = line.slots;
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
