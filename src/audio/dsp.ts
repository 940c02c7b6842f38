import { seeded } from "@/core/base";

/** A sample of sound at `t` seconds, before level; `i` is its index. */
export type Wave = (t: number, i: number) => number;

/** Renders `seconds` of a wave and scales it so that its loudest sample is `peak`. */
export function render(
  rate: number,
  seconds: number,
  peak: number,
  wave: Wave,
): Float32Array<ArrayBuffer> {
  const samples = new Float32Array(Math.ceil(rate * seconds));
  let loudest = 1e-9;
  const fade = Math.min(samples.length, Math.round(rate * 0.01));
  for (let i = 0; i < samples.length; i++) {
    // The last 10 ms fade out, so that no sound ends in a click.
    const end = Math.min(1, (samples.length - 1 - i) / fade);
    const value = wave(i / rate, i) * end;
    samples[i] = value;
    loudest = Math.max(loudest, Math.abs(value));
  }
  for (let i = 0; i < samples.length; i++) samples[i]! *= peak / loudest;
  return samples;
}

/** White noise −1…1, the same for the same seed. */
export function noise(seed: number): () => number {
  const random = seeded(seed);
  return () => random() * 2 - 1;
}

/** Falls from 1 to 1/e in `tau` seconds. */
export const decay = (t: number, tau: number) => Math.exp(-t / tau);

/** Sine whose frequency falls from `from` to `to` Hz with time constant `tau`; phase is exact. */
export function sweep(from: number, to: number, tau: number): (t: number) => number {
  return (t) => Math.sin(2 * Math.PI * (to * t + (from - to) * tau * (1 - Math.exp(-t / tau))));
}

export type Filter = (x: number) => number;

/** Second-order filter, coefficients from the Audio EQ Cookbook (as the Web Audio specification has them). */
export function biquad(
  kind: "lowpass" | "highpass" | "bandpass",
  rate: number,
  hz: number,
  q: number,
): Filter {
  const w = (2 * Math.PI * Math.min(hz, rate * 0.49)) / rate;
  const alpha = Math.sin(w) / (2 * q);
  const cos = Math.cos(w);
  const [b0, b1, b2] =
    kind === "lowpass"
      ? [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
      : kind === "highpass"
        ? [(1 + cos) / 2, -(1 + cos), (1 + cos) / 2]
        : [alpha, 0, -alpha];
  const a0 = 1 + alpha;
  let [x1, x2, y1, y2] = [0, 0, 0, 0];
  return (x) => {
    const y = (b0 * x + b1 * x1 + b2 * x2 + 2 * cos * y1 - (1 - alpha) * y2) / a0;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    return y;
  };
}

/** Square waves at ratios that share no common pitch: the body of cymbals. */
export function metal(base: number): (t: number) => number {
  const ratios = [1, 1.342, 1.2312, 1.6532, 1.9523, 2.1523];
  return (t) =>
    ratios.reduce((sum, r) => sum + Math.sign(Math.sin(2 * Math.PI * base * r * t)), 0) / 6;
}
