/** What was looked for; an error where it is not there, which says what that was. */
export function must<T>(found: T | null | undefined, what = "what was looked for"): T {
  if (found === null || found === undefined) throw new Error(`There is not ${what}`);
  return found;
}

/**
 * The element at a place of a list, from 0. Throws a RangeError beyond its ends. Called with lists of every
 * kind it is slower than a look-up in place: loops over all notes or samples go over their lists themselves.
 */
export function nth<T>(list: readonly T[], index: number): T {
  const found = list[index];
  if (found === undefined) throw new RangeError(`No element ${index} in a list of ${list.length}`);
  return found;
}

/** The last element of a list. Throws a RangeError where it is empty. */
export const lastOf = <T>(list: readonly T[]): T => nth(list, list.length - 1);

/** What a map holds under a key. Throws a RangeError where it holds nothing there. */
export function mustGet<K, V>(map: ReadonlyMap<K, V>, key: K): V {
  const found = map.get(key);
  if (found === undefined) throw new RangeError(`Nothing is kept under ${String(key)}`);
  return found;
}

/** A tuple of as many: each element through a function, as `map`, which forgets how many there are. */
export function mapTuple<T extends readonly unknown[], U>(
  tuple: readonly [...T],
  change: (element: T[number]) => U,
): { [At in keyof T]: U } {
  return tuple.map(change) as { [At in keyof T]: U };
}
