import FFT from "fft.js";
import type { Hertz } from "@/core/base";
import { floats } from "./kernels/kernels";

/** A wave by name, or the strengths of its harmonics from the first. */
export type WaveShape = "sine" | "square" | "sawtooth" | "triangle" | readonly number[];

/** Samples of one round of a wave; the loops that read it know this number too. */
const ROUND = 4096;
const MAX = ROUND / 2;
/** Tables for an octave: what the highest harmonics lack in each is a third of an octave at the most. */
const AN_OCTAVE = 3;

/** Strength of a harmonic, from the series of Fourier. */
function strength(shape: WaveShape, k: number): number {
  if (typeof shape !== "string") return shape[k - 1] ?? 0;
  const odd = k % 2 === 1;
  if (shape === "sine") return k === 1 ? 1 : 0;
  if (shape === "sawtooth") return (2 / (Math.PI * k)) * (odd ? 1 : -1);
  if (shape === "square") return odd ? 4 / (Math.PI * k) : 0;
  return odd ? (8 / (Math.PI * k) ** 2) * (k % 4 === 1 ? 1 : -1) : 0;
}

/**
 * One round of a wave in tables, each without the harmonics that would lie above half of the sampling rate at the
 * pitches it is for. Scaled so that the table of all harmonics reaches 1, as oscillators of browsers are (the Web
 * Audio specification, 1.30.4 “Waveform Normalization”). Tables are made when first asked for.
 */
export class Wavetables {
  private readonly tables: (Float32Array | undefined)[] = [];
  private readonly scale: number;
  private readonly harmonics: number;

  constructor(private readonly shape: WaveShape) {
    this.harmonics = shape === "sine" ? 1 : typeof shape === "string" ? MAX - 1 : shape.length;
    const whole = this.made(this.harmonics, 1, new Float32Array(ROUND + 1));
    let peak = 0;
    for (const x of whole) peak = Math.max(peak, Math.abs(x));
    this.scale = peak > 0 ? 1 / peak : 1;
  }

  /** The table for a pitch: `ROUND` samples and the first once more. */
  at(hz: Hertz, rate: Hertz): Float32Array {
    const space = rate / 2 / Math.max(1, Math.abs(hz));
    // How far the tables are culled: each has a third of an octave of harmonics less.
    const which = Math.max(0, Math.ceil(AN_OCTAVE * Math.log2(MAX / space)));
    const most = Math.min(this.harmonics, Math.floor(MAX * 2 ** (-which / AN_OCTAVE)));
    return (this.tables[most] ??= this.made(Math.max(1, most), this.scale));
  }

  private made(harmonics: number, scale: number, table = floats(ROUND + 1)): Float32Array {
    const strengths = new Array<number>(ROUND).fill(0);
    for (let k = 1; k <= Math.min(harmonics, MAX - 1); k++) strengths[k] = strength(this.shape, k);
    // Sines added up are the transform of their strengths, its imaginary part turned about; the second half of the
    // round is the first one turned about both ways.
    fft.realTransform(transformed, strengths);
    for (let i = 1; i < MAX; i++) {
      const x = -transformed[2 * i + 1]! * scale;
      table[i] = x;
      table[ROUND - i] = -x;
    }
    return table;
  }
}

const fft = new FFT(ROUND);
const transformed = fft.createComplexArray();

const known = new Map<string, Wavetables>();

/** The tables of a shape, made once. */
export function tablesOf(shape: WaveShape): Wavetables {
  const key = typeof shape === "string" ? shape : shape.join();
  let tables = known.get(key);
  if (!tables) known.set(key, (tables = new Wavetables(shape)));
  return tables;
}
