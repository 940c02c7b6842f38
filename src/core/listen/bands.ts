import FFT from "fft.js";
import { type Hertz, type Seconds } from "../base";

/** What is looked at is summed into so many bands, each as much higher than the last. */
const COUNT = 36;
const LOWEST: Hertz = 30;
const HIGHEST: Hertz = 16_000;
/** Seconds from one look at the sound to the next, and least length of what is looked at. */
const HOP: Seconds = 0.005;
const WINDOW: Seconds = 0.02;

/** How strong each band of a sound is, look by look: amplitudes, the loudest of all being 1. */
export interface Bands {
  /** Looks, and bands of each. */
  frames: number;
  count: number;
  /** Band `b` of look `n` at `n * count + b`. */
  values: Float32Array;
  /** Middle of each band. */
  centres: readonly Hertz[];
  /** Seconds from look to look; look `n` is centred on `n * hop`. */
  hop: Seconds;
}

/** The bands of a sound of one channel (short-time Fourier transform, Hann's window). */
export function bandsOf(samples: Float32Array, rate: Hertz): Bands {
  const size = 2 ** Math.ceil(Math.log2(WINDOW * rate));
  const hop = Math.max(1, Math.round(HOP * rate));
  const frames = Math.floor(samples.length / hop) + 1;
  const fft = new FFT(size);
  const window = Float64Array.from(
    { length: size },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size),
  );
  const { centres, first } = layout(size, rate);
  const values = new Float32Array(frames * COUNT);
  const input = new Array<number>(size).fill(0);
  const out = fft.createComplexArray();
  let most = 0;
  for (let n = 0; n < frames; n++) {
    const from = n * hop - size / 2;
    for (let i = 0; i < size; i++) input[i] = (samples[from + i] ?? 0) * window[i]!;
    fft.realTransform(out, input);
    for (let b = 0; b < COUNT; b++) {
      let power = 0;
      const lowest = first[b]!;
      const end = Math.max(lowest + 1, first[b + 1]!);
      for (let k = lowest; k < end; k++) power += out[2 * k]! ** 2 + out[2 * k + 1]! ** 2;
      const value = Math.sqrt(power);
      values[n * COUNT + b] = value;
      if (value > most) most = value;
    }
  }
  if (most > 0) for (let i = 0; i < values.length; i++) values[i]! /= most;
  return { frames, count: COUNT, values, centres, hop: hop / rate };
}

/** Middles of the bands, and the first line of the transform in each. */
function layout(size: number, rate: Hertz) {
  const top = Math.min(HIGHEST, rate * 0.45);
  const edge = (b: number) => LOWEST * (top / LOWEST) ** (b / COUNT);
  const first = Array.from({ length: COUNT + 1 }, (_, b) =>
    Math.max(1, Math.round((edge(b) * size) / rate)),
  );
  const centres = Array.from({ length: COUNT }, (_, b) => Math.sqrt(edge(b) * edge(b + 1)));
  return { centres, first };
}
