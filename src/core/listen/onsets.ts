import { type Hertz, type Seconds, nth } from "../base";
import type { Bands } from "./bands";

/** Where something begins in a sound. */
export interface Onset {
  time: Seconds;
  /** How much louder it gets there, as the curve has it; at most 1. */
  strength: number;
}

/** The bands are taken together in so many regions, from each of these on: what is struck fills one or more of them. */
const REGIONS: readonly Hertz[] = [0, 150, 500, 2000, 6000];
/** A look is held against the loudest of so many before it. */
const BACK = 3;
/** Below this, against the loudest a region gets, nothing is heard of it. */
const FLOOR_DB = -40;
/** How far a region's own loudest counts as loud: 0 all are held against the loudest of them, 1 each against its own. */
const EVEN = 0.5;
/** Quieter than this against the loudest a region is taken as empty, and not made loud. */
const EMPTY = 1e-6;
/** Two onsets lie at least so far apart. */
const GAP: Seconds = 0.045;
/** An onset is the highest point of the curve so far to both sides, and stands out of its mean so far about it. */
const PEAK: Seconds = 0.02;
const ABOUT: Seconds = 0.12;

/**
 * How much a sound grows from look to look: the flux of its logarithmic energy, growth only, region by region, so
 * that a cymbal over a kick counts as much as alone (after S. Böck, F. Krebs and M. Schedl, “Evaluating the online
 * capabilities of onset detection methods”, ISMIR 2012; A. Klapuri, “Sound onset detection by applying
 * psychoacoustic knowledge”, ICASSP 1999). Its highest point is 1; silence has 0 throughout.
 */
export function onsetCurve(bands: Bands): Float32Array {
  const { frames } = bands;
  const curve = new Float32Array(frames);
  for (const levels of regionsOf(bands)) {
    for (let n = 0; n < frames; n++) {
      let before = n < BACK ? FLOOR_DB / 10 : -Infinity;
      for (let k = 1; k <= Math.min(BACK, n); k++) before = Math.max(before, levels[n - k]!);
      curve[n]! += Math.max(0, levels[n]! - before) ** 2;
    }
  }
  for (let n = 0; n < frames; n++) curve[n] = Math.sqrt(curve[n]!);
  // What grows over two looks is one growth.
  const whole = curve.map(
    (value, n) => value + 0.5 * Math.max(curve[n - 1] ?? 0, curve[n + 1] ?? 0),
  );
  const most = whole.reduce((a, b) => Math.max(a, b), 0);
  return most > 0 ? whole.map((value) => value / most) : whole;
}

/** Levels of each region, look by look, in bels; none below its floor. */
function regionsOf({ frames, count, values, centres }: Bands): Float32Array[] {
  const of = centres.map((hz) => REGIONS.findLastIndex((from) => hz >= from));
  const energies = REGIONS.map(() => new Float32Array(frames));
  of.forEach((region, b) => {
    const energy = nth(energies, region);
    for (let n = 0; n < frames; n++) energy[n]! += values[n * count + b]! ** 2;
  });
  const tops = energies.map((energy) => energy.reduce((a, b) => Math.max(a, b), 0));
  const all = Math.max(...tops);
  if (all === 0) return [];
  return energies.map((energy, r) => {
    const loud = Math.max(nth(tops, r), all * EMPTY) ** EVEN * all ** (1 - EVEN);
    return energy.map((value) => Math.log10(value / loud + 10 ** (FLOOR_DB / 10)));
  });
}

/**
 * Onsets of a curve, in order. `sensitivity` 0–100: at 0 only what stands out as nothing else does, at 100 the
 * faintest.
 */
export function pickOnsets(curve: Float32Array, hop: Seconds, sensitivity: number): Onset[] {
  const least = 0.6 * 10 ** (-sensitivity / 50);
  const peak = Math.max(1, Math.round(PEAK / hop));
  const about = Math.max(1, Math.round(ABOUT / hop));
  const onsets: Onset[] = [];
  for (let n = 0; n < curve.length; n++) {
    const value = curve[n]!;
    if (value < least || !highest(curve, n, peak)) continue;
    if (value < mean(curve, n - about, n + about) + least) continue;
    const time = n * hop;
    const last = onsets.at(-1);
    if (last && time - last.time < GAP) {
      if (value > last.strength) onsets[onsets.length - 1] = { time, strength: value };
    } else onsets.push({ time, strength: value });
  }
  return onsets;
}

function highest(curve: Float32Array, n: number, reach: number): boolean {
  for (let i = Math.max(0, n - reach); i <= Math.min(curve.length - 1, n + reach); i++)
    if (curve[i]! > curve[n]! || (curve[i] === curve[n] && i < n)) return false;
  return true;
}

function mean(curve: Float32Array, from: number, to: number): number {
  const [first, last] = [Math.max(0, from), Math.min(curve.length - 1, to)];
  let sum = 0;
  for (let i = first; i <= last; i++) sum += curve[i]!;
  return sum / (last - first + 1);
}

/** How far about a peak of the curve its attack is looked for, and in what steps. */
const NEAR: Seconds = 0.025;
const STEP: Seconds = 0.001;

/**
 * The very attack of an onset: where, near it, the sound's upper part grows most within a thousandth of a second,
 * taken back to where that growth began.
 */
export function attackOf(samples: Float32Array, rate: Hertz, time: Seconds): Seconds {
  const step = Math.max(1, Math.round(STEP * rate));
  // What lies before the recording is silence.
  const from = Math.round((time - NEAR) * rate);
  const steps = Math.round((2 * NEAR) / STEP);
  const energy = Array.from({ length: steps }, (_, k) => {
    let sum = 0;
    for (let i = from + k * step; i < from + (k + 1) * step; i++) {
      // The difference from sample to sample leaves what rings low and long aside.
      const d = (samples[i] ?? 0) - (samples[i - 1] ?? 0);
      sum += d * d;
    }
    return sum;
  });
  const most = Math.max(...energy);
  if (most === 0) return time;
  let [best, growth] = [0, -Infinity];
  for (let k = 1; k < steps; k++) {
    const grown = Math.log(nth(energy, k) + most / 1e4) - Math.log(nth(energy, k - 1) + most / 1e4);
    if (grown > growth) [best, growth] = [k, grown];
  }
  return Math.max(0, from + best * step) / rate;
}
