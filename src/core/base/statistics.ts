import { nth } from "./must";

/** The middle of some values, between two of them where they are even in number; null of none. */
export function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2
    ? nth(sorted, middle)
    : (nth(sorted, middle - 1) + nth(sorted, middle)) / 2;
}

/** The arithmetic mean; 0 of none. */
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
