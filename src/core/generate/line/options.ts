import { oneOf, wholeIn } from "../../params";
import type { Harmony, Locks, Loudness, Register, Returns } from "../common/options";
import { TONES, type Tone } from "../common/tones";

export const POOLS = ["scale", "chords"] as const;

/** What the pitches of a line are made of. */
export interface LineOptions extends Harmony, Register, Locks, Returns, Loudness {
  /** Pitches come from the scale, or only from the chord that holds (where there is one). */
  pool: (typeof POOLS)[number];
  /** Largest leap in semitones, 1–24. */
  leap: number;
  /** What the first and last note are of the chord there. */
  startOn: Tone;
  endOn: Tone;
  /** Notes at a time, 1–4: further voices lie below the line on tones of the chord; a pad or stab has as many tones. */
  voices: number;
  /** Keep these pitches in this order and ask only for a rhythm; null for new pitches. */
  pitches: readonly number[] | null;
}

export const lineDefaults = {
  pool: "scale",
  leap: 12,
  startOn: "chord tone",
  endOn: "chord tone",
  voices: 1,
  pitches: null,
} satisfies Partial<LineOptions>;

export const lineShape = {
  pool: oneOf(POOLS),
  leap: wholeIn(1, 24),
  startOn: oneOf(TONES),
  endOn: oneOf(TONES),
  voices: wholeIn(1, 4),
};
