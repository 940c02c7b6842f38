/** Values of which those that are plain are left out. */
export type Sparse<T> = { readonly [K in keyof T]?: T[K] };

/** A range of a number: ends, how far one step of a control goes, where it is plain, unit and label. */
export interface Range {
  min: number;
  max: number;
  step: number;
  plain: number;
  unit: string;
  label: string;
}

/**
 * Values with some changed; those back at their plain value are left out. Undefined when nothing is left,
 * so that what holds them can leave them out as well.
 */
export function changed<T extends object>(
  values: Sparse<T> | undefined,
  plain: Readonly<T>,
  change: Sparse<T>,
): Sparse<T> | undefined {
  const all = { ...values, ...change };
  const kept = (Object.keys(all) as (keyof T)[]).filter(
    (key) => all[key] !== undefined && all[key] !== plain[key],
  );
  return kept.length === 0
    ? undefined
    : (Object.fromEntries(kept.map((key) => [key, all[key]])) as Sparse<T>);
}

/** The plain values of ranges. */
export function plainOf<K extends string>(ranges: Readonly<Record<K, Range>>): Record<K, number> {
  return Object.fromEntries(
    Object.entries<Range>(ranges).map(([key, { plain }]) => [key, plain]),
  ) as Record<K, number>;
}
