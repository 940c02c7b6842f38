import type { Decibels } from "../base";

/** A sound of the user's own on a pad: `id` is the content's hash, under which its bytes are kept. */
export interface SampleRef {
  id: string;
  name: string;
}

export const PAD_FILTERS = ["off", "lowpass", "highpass", "bandpass"] as const;
export type PadFilter = (typeof PAD_FILTERS)[number];

/** How one pad's sound is shaped, in the order in which it is done. */
export interface PadShape {
  /** Which pad, as a General MIDI percussion key. */
  pitch: number;
  /** The kit this pad is taken from; left out for the track's own. */
  from?: string;
  /** Which of the pad's likes, its voice with other values, sounds in its place: 1 and up; left out for itself. */
  variant?: number;
  /** How much goes to the reverb and to the echo, in dB; left out where nothing does. */
  reverb?: Decibels;
  echo?: Decibels;
  /** Own sample in place of the kit's sound. */
  sample: SampleRef | null;
  /** Where the sound starts, ms from its beginning. */
  start: number;
  /** Semitones; changes length with pitch, as a faster tape does. */
  tune: number;
  /** Length without pitch: 2 is twice as long. */
  stretch: number;
  /** Saturation, 0–100 %. */
  drive: number;
  filter: PadFilter;
  /** Hz. */
  cutoff: number;
  /** Quality factor of the filter; 0.71 has no peak. */
  resonance: number;
  /** ms until the sound has fallen by 60 dB and is cut; 0 leaves it as it is. */
  decay: number;
  /** −1 left … 1 right. */
  pan: number;
  /** dB. */
  level: number;
  /** Pads of one group (1–8) stop each other; 0 for none. */
  choke: number;
}

/** The whole kit: level in dB, pitch in semitones, time as a factor of length; and its shaped pads. */
export interface KitShape {
  level: number;
  pitch: number;
  time: number;
  pads: readonly PadShape[];
}

export type PadField = Exclude<
  keyof PadShape,
  "pitch" | "sample" | "filter" | "from" | "variant" | "reverb" | "echo"
>;

/** So many likes a pad has. */
export const MAX_VARIANTS = 9999;

/** Ranges of the numbers, with how far one step of a control goes. */
export const PAD_RANGES: Readonly<
  Record<PadField, { min: number; max: number; step: number; unit: string; label: string }>
> = {
  start: { min: 0, max: 600_000, step: 1, unit: "ms", label: "Start" },
  tune: { min: -36, max: 36, step: 0.5, unit: "st", label: "Pitch" },
  stretch: { min: 0.25, max: 4, step: 0.05, unit: "×", label: "Stretch" },
  drive: { min: 0, max: 100, step: 1, unit: "%", label: "Drive" },
  cutoff: { min: 20, max: 20_000, step: 10, unit: "Hz", label: "Cutoff" },
  resonance: { min: 0.3, max: 16, step: 0.1, unit: "Q", label: "Resonance" },
  decay: { min: 0, max: 20_000, step: 5, unit: "ms", label: "Decay" },
  pan: { min: -1, max: 1, step: 0.01, unit: "", label: "Pan" },
  level: { min: -48, max: 12, step: 0.5, unit: "dB", label: "Level" },
  choke: { min: 0, max: 8, step: 1, unit: "", label: "Choke group" },
};

export const KIT_RANGES = {
  level: { min: -48, max: 12, step: 0.5, unit: "dB", label: "Level" },
  pitch: { min: -24, max: 24, step: 0.5, unit: "st", label: "Pitch" },
  time: { min: 0.25, max: 4, step: 0.05, unit: "×", label: "Time" },
} as const;

/** Hats of the percussion map: a closed one stops an open one (common practice). */
const HATS = new Set([42, 44, 46]);

/** A pad as the kit has it. */
export function plainPad(pitch: number): PadShape {
  return {
    pitch,
    sample: null,
    start: 0,
    tune: 0,
    stretch: 1,
    drive: 0,
    filter: "off",
    cutoff: 1000,
    resonance: 0.7,
    decay: 0,
    pan: 0,
    level: 0,
    choke: HATS.has(pitch) ? 1 : 0,
  };
}

export const PLAIN_KIT: KitShape = { level: 0, pitch: 0, time: 1, pads: [] };

/** The shape of a pad of a kit; plain where nothing was changed. */
export function padShapeOf(kit: KitShape | undefined, pitch: number): PadShape {
  return kit?.pads.find((pad) => pad.pitch === pitch) ?? plainPad(pitch);
}
