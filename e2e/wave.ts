import { waveFile } from "../scripts/wave.mjs";

/** A WAV of a falling tone. */
export function wave(seconds: number, hz = 330, rate = 22_050): Buffer<ArrayBuffer> {
  const frames = Math.round(seconds * rate);
  const samples = Int16Array.from({ length: frames }, (_, i) => {
    const level = Math.exp((-4 * i) / frames);
    return Math.round(24_000 * level * Math.sin((2 * Math.PI * hz * i) / rate));
  });
  return waveFile(samples, { rate });
}
