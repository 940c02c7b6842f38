import { type Random, roundedByChance, nth, must, lastOf } from "../../base";
import type { PhrasedOptions, PhraseWish } from "./options";

/** What a bar is: new, or one that was there again, from its own pitch or moved; and whether a phrase ends in it. */
export interface BarPlan {
  copies: number | null;
  moved: boolean;
  /** Only its first half is copied. */
  half: boolean;
  /** Its intervals go the other way. */
  turned: boolean;
  /** It has the intervals in another rhythm. */
  otherRhythm: boolean;
  cadence: "open" | "closed" | null;
  /** Notes at its end that lead into the next phrase. */
  pickups: number;
}

/** Bars of a phrase: as asked, where the line has as many. */
export function phraseBars(options: PhrasedOptions, { form, bars }: PhraseWish): number {
  if (form === "sentence") return options.bars;
  if (form === "AABA") return Math.max(1, Math.floor(options.bars / 4));
  if (form === "period") return Math.max(1, Math.min(bars, Math.floor(options.bars / 2)));
  return Math.min(bars, options.bars);
}

/** The bar after the one in which the phrase of a bar ends. */
export function endOf(plan: readonly BarPlan[], from: number): number {
  const end = plan.findIndex(({ cadence }, bar) => bar >= from && cadence !== null);
  return end < 0 ? plan.length : end + 1;
}

/** What each bar of a line is, by its form and by how often its motif is to come again. */
export function planOf(options: PhrasedOptions, wish: PhraseWish, random: Random): BarPlan[] {
  const size = phraseBars(options, wish);
  const plan = Array.from({ length: options.bars }, (_, bar): BarPlan => {
    const ends = (bar + 1) % size === 0 || bar === options.bars - 1;
    return {
      copies: null,
      moved: false,
      half: false,
      turned: false,
      otherRhythm: false,
      cadence: ends ? "open" : null,
      pickups: 0,
    };
  });
  lastOf(plan).cadence = "closed";
  const copy = (bar: number, copies: number, more: Partial<BarPlan> = {}) => {
    if (plan[bar] && copies < bar) plan[bar] = { ...plan[bar], copies, ...more };
  };
  if (wish.form === "period") {
    for (let from = size; from < options.bars; from += size) {
      if ((from / size) % 2 === 0) continue;
      nth(plan, Math.min(options.bars, from + size) - 1).cadence = "closed";
      // The same beginning, another end.
      if (size === 1) copy(from, from - 1, { half: true });
      else for (let i = 0; i < size / 2; i++) copy(from + i, from - size + i);
    }
  } else if (wish.form === "sentence" && options.bars >= 4) {
    const unit = Math.floor(options.bars / 4);
    for (let i = 0; i < unit; i++) copy(unit + i, i, { moved: true });
  } else if (wish.form === "AABA" && options.bars >= 4) {
    for (const part of [1, 3]) for (let i = 0; i < size; i++) copy(part * size + i, i);
  }
  // As many bars as asked carry the motif, by their form or because they were chosen to.
  const most = roundedByChance((options.repetition / 100) * (options.bars - 1), random);
  const free = plan.flatMap(({ copies }, bar) => (bar === 0 || copies !== null ? [] : [bar]));
  while (free.length > 0 && carrying(plan) < most) {
    const bar = must(free.splice(Math.floor(random() * free.length), 1)[0]);
    const before = nth(plan, bar);
    const way = wayOf(random());
    // A bar that comes to rest is too short for another rhythm to be heard as one.
    copy(bar, 0, way.otherRhythm && before.cadence ? { moved: true } : way);
    if (carrying(plan) > most) plan[bar] = before;
  }
  return plan;
}

/** How a motif comes again: moved along the scale, as it was, turned over, in another rhythm, or its beginning alone. */
function wayOf(drawn: number): Partial<BarPlan> {
  if (drawn < 0.45) return { moved: true };
  if (drawn < 0.65) return { moved: false };
  if (drawn < 0.8) return { moved: true, turned: true };
  return drawn < 0.9 ? { moved: true, otherRhythm: true } : { moved: true, half: true };
}

/** How many bars after the first carry its motif, through others too. */
export function carrying(plan: readonly BarPlan[]): number {
  const roots: number[] = [];
  plan.forEach(({ copies }, bar) => (roots[bar] = copies === null ? bar : nth(roots, copies)));
  return roots.filter((root, bar) => bar > 0 && root === 0).length;
}
