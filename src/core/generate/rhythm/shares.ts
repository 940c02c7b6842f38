import type { Ticks } from "../../base";
import { type Slot, type ValueWeight, valueTicks } from "./slots";

/** Shares of the time that notes sound, 0–1: what a note value has, what it is to have, and how far these are apart. */
export interface ValueShare {
  value: ValueWeight;
  has: number;
  wanted: number;
  off: number;
}

/** What of their time notes give each value of a mix; a note of another length counts for none. */
export function sharesOf(
  notes: readonly Pick<Slot, "length">[],
  values: readonly ValueWeight[],
): ValueShare[] {
  const whole = values.reduce((sum, { weight }) => sum + weight, 0);
  const time = new Map<Ticks, number>();
  let all = 0;
  for (const { length } of notes) {
    time.set(length, (time.get(length) ?? 0) + length);
    all += length;
  }
  return values.map((value) => {
    const has = (time.get(valueTicks(value)) ?? 0) / Math.max(1, all);
    const wanted = value.weight / whole;
    return { value, has, wanted, off: Math.abs(has - wanted) };
  });
}
