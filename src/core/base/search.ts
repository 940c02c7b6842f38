/** The first of so many indices that is not before what is looked for; all that are come first. */
export function firstIndex(length: number, isBefore: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (isBefore(middle)) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Index of the first value not below `target` in an ascending list. */
export const lowerBound = (values: readonly number[], target: number): number =>
  firstIndex(values.length, (i) => (values[i] ?? Infinity) < target);
