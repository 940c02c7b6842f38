import type { Hertz, Milliseconds } from "@/core";
import { noise } from "../dsp";

/** What a room answers a click with: its sound left and right. */
export type Impulse = [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>];

/** How a room sounds; see `ROOM_RANGES`. */
export interface RoomSound {
  rate: number;
  /** Time in which it falls by 60 dB. */
  decay: Milliseconds;
  /** 0–100. */
  size: number;
  tone: Hertz;
}

/** Turns what is asked of a room into its sound. */
export type RoomRenderer = (room: RoomSound) => Promise<Impulse>;

/** Two rooms of equal keys sound the same. */
export const roomKey = ({ rate, decay, size, tone }: RoomSound): string =>
  [rate, decay, size, tone].join(" ");

/** Below this nothing rings: a room of a low end is mud. */
const LOW_CUT: Hertz = 140;
/** A little past −60 dB, so that the end is not heard. */
const PAST = 1.15;
/** First walls are this far away, in seconds, in the smallest and in the largest room. */
const NEAR = 0.003;
const FAR = 0.045;

/**
 * Answer of a room: a few reflections off its walls, then noise that grows dense and dies away, falling by
 * 60 dB in `decay` at every frequency (the reverberation time of ISO 3382). Larger rooms answer later and
 * grow dense more slowly. Scaled to a power of one, so that longer rooms are not louder. Pure.
 */
export function impulse({ rate, decay, size, tone }: RoomSound): Impulse {
  const length = Math.ceil((decay / 1000) * PAST * rate);
  const slope = (-3 * Math.LN10) / ((decay / 1000) * rate);
  const first = NEAR + (FAR - NEAR) * (size / 100);
  const dense = first * 2.2;
  const channel = (seed: number) => {
    const hiss = noise(seed);
    const out = new Float32Array(length);
    const low = Math.exp((-2 * Math.PI * tone) / rate);
    const high = Math.exp((-2 * Math.PI * LOW_CUT) / rate);
    let [dull, mud] = [0, 0];
    for (let i = 0; i < length; i++) {
      const t = i / rate;
      const grown = Math.min(1, t / dense) ** 2;
      dull = (1 - low) * hiss() * grown + low * dull;
      mud = (1 - high) * dull + high * mud;
      out[i] = (dull - mud) * Math.exp(slope * i);
    }
    // Walls: each a little further, in an order of their own on either side.
    const walls = noise(seed + 7);
    const peak = 3 / Math.sqrt(rate);
    for (let k = 1; k <= 9; k++) {
      const at = Math.round(first * (0.35 + 0.28 * k + 0.1 * walls()) * rate);
      if (at > 0 && at < length)
        out[at]! += Math.sign(walls()) * peak * 0.85 ** k * Math.exp(slope * at);
    }
    return out;
  };
  const both: Impulse = [channel(401), channel(907)];
  for (const side of both) {
    let power = 0;
    for (const sample of side) power += sample * sample;
    const scale = 1 / Math.sqrt(power || 1);
    for (let i = 0; i < side.length; i++) side[i]! *= scale;
  }
  return both;
}
