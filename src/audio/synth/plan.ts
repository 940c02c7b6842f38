import type { Cents, Hertz, Pan, Seconds, Semitones } from "@/core/base";
import type { BendPoint } from "./bends";
import type { BodyValues } from "./body-sound";
import type { Line } from "./line";
import type { SilenceOrder } from "./silence";
import type { WaveShape } from "./waves";

/** One wave of a voice. Times of its lines are seconds after the note begins, as of all lines of a plan. */
export interface WavePlan {
  shape: WaveShape;
  hz: Line;
  cents?: Cents;
  level: Line;
  /** What bends it: a sine, and by how many Hz. */
  fm?: { hz: Line; depth: Line };
  /** It has died away by then. */
  until?: Seconds;
}

/** All that one note sounds with, so that another thread can make it. */
export interface VoicePlan {
  waves: readonly WavePlan[];
  /** A recording in place of waves, by its name: played once. */
  sample?: string;
  /** Noise through a band. */
  breath?: { hz: Hertz; q: number; level: Line };
  /** A low-pass over all of it, whose Q is in decibels. */
  filter?: { hz: Line; q: number };
  /** Bands beside each other after it. */
  formants?: readonly (readonly [hz: Hertz, q: number, level: number])[];
  /** Trembles by so many cents; with all others of its sound, or from its own beginning. */
  vibrato?: { hz: Hertz; cents: Line; together: boolean };
  /** Level of the note. */
  level: Line;
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
export type VoiceOrder =
  | ({ say: "begin" } & Beginning)
  /** A voice falls silent from a time on, with a time constant, and is over at `over`. */
  | { say: "fade"; id: number; at: Seconds; tau: Seconds; over: Seconds }
  | SilenceOrder
  | { say: "sample"; name: string; samples: Float32Array }
  /** What all notes go through together is another from now on. */
  | { say: "body"; values: BodyValues }
  /** The hand bends by so many semitones; the curve goes on; the curve is forgotten. */
  | { say: "bend"; by: Semitones }
  | { say: "curve"; points: readonly BendPoint[] }
  | { say: "straight" };
