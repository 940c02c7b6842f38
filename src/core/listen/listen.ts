import { type Hertz, type Seconds, nth } from "../base";
import { bandsOf, type Bands } from "./bands";
import { attackOf, onsetCurve, pickOnsets, type Onset } from "./onsets";

/** A recording that was listened to: what onsets, kinds and tempo are found from. */
export interface Listened {
  samples: Float32Array;
  rate: Hertz;
  length: Seconds;
  bands: Bands;
  curve: Float32Array;
}

/** Listens to a sound of one channel. */
export function listenTo(samples: Float32Array, rate: Hertz): Listened {
  const bands = bandsOf(samples, rate);
  return { samples, rate, length: samples.length / rate, bands, curve: onsetCurve(bands) };
}

/** Sensitivity that fits most recordings. */
export const PLAIN_SENSITIVITY = 50;
/** Two attacks lie at least so far apart. */
const APART: Seconds = 0.03;

/** The onsets of a recording, each at its very attack. */
export function onsetsOf(
  { samples, rate, bands, curve }: Listened,
  sensitivity = PLAIN_SENSITIVITY,
): Onset[] {
  const onsets: Onset[] = [];
  for (const { time, strength } of pickOnsets(curve, bands.hop, sensitivity)) {
    const attack = attackOf(samples, rate, time);
    const last = onsets.at(-1);
    if (!last || attack - last.time >= APART) onsets.push({ time: attack, strength });
  }
  return onsets;
}

/** One channel of several: their mean. */
export function mixedDown(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return nth(channels, 0);
  return nth(channels, 0).map(
    (_, i) => channels.reduce((sum, channel) => sum + channel[i]!, 0) / channels.length,
  );
}
