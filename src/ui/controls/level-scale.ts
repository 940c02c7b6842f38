import { type Decibels, clamp } from "@/core/base";

/** A scale of levels on which what lies near 0 dB has most room. */
export interface LevelScale {
  min: Decibels;
  max: Decibels;
}

/** How much wider the top is drawn than the bottom. */
const BEND = 2;

/** Where a level stands, 0 at the bottom to 1 at the top. */
export function placeOf({ min, max }: LevelScale, db: Decibels): number {
  const share = (db - min) / (max - min);
  return clamp(share, 0, 1) ** BEND;
}

/** The level at a place, to half a decibel. */
export function levelAt({ min, max }: LevelScale, place: number): Decibels {
  const share = clamp(place, 0, 1) ** (1 / BEND);
  return Math.round((min + share * (max - min)) * 2) / 2;
}
