import type { Hertz, Milliseconds, Seconds } from "@/core/base";
import { noise } from "../dsp";

/** How a room is: what of it makes its sound; see `ROOM_RANGES`. */
export interface RoomSound {
  rate: Hertz;
  /** Time in which it falls by 60 dB. */
  decay: Milliseconds;
  /** 0–100 %. */
  size: number;
}

/** The first walls are this far away in the smallest and in the largest room. */
const NEAR: Seconds = 0.003;
const FAR: Seconds = 0.012;
/** How long the burst is in the smallest and in the largest room. */
const SHORT: Seconds = 0.018;
const LONG: Seconds = 0.044;

/** A level that falls by 60 dB in `decay`, after a time. */
export const fallen = (time: Seconds, decay: Milliseconds): number =>
  10 ** ((-3 * time * 1000) / decay);

/**
 * What a room answers a click with at first, left and right: a few reflections off its walls in noise that
 * grows dense and already falls as the whole room does. Larger rooms answer later. Scaled to a power of one
 * a side. Pure.
 */
export function burst({
  rate,
  decay,
  size,
}: RoomSound): [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] {
  const share = size / 100;
  const length = Math.ceil((SHORT + (LONG - SHORT) * share) * rate);
  const first = NEAR + (FAR - NEAR) * share;
  const side = (seed: number) => {
    const hiss = noise(seed);
    const out = Float32Array.from({ length }, (_, i) => {
      const time = i / rate;
      const grown = Math.min(1, time / (2 * first)) ** 2;
      const ends = Math.min(1, (4 * (length - i)) / length);
      return hiss() * grown * ends * fallen(time, decay);
    });
    const walls = noise(seed + 7);
    for (let k = 1; k <= 9; k++) {
      const at = Math.round(first * (0.35 + 0.28 * k + 0.1 * walls()) * rate);
      if (at < length) out[at] = Math.sign(walls()) * 3 * 0.85 ** k * fallen(at / rate, decay);
    }
    const power = out.reduce((sum, x) => sum + x * x, 0);
    return out.map((x) => x / Math.sqrt(power || 1));
  };
  return [side(401), side(907)];
}
