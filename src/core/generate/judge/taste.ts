import { clamp, mustGet, nth } from "../../base";
import type { Measured } from "./measure";
import { measuresOf } from "./measures";

/** Measures of ideas of one kind that were starred and dropped, and of all that were shown. */
export interface Taste {
  liked: readonly (readonly number[])[];
  dropped: readonly (readonly number[])[];
  shown: readonly (readonly number[])[];
}

export const NO_TASTE: Taste = { liked: [], dropped: [], shown: [] };

/** So many of the ideas that were shown are remembered. */
const MAX_SHOWN = 240;
/** Weights beyond this say no more; and so many examples are needed for half of what they say. */
const MAX = 2;
const HALF = 2;

const mean = (rows: readonly (readonly number[])[], i: number) =>
  rows.reduce((sum, row) => sum + nth(row, i), 0) / rows.length;

/** A taste that knows these ideas besides, as shown, liked or dropped. */
export function learned(taste: Taste, how: keyof Taste, ideas: readonly Measured[]): Taste {
  const rows = [...taste[how], ...ideas.map(measuresOf)];
  return { ...taste, [how]: how === "shown" ? rows.slice(-MAX_SHOWN) : rows };
}

/** A taste that no longer knows one as liked or dropped. */
export function unlearned(taste: Taste, how: "liked" | "dropped", what: Measured): Taste {
  const sign = measuresOf(what).join();
  const at = taste[how].findIndex((row) => row.join() === sign);
  return at < 0 ? taste : { ...taste, [how]: taste[how].filter((_, i) => i !== at) };
}

/** Of each measure the middle and the standard deviation of all that is known. */
function usualOf({ liked, dropped, shown }: Taste): { middle: number; spread: number }[] {
  const all = [...shown, ...liked, ...dropped];
  return (all[0] ?? []).map((_, i) => {
    const middle = mean(all, i);
    const squares = all.reduce((sum, row) => sum + (nth(row, i) - middle) ** 2, 0);
    return { middle, spread: Math.sqrt(squares / all.length) };
  });
}

/**
 * What was liked more than what was dropped, measure by measure: how many standard deviations of what was shown lie
 * between their means, −2 to 2, less where there are few examples. None while nothing was liked or dropped.
 */
export function weightsOf(taste: Taste): number[] {
  const { liked, dropped } = taste;
  const count = liked.length + dropped.length;
  if (count === 0) return [];
  return usualOf(taste).map(({ middle, spread }, i) => {
    if (spread < 1e-9) return 0;
    const good = liked.length > 0 ? mean(liked, i) : middle;
    const bad = dropped.length > 0 ? mean(dropped, i) : middle;
    const apart = ((good - bad) / spread) * (count / (count + HALF));
    return clamp(apart, -MAX, MAX);
  });
}

/** Whether a taste goes anywhere. */
const leans = (taste: Taste): boolean => weightsOf(taste).some((weight) => weight !== 0);

/** How much ideas are to a taste: for each measure how far beyond what is usual, by its weight. */
export function scorer(taste: Taste): (what: Measured) => number {
  const weights = weightsOf(taste);
  const usual = usualOf(taste);
  return (what) => {
    const own = measuresOf(what);
    return weights.reduce((sum, weight, i) => {
      if (weight === 0) return sum;
      const { middle, spread } = nth(usual, i);
      // Far beyond is no better than beyond.
      return sum + weight * clamp((nth(own, i) - middle) / spread, -MAX, MAX);
    }, 0);
  };
}

/** So many times as many as a sheet holds are made where some are to be chosen. */
export const CHOICE = 4;

/** How many ideas to make so that a taste can choose a sheet of so many. */
export const toChooseFrom = (taste: Taste, count: number): number =>
  leans(taste) ? count * CHOICE : count;

/** So much of a sheet follows the taste; the rest is as it came, so that there is something new. */
const FOLLOWS = 2 / 3;

/** Of many ideas so many as a sheet holds: those nearest to the taste, and some that came first. */
export function chosenBy<I>(
  taste: Taste,
  ideas: readonly I[],
  count: number,
  measured: (idea: I) => Measured,
): I[] {
  if (!leans(taste)) return ideas.slice(0, count);
  const scoreOf = scorer(taste);
  const score = new Map(ideas.map((idea) => [idea, scoreOf(measured(idea))]));
  const best = [...ideas].sort((a, b) => mustGet(score, b) - mustGet(score, a));
  const first = best.slice(0, Math.ceil(count * FOLLOWS));
  const rest = ideas.filter((idea) => !first.includes(idea));
  return [...first, ...rest.slice(0, count - first.length)];
}
