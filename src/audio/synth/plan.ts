import type { Cents, Hertz, Pan, Seconds, Semitones } from "@/core/base";
import type { BendPoint } from "./bends";
import type { PatchValues } from "./patch-sound";
import type { Curve } from "./curve-reader";
import type { SilenceCommand } from "./silence";
import type { WaveShape } from "./waves";

/** One wave of a voice. Times of its lines are seconds after the note begins, as of all lines of a plan. */
export interface WavePlan {
  shape: WaveShape;
  hz: Curve;
  cents?: Cents;
  level: Curve;
  /** What bends it: a sine, and by how many Hz. */
  fm?: { hz: Curve; depth: Curve };
  /** It has died away by then. */
  until?: Seconds;
}

/** All that one note sounds with, so that another thread can make it. */
export interface VoicePlan {
  waves: readonly WavePlan[];
  /** A recording in place of waves, by its name: played once. */
  sample?: string;
  /** Noise through a band. */
  breath?: { hz: Hertz; q: number; level: Curve };
  /** A low-pass over all of it, whose Q is in decibels. */
  filter?: { hz: Curve; q: number };
  /** Bands beside each other after it. */
  formants?: readonly (readonly [hz: Hertz, q: number, level: number])[];
  /** Trembles by so many cents; with all others of its sound, or from its own beginning. */
  vibrato?: { hz: Hertz; cents: Curve; together: boolean };
  /** Level of the note. */
  level: Curve;
}

/** A voice that is to begin: when, where in the stereo picture, and whether a hand holds it. */
export interface Beginning {
  id: number;
  time: Seconds;
  pan: Pan;
  held: boolean;
  plan: VoicePlan;
}

/** What is said to the thread of the voices. */
export type VoiceCommand =
  | ({ type: "begin" } & Beginning)
  /** A voice falls silent from a time on, with a time constant, and is over at `over`. */
  | { type: "fade"; id: number; at: Seconds; tau: Seconds; over: Seconds }
  | SilenceCommand
  | { type: "sample"; name: string; samples: Float32Array }
  /** What all notes go through together is another from now on. */
  | { type: "patch"; values: PatchValues }
  /** The hand bends by so many semitones; the curve goes on; the curve is forgotten. */
  | { type: "bend"; by: Semitones }
  | { type: "curve"; points: readonly BendPoint[] }
  | { type: "straight" };
