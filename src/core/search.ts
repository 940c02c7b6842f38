/** Index of the first value not below `target` in an ascending list. */
export function lowerBound(values: readonly number[], target: number): number {
  let low = 0;
  let high = values.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! < target) low = middle + 1;
    else high = middle;
  }
  return low;
}
