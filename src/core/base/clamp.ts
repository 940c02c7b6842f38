import type { Velocity } from "./units";

/** A number held to a range; to its upper end where the range is turned about. */
export const clamp = (value: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, value));

/** The same for a range that is described by its ends, as those of `LIMITS`. */
export const clampTo = (value: number, { min, max }: { min: number; max: number }): number =>
  clamp(value, min, max);

/** A velocity as a whole number from 1 to 127. */
export const clampVelocity = (value: number): Velocity => clamp(Math.round(value), 1, 127);
