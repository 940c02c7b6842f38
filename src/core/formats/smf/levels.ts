import { type Decibels, clamp } from "../../base";

/** The controller value that is 0 dB here. */
const VOLUME_0_DB = 100;
/** The level of the largest value, 127, in dB. */
export const LOUDEST = 4.2;
/**
 * A level in dB as MIDI controller 7 (0–127): 0 dB is 100, after General MIDI 2’s recommended law
 * 40·log10(cc/127), shifted so.
 */
export function levelToVolume(db: Decibels): number {
  return db <= -60 ? 0 : Math.min(127, Math.round(VOLUME_0_DB * 10 ** (db / 40)));
}
/**
 * MIDI controller 7 (0–127) as a level in dB, −60 for silence; the other way round of
 * `levelToVolume`.
 */
export function volumeToLevel(value: number): number {
  if (value === 0) return -60;
  return clamp(Math.round(400 * Math.log10(value / VOLUME_0_DB)) / 10, -60, 6);
}
