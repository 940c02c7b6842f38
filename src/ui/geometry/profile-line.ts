import { clamp } from "@/core/base";

/** What is drawn between the bottom and the top. */
export interface Scale {
  min: number;
  max: number;
}

/** Height of the strip of a profile, and the lines that the least and the greatest value lie on, in px. */
export const HEIGHT = 53;
const FLOOR = HEIGHT - 4;
const CEILING = 7;

/** How far from a stem a press still takes it, in px. */
export const REACH = 9;

/** Where a value lies, in px from the top. */
export const yOf = ({ min, max }: Scale, value: number): number =>
  FLOOR - ((clamp(value, min, max) - min) / (max - min)) * (FLOOR - CEILING);

/** The value at a height, held to what is drawn. */
export const valueAt = (profile: Scale, y: number): number =>
  clamp(profile.min + valueOfPixels(profile, FLOOR - y), profile.min, profile.max);

/** How much of a value so many px are. */
export const valueOfPixels = ({ min, max }: Scale, pixels: number): number =>
  (pixels / (FLOOR - CEILING)) * (max - min);
