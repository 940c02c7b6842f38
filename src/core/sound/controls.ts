import { plainOf, type Range, type Sparse } from "./sparse";

/**
 * What shapes a melodic sound. Each sound has those that suit it; plain values leave it as it is. Percent of
 * brightness and body go to both sides of plain; attack and release are multiples of the sound's own.
 */
export const SOUND_CONTROLS = {
  brightness: { label: "Brightness", min: -100, max: 100, step: 1, plain: 0, unit: "±%" },
  body: { label: "Body", min: -100, max: 100, step: 1, plain: 0, unit: "±%" },
  attack: { label: "Attack", min: 0.25, max: 60, step: 0.05, plain: 1, unit: "×" },
  release: { label: "Release", min: 0.25, max: 8, step: 0.05, plain: 1, unit: "×" },
  breath: { label: "Breath", min: 0, max: 4, step: 0.05, plain: 1, unit: "×" },
  motion: { label: "Motion", min: 0, max: 100, step: 1, plain: 0, unit: "%" },
  drive: { label: "Drive", min: 0, max: 100, step: 1, plain: 0, unit: "%" },
  width: { label: "Width", min: 0, max: 100, step: 1, plain: 0, unit: "%" },
  glide: { label: "Glide", min: 0, max: 1000, step: 5, plain: 0, unit: "ms" },
} as const satisfies Record<string, Range>;

export type SoundControl = keyof typeof SOUND_CONTROLS;

/** Values of all controls. */
export type SoundValues = Record<SoundControl, number>;

/** A sound as it is without being shaped. */
export const PLAIN_SOUND: Readonly<SoundValues> = plainOf(SOUND_CONTROLS);

/** How a track's sound is shaped: what is not plain. */
export type Shaping = Sparse<SoundValues>;
