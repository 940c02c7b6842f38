import { type Hertz, type Seconds, type Velocity, nth } from "../base";
import type { Bands } from "./bands";

export const DRUM_KINDS = ["low", "middle", "high"] as const;
/** Which of a kit's three kinds a hit is of: kicks, snares and claps, hats and cymbals. */
export type DrumKind = (typeof DRUM_KINDS)[number];
const [LOW, MIDDLE] = [0, 1];

/** What begins at an onset, and how hard it was hit. */
export interface DrumHit {
  time: Seconds;
  kind: DrumKind;
  velocity: Velocity;
}

/** What a kind's spectrum is looked for with first: it then becomes what the recording's own hits have. */
const SHAPES: Readonly<Record<DrumKind, (hz: Hertz) => number>> = {
  low: (hz) => hill(hz, 75, 0.8) + 0.02,
  middle: (hz) => hill(hz, 230, 0.7) + 0.5 * hill(hz, 1500, 1.6) + 0.25 * hill(hz, 6000, 1),
  high: (hz) => 1 / (1 + (5500 / hz) ** 4) + 0.002,
};
function hill(hz: Hertz, at: Hertz, octaves: number): number {
  return Math.exp(-0.5 * (Math.log2(hz / at) / octaves) ** 2);
}

/** Bands are taken two by two. */
const TAKEN = 2;
/** Looks before an onset that it is held against, and looks of it, which are those of a hit's first 60 ms. */
const BEFORE = [3, 5] as const;
const AFTER = [1, 12] as const;
/** A band's loudest counts as no less than this, against the loudest of all. */
const FAINT = 0.01;
/** Rounds in which the shares are found, from which on the spectra are learned, and how much of the first stays. */
const ROUNDS = 60;
const LEARNED_FROM = 20;
const KEPT = 0.2;
/** A kind sounds from this share of its own loudest and of the onset on. */
const SOUNDS = 0.3;
const OF_ONSET = 0.08;
/** Where a kick sounds, what a snare shares with it is its own; so much says that there is one as well. */
const KICK = { share: 0.4, ofOnset: 0.2 };
const WITH_KICK = 0.9;

/**
 * What was hit at each of these times: one hit or more, in order of time. What grows there is told apart into three spectra by
 * their shares, both found together (non-negative matrix factorization: D. D. Lee and H. S. Seung, “Algorithms for
 * non-negative matrix factorization”, NIPS 2000), with spectra that begin as those of drums and follow the
 * recording.
 */
export function drumHits(bands: Bands, times: readonly Seconds[]): DrumHit[] {
  const shares = sharesOf(
    times.map((time) => grownAt(bands, time)),
    shapesOf(bands),
  );
  const tops = DRUM_KINDS.map((_, k) =>
    shares.reduce((most, share) => Math.max(most, nth(share, k)), 0),
  );
  const loudest = Math.max(...tops, Number.MIN_VALUE);
  return times.flatMap((time, i) => {
    const total = nth(shares, i).reduce((a, b) => a + b, 0) + Number.MIN_VALUE;
    const own = nth(shares, i).map((share, k) => share / Math.max(nth(tops, k), loudest / 20));
    const ofOnset = nth(shares, i).map((share) => share / total);
    const kick = nth(own, LOW) > KICK.share && nth(ofOnset, LOW) > KICK.ofOnset;
    const scores = own.map((share, k) => share * Math.sqrt(nth(ofOnset, k)));
    const main = kick ? LOW : scores.indexOf(Math.max(...scores));
    return DRUM_KINDS.flatMap((kind, k) => {
      const sounds =
        nth(own, k) >= (kick && k === MIDDLE ? WITH_KICK : SOUNDS) && nth(ofOnset, k) >= OF_ONSET;
      if (k !== main && !sounds) return [];
      const velocity = Math.round(127 * Math.sqrt(Math.min(1, nth(own, k))));
      return [{ time, kind, velocity: Math.max(1, velocity) }];
    });
  });
}

/** What each pair of bands grows by at a time. */
function grownAt({ frames, count, values, hop }: Bands, time: Seconds): Float64Array {
  const at = Math.round(time / hop);
  const loudest = (b: number, from: number, to: number) => {
    let most = 0;
    for (let n = Math.max(0, from); n <= Math.min(frames - 1, to); n++)
      most = Math.max(most, values[n * count + b]!);
    return most ** 2;
  };
  const grown = new Float64Array(Math.floor(count / TAKEN));
  for (let b = 0; b < grown.length * TAKEN; b++) {
    const before = loudest(b, at - BEFORE[1], at - BEFORE[0]);
    const after = loudest(b, at + AFTER[0], at + AFTER[1]);
    grown[Math.floor(b / TAKEN)]! += Math.max(0, after - before);
  }
  return grown.map(Math.sqrt);
}

/** The spectra to begin with, over pairs of bands, each adding up to 1. */
const shapesOf = ({ centres, count }: Bands): number[][] =>
  DRUM_KINDS.map((kind) =>
    unit(
      Array.from({ length: Math.floor(count / TAKEN) }, (_, p) => {
        const pair = centres.slice(p * TAKEN, (p + 1) * TAKEN);
        return Math.sqrt(pair.reduce((sum, hz) => sum + SHAPES[kind](hz) ** 2, 0));
      }),
    ),
  );

function unit(values: readonly number[]): number[] {
  const sum = values.reduce((a, b) => a + b, 1e-12);
  return values.map((value) => value / sum);
}

/** How much of each spectrum there is in each onset. */
function sharesOf(grown: readonly Float64Array[], first: readonly number[][]): number[][] {
  const bands = nth(first, 0).length;
  const tallest = grown.reduce((most, v) => Math.max(most, ...v), 0) || 1;
  // Each band against its own loudest: a cymbal is small beside a kick, and yet is heard.
  const tops = Array.from({ length: bands }, (_, b) =>
    grown.reduce((most, v) => Math.max(most, v[b]!), tallest * FAINT),
  );
  const onsets = grown.map((v) => v.map((value, b) => value / nth(tops, b)));
  let spectra = first.map((shape) => [...shape]);
  const shares = onsets.map((v) => {
    const third = v.reduce((a, b) => a + b, 1e-9) / first.length;
    return first.map(() => third);
  });
  for (let round = 0; round < ROUNDS; round++) {
    // How much more there is in each band than what the shares explain.
    const over = onsets.map((v, i) => {
      const share = nth(shares, i);
      return v.map((value, b) => {
        const told = spectra.reduce((sum, spectrum, k) => sum + share[k]! * spectrum[b]!, 1e-12);
        return value / told;
      });
    });
    shares.forEach((share, i) => {
      const more = nth(over, i);
      spectra.forEach((spectrum, k) => {
        share[k]! *= spectrum.reduce((sum, value, b) => sum + value * more[b]!, 0);
      });
    });
    if (round < LEARNED_FROM) continue;
    spectra = spectra.map((spectrum, k) => {
      const learned = unit(
        spectrum.map(
          (value, b) => value * over.reduce((sum, v, i) => sum + nth(shares, i)[k]! * v[b]!, 0),
        ),
      );
      return learned.map((value, b) => (1 - KEPT) * value + KEPT * nth(first, k)[b]!);
    });
  }
  return shares;
}
