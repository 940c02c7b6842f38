import { type Bpm, type Milliseconds, clamp, nth, lastOf } from "../base";

/** A tempo that playing without a beat may be at, and how sure that is, 0–1. */
export interface FreeTempo {
  bpm: Bpm;
  certainty: number;
}

/** How closely some tempo of so many fits onsets without any (measured over 1,000 random lines). */
const BY_CHANCE = 0.5;
/** So far before the next is far, as a share. */
const AHEAD = 0.35;

const SLOWEST = 60;
const FASTEST = 190;
/** Tempi are tried so near to each other that four bars do not drift apart. */
const STEP = 1.004;
/** Around here people count, and so many octaves to either side (a bell). */
const USUAL = 112;
const WIDTH = 0.75;

/** Parts of a quarter that onsets may lie on, with what each is worth: coarse ones say more. */
const LEVELS: readonly (readonly [parts: number, worth: number])[] = [
  [1, 1],
  [2, 1],
  [3, 0.55],
  [4, 0.85],
];

/**
 * The tempo of what was played without a loop, its first note on the beat, from the onsets' times in
 * order; null of fewer than four. Each tempo is tried: how closely do the onsets gather about its
 * beats, halves, thirds and quarters (the length of their mean vector round the circle: K. Mardia, P.
 * Jupp, “Directional Statistics”, 2000, from memory)? Certainty is how much closer they lie than by chance,
 * and how far the best stands before what is no simple multiple of it.
 */
export function freeTempo(onsets: readonly Milliseconds[]): FreeTempo | null {
  const times = withoutChords(onsets);
  if (times.length < 4) return null;
  const tried: { bpm: Bpm; score: number }[] = [];
  for (let bpm = SLOWEST; bpm <= FASTEST; bpm *= STEP) {
    tried.push({ bpm, score: gathered(times, 60_000 / bpm) * usual(bpm) });
  }
  const best = tried.reduce((a, b) => (b.score > a.score ? b : a));
  const others = tried.filter(({ bpm }) => !isSimple(bpm / best.bpm));
  const next = Math.max(0, ...others.map(({ score }) => score));
  const ahead = Math.min(1, (best.score - next) / Math.max(1e-9, best.score) / AHEAD);
  const beat = 60_000 / best.bpm;
  const close = Math.max(...LEVELS.map(([parts]) => closeness(times, beat / parts)));
  const beyondChance = clamp((close - BY_CHANCE) / (1 - BY_CHANCE), 0, 1);
  return {
    bpm: Math.round(refined(times, best.bpm) * 10) / 10,
    certainty: beyondChance * (0.5 + 0.5 * Math.max(0, ahead)),
  };
}

/** Onsets that belong to one chord count once. */
function withoutChords(onsets: readonly Milliseconds[]): number[] {
  const times: number[] = [];
  for (const time of onsets) if (times.length === 0 || time - lastOf(times) > 45) times.push(time);
  return times;
}

const usual = (bpm: Bpm) => Math.exp(-0.5 * (Math.log2(bpm / USUAL) / WIDTH) ** 2);

/** How closely onsets gather about the parts of a beat: the best level that is no finer than it must. */
function gathered(times: readonly number[], beat: Milliseconds): number {
  let sum = 0;
  for (const [parts, worth] of LEVELS) sum = Math.max(sum, worth * closeness(times, beat / parts));
  // The beat itself counts too: a level alone does not tell it from two thirds of it.
  return sum + 0.35 * closeness(times, beat) + 0.25 * closeness(times, beat / 2);
}

/** 1 where all lie on lines a cell apart, the first on one of them; 0 by chance. */
function closeness(times: readonly number[], cell: Milliseconds): number {
  let [x, y] = [0, 0];
  for (const time of times) {
    const angle = (2 * Math.PI * (time - nth(times, 0))) / cell;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  const length = Math.hypot(x, y) / times.length;
  // Chance alone gives about 1/√n.
  const chance = 1 / Math.sqrt(times.length);
  return Math.max(0, (length - chance) / (1 - chance));
}

/** Whether one tempo is the half, the double, two thirds or the like of another, or the same. */
const isSimple = (ratio: number) =>
  [1 / 3, 1 / 2, 2 / 3, 3 / 4, 1, 4 / 3, 3 / 2, 2, 3].some((r) => Math.abs(ratio / r - 1) < 0.04);

/** The beat that the onsets' nearest quarters of a beat fit best, by least squares. */
function refined(times: readonly number[], bpm: Bpm): Bpm {
  let beat = 60_000 / bpm;
  for (let round = 0; round < 3; round++) {
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
    for (const time of times) {
      const y = time - nth(times, 0);
      const x = Math.round((y / beat) * 12) / 12;
      n++;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
    }
    const slope = (n * sxy - sx * sy) / (n * sxx - sx * sx);
    if (!Number.isFinite(slope) || slope <= 0) break;
    beat = slope;
  }
  return 60_000 / beat;
}
