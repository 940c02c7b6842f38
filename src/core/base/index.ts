export { byId } from "./by-id";
export { modulo } from "./modulo";
export { ordinal, plural } from "./plural";
export { type Random, bell, pickWeighted, roundedByChance, seeded } from "./random";
export { firstIndex, lowerBound } from "./search";
export { mean, median } from "./statistics";
export type {
  Bpm,
  Cents,
  Decibels,
  Hertz,
  MidiPitch,
  Milliseconds,
  Pan,
  Percent,
  Seconds,
  Semitones,
  Ticks,
  Velocity,
} from "./units";
export { clamp, clampTo, clampVelocity } from "./clamp";
export { lastOf, mapTuple, must, mustGet, nth } from "./must";
export { type NumberChange, changedTogether, readNumber, readNumberChange } from "./number-change";
