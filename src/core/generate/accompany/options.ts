import { inRange } from "../../params";
import type { Harmony, Register } from "../common/options";
import type { RhythmOptions } from "../rhythm/options";

/** What a bass line is made of. */
export interface BassOptions extends Harmony, Register, RhythmOptions {
  /** Largest leap in semitones, 1–24. */
  leap: number;
  /** How often it steps into the next root, 0–100 %. */
  approach: number;
  /** How many of these steps come by a semitone, in the scale or not, 0–100 %. */
  chromatic: number;
}

/** What chords that accompany are made of. */
export interface BackingOptions extends Harmony, Register, RhythmOptions {
  /** Tones of a chord, 1–4. */
  voices: number;
}

export const bassDefaults = { approach: 60, chromatic: 0 } satisfies Partial<BassOptions>;

export const bassShape = { approach: inRange(0, 100), chromatic: inRange(0, 100) };
