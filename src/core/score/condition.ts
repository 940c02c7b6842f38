import { clamp, must, ordinal } from "../base";
/**
 * In which loops a hit sounds, counted since its section began: `k/n` in the k-th of
 * every n, `not-k/n` in all but that; `not-first` in all but the first; `last` only in the last of a section,
 * `not-last` in all but that.
 */
export type Condition = `${number}/${number}` | `not-${number}/${number}` | (typeof NAMED)[number];

/** Conditions that count from a section's ends. */
const NAMED = ["not-first", "last", "not-last"] as const;

/** Loops that a condition may count in. */
export const MAX_LOOPS = 64;

/** A condition that counts: the k-th of every `of` rounds, or all but that. */
export interface CountedLoops {
  k: number;
  of: number;
  not: boolean;
}

/** What a condition that counts says; null for one that does not count, or is none. */
export function countedLoops(condition: string): CountedLoops | null {
  const found = /^(not-)?([1-9]\d?)\/([1-9]\d?)$/.exec(condition);
  if (!found) return null;
  const [k, of] = [Number(found[2]), Number(found[3])];
  return of >= 2 && of <= MAX_LOOPS && k <= of ? { k, of, not: found[1] !== undefined } : null;
}

/** The condition that counts as said. */
export const countedCondition = ({ k, of, not }: CountedLoops): Condition =>
  not ? `not-${k}/${of}` : `${k}/${of}`;

/** Whether a text is a condition. */
export const isCondition = (text: unknown): text is Condition =>
  typeof text === "string" &&
  ((NAMED as readonly string[]).includes(text) || countedLoops(text) !== null);

/** A note that sounds in so many of a hundred loops, held to 1–100; at 100 always. */
export function withChance<T extends { chance?: number }>(note: T, percent: number): T {
  const { chance: _, ...rest } = note;
  const whole = clamp(Math.round(percent), 1, 100);
  return (whole === 100 ? rest : { ...rest, chance: whole }) as T;
}

/** A note that sounds only where a condition holds; null for in every loop. */
export function withCondition<T extends { when?: Condition }>(note: T, when: Condition | null): T {
  const { when: _, ...rest } = note;
  return (when ? { ...rest, when } : rest) as T;
}

/** Whether a condition holds in a loop, from 0; `last` where the section has no loop after it. */
export function holds(condition: Condition, round: number, last: boolean): boolean {
  if (condition === "not-first") return round > 0;
  if (condition === "last") return last;
  if (condition === "not-last") return !last;
  const counted = countedLoops(condition);
  return counted === null || (round % counted.of === counted.k - 1) !== counted.not;
}

/** A condition in words. */
export function conditionName(condition: Condition): string {
  if (condition === "not-first") return "not in the first loop";
  if (condition === "last") return "only in the last loop of a section";
  if (condition === "not-last") return "not in the last loop of a section";
  const { k, of, not } = must(countedLoops(condition));
  if (not) return `in all loops of ${of} but the ${ordinal(k)}`;
  return k === of ? `every ${ordinal(of)} loop` : `in loop ${k} of ${of}`;
}

/**
 * The condition of one copy of a hit where a loop is written out `copies` times into a longer one, so that it sounds
 * in the very loops it did: `true` where it always does, `false` where it never does. `copy` counts from 0.
 */
export function conditionOfCopy(
  condition: Condition,
  copy: number,
  copies: number,
): Condition | boolean {
  if (condition === "not-first") return copy > 0 || condition;
  if (condition === "last") return copy === copies - 1 && condition;
  if (condition === "not-last") return copy < copies - 1 || condition;
  const counted = countedLoops(condition);
  if (!counted) return condition;
  const { k, of, not } = counted;
  // Long loop l is short loops l · copies + copy: those of them that are the k-th of every `of`.
  const every = of / commonDivisor(of, copies);
  for (let loop = 0; loop < every; loop++) {
    if ((loop * copies + copy) % of !== k - 1) continue;
    return every === 1 ? !not : countedCondition({ k: loop + 1, of: every, not });
  }
  return not;
}

const commonDivisor = (a: number, b: number): number => (b === 0 ? a : commonDivisor(b, a % b));
