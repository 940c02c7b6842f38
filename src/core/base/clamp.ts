import type { Velocity } from "./units";

/** A number held to a range; to its upper end where the range is turned about. */
export const clamp = (value: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, value));

/** A velocity as a whole number from 1 to 127. */
export const clampVelocity = (value: number): Velocity => clamp(Math.round(value), 1, 127);
