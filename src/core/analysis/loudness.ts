import type { Hertz } from "../base";

/** Integrated loudness in LUFS: how loud something is as a whole, to the ear. */
export type Lufs = number;

interface Coefficients {
  b: readonly [number, number, number];
  a: readonly [number, number];
}

/**
 * The two stages of K-weighting at a sample rate: a high shelf for the head, and a high-pass. At 48 kHz they are the
 * coefficients printed in ITU-R BS.1770-4, Annex 1, Tables 1 and 2; at other rates those of the same analogue
 * filters by the bilinear transform (their parameters from memory).
 */
export function kWeighting(rate: Hertz): readonly [Coefficients, Coefficients] {
  const shelf = (() => {
    const [f0, gain, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
    const k = Math.tan((Math.PI * f0) / rate);
    const vh = 10 ** (gain / 20);
    const vb = vh ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return {
      b: [
        (vh + (vb * k) / q + k * k) / a0,
        (2 * (k * k - vh)) / a0,
        (vh - (vb * k) / q + k * k) / a0,
      ],
      a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
    } as const;
  })();
  const [f0, q] = [38.13547087602444, 0.5003270373238773];
  const k = Math.tan((Math.PI * f0) / rate);
  const a0 = 1 + k / q + k * k;
  const high = {
    b: [1, -2, 1],
    a: [(2 * (k * k - 1)) / a0, (1 - k / q + k * k) / a0],
  } as const;
  return [shelf, high];
}

function filtered(samples: Float32Array, stages: readonly Coefficients[]): Float64Array {
  let now = Float64Array.from(samples);
  for (const { b, a } of stages) {
    const out = new Float64Array(now.length);
    let [x1, x2, y1, y2] = [0, 0, 0, 0];
    for (let i = 0; i < now.length; i++) {
      const x = now[i]!;
      const y = b[0] * x + b[1] * x1 + b[2] * x2 - a[0] * y1 - a[1] * y2;
      [x2, x1, y2, y1] = [x1, x, y1, y];
      out[i] = y;
    }
    now = out;
  }
  return now;
}

/** A block counts when it is louder than this, in LUFS, and than the mean of those less 10. */
const ABSOLUTE = -70;
const RELATIVE = -10;
const BLOCK = 0.4;
const STEP = 0.1;

const lufs = (power: number): Lufs => -0.691 + 10 * Math.log10(power);

/**
 * Integrated loudness of channels of equal weight (mono, or left and right), by ITU-R BS.1770-4: K-weighted
 * power in blocks of 400 ms that overlap by three quarters, gated at −70 LUFS and 10 LU below the rest.
 * −Infinity for silence, and for what is shorter than a block.
 */
export function loudness(channels: readonly Float32Array[], rate: Hertz): Lufs {
  const weighted = channels.map((samples) => filtered(samples, kWeighting(rate)));
  const [block, step] = [Math.round(BLOCK * rate), Math.round(STEP * rate)];
  const length = Math.min(...weighted.map((samples) => samples.length));
  const powers: number[] = [];
  for (let from = 0; from + block <= length; from += step) {
    let power = 0;
    for (const samples of weighted) {
      let sum = 0;
      for (let i = from; i < from + block; i++) sum += samples[i]! ** 2;
      power += sum / block;
    }
    powers.push(power);
  }
  return gatedLoudness(powers);
}

/**
 * Loudness of K-weighted powers of blocks of 400 ms, gated as the standard has it: what is below −70 LUFS, and
 * then what is 10 LU below the mean of the rest, does not count. −Infinity where nothing does.
 */
export function gatedLoudness(powers: readonly number[]): Lufs {
  const mean = (list: readonly number[]) => list.reduce((sum, p) => sum + p, 0) / list.length;
  const counted = powers.filter((power) => lufs(power) > ABSOLUTE);
  if (counted.length === 0) return -Infinity;
  const gate = lufs(mean(counted)) + RELATIVE;
  return lufs(mean(counted.filter((power) => lufs(power) > gate)));
}
