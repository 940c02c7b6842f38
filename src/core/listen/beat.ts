import { type Bpm, type Seconds, lowerBound, clamp, nth, lastOf } from "../base";
import { type Metre, PPQ, barTicks, beatTicks, unitTicks } from "../time";
import type { DrumHit } from "./drum-hits";

/** The tempo and the first beat that hits seem to have. */
export interface Beat {
  /** In quarters, as everywhere. */
  tempo: Bpm;
  /** When the first bar begins, at or after the beginning of the recording. */
  first: Seconds;
  /** How sure the tempo is, 0–1: how far the next likely one is behind. */
  certainty: number;
}

/** What is played lies between these (common practice); and how likely each is. */
const RANGE: readonly [Bpm, Bpm] = [60, 200];
const COMMON: Bpm = 112;
const SPREAD_OCTAVES = 0.55;
/** So many onsets a beat are common, and how likely other numbers are (common practice: eighths to sixteenths). */
const BUSY = 2.8;
const BUSY_OCTAVES = 0.7;
/** Tempi are tried so finely, and then so much more finely about the best. */
const STEP = 1.004;
const FINE = 1.0002;
/** Tempi so near are the same. */
const SAME = 1.03;
/** Something of this length behind the others is certain. */
const CLEAR = 0.35;

/** A hit comes again within this. */
const AGAIN: Seconds = 0.025;

type Weighted = readonly { time: Seconds; weight: number }[];

/** How well hits stand together at one place of a period, 0–1, and at which (Rayleigh's test of directions). */
function together(hits: Weighted, period: Seconds): { much: number; at: Seconds } {
  let [x, y, all] = [0, 0, 0];
  for (const { time, weight } of hits) {
    const turn = (2 * Math.PI * time) / period;
    x += weight * Math.cos(turn);
    y += weight * Math.sin(turn);
    all += weight;
  }
  if (all === 0) return { much: 0, at: 0 };
  const turn = Math.atan2(y, x) / (2 * Math.PI);
  return { much: Math.hypot(x, y) / all, at: (turn - Math.floor(turn)) * period };
}

const weigh = (hits: readonly DrumHit[]): Weighted =>
  hits.map(({ time, velocity }) => ({ time, weight: (velocity / 127) ** 2 }));

/**
 * The tempo of hits and where their first bar begins, with how sure that is; null for fewer than three. Hits stand
 * together at the beat and its parts; snares two beats apart, on 2 and 4, and kicks on the one say which of several
 * tempi it is (common practice); so does a loop that is a number of bars long. In other metres than those of two or four
 * quarters, beats do not go on over the bar line: there it is how much comes again a bar later. `length` is the
 * recording's.
 */
export function beatOf(
  hits: readonly DrumHit[],
  length: Seconds,
  metre: Metre = { beats: 4, unit: 4 },
): Beat | null {
  if (new Set(hits.map(({ time }) => time)).size < 3) return null;
  const all = weigh(hits);
  const snares = weigh(hits.filter(({ kind }) => kind === "middle"));
  const struck = weigh(hits.filter(({ kind }) => kind !== "high"));
  const begins = nth(hits, 0).time;
  const times = [...new Set(hits.map(({ time }) => time))];
  const rate = (times.length - 1) / Math.max(0.1, lastOf(times) - begins);
  const onsets = hits.map(({ time }) => time);
  const compound = beatTicks(metre) > unitTicks(metre);
  const quarters = barTicks(metre) / PPQ;
  const pulse = compound ? beatTicks(metre) / PPQ : 1;
  const even = !compound && quarters % 2 === 0;
  const score = (tempo: Bpm): number => {
    const beat = 60 / tempo;
    const parts = Math.max(together(all, beat / 4).much, together(all, beat / 3).much);
    const bars = length / beat / quarters;
    const whole = Math.abs(bars - Math.round(bars)) * quarters * beat < 0.02 && begins < 0.03;
    const placed = even
      ? 0.5 * together(struck.length > 0 ? struck : all, beat).much +
        0.9 * (together(snares, 2 * beat).much - together(snares, 4 * beat).much)
      : 1.4 * repeated(hits, onsets, beat * quarters);
    return (
      0.4 * parts +
      0.3 * together(all, beat / 2).much +
      placed +
      (whole && Math.round(bars) >= 1 ? 0.15 : 0) +
      0.7 * Math.exp(-0.5 * (Math.log2(tempo / COMMON) / SPREAD_OCTAVES) ** 2) +
      0.7 * Math.exp(-0.5 * (Math.log2((beat * rate) / BUSY) / BUSY_OCTAVES) ** 2)
    );
  };
  const tried: { tempo: Bpm; value: number }[] = [];
  for (let tempo = RANGE[0]; tempo <= RANGE[1]; tempo *= STEP)
    tried.push({ tempo, value: score(tempo) });
  tried.sort((a, b) => b.value - a.value);
  const exact = (tempo: Bpm): Bpm => {
    let [best, most] = [tempo, -Infinity];
    for (let t = tempo / STEP ** 2; t <= tempo * STEP ** 2; t *= FINE) {
      const value = together(all, 30 / t).much + together(struck, 60 / t).much;
      if (value > most) [best, most] = [t, value];
    }
    return rounded(best, length);
  };
  const first = nth(tried, 0);
  const second = tried.find(({ tempo }) => !near(tempo, first.tempo));
  const tempo = exact(first.tempo);
  const lead = first.value - (second?.value ?? 0);
  return {
    tempo,
    first: firstBar(hits, (60 / tempo) * pulse, quarters / pulse),
    certainty: clamp(lead / CLEAR, 0, 1),
  };
}

/** What share of the hits comes again so much later, of those that could; `times` are theirs, in order. */
function repeated(hits: readonly DrumHit[], times: readonly Seconds[], after: Seconds): number {
  const last = lastOf(times);
  let [again, all] = [0, 0];
  for (const { time, kind, velocity } of hits) {
    const from = time + after - AGAIN;
    if (from > last) break;
    all += velocity;
    for (let i = lowerBound(times, from); i < hits.length && nth(times, i) < from + 2 * AGAIN; i++)
      if (nth(hits, i).kind === kind) {
        again += velocity;
        break;
      }
  }
  return all === 0 ? 0 : again / all;
}

const near = (a: Bpm, b: Bpm) => Math.max(a, b) / Math.min(a, b) < SAME;

/** A tempo that was meant: a whole one, where the hits cannot tell it from what was found. */
function rounded(tempo: Bpm, length: Seconds): Bpm {
  const whole = Math.round(tempo);
  const drift = length * Math.abs(1 - tempo / whole);
  return drift < 0.012 ? whole : Math.round(tempo * 100) / 100;
}

/** A hit this share of a beat beside a beat is on it; one this far from the place of a bar begins it. */
const ON_BEAT = 0.12;
const ON_ONE: Seconds = 0.05;

/** When the first bar begins: where kicks stand on its one, snares on its even beats, and all on beats. */
function firstBar(hits: readonly DrumHit[], beat: Seconds, beatsInBar: number): Seconds {
  const bar = beat * beatsInBar;
  const begins = nth(hits, 0).time;
  const score = (from: Seconds) => {
    let sum = 0;
    for (const { time, kind, velocity } of hits) {
      // A bar need not be a whole number of beats long: they are counted from its one.
      const beats = (time - from) / beat;
      const at = beats - beatsInBar * Math.floor(beats / beatsInBar);
      const onNext = beatsInBar - at <= ON_BEAT;
      if (!onNext && Math.abs(at - Math.round(at)) > ON_BEAT) continue;
      const inBar = onNext ? 0 : Math.round(at);
      const weight = (velocity / 127) ** 2;
      sum += 0.15 * weight;
      if (kind === "low") sum += inBar === 0 ? 0.8 * weight : 0;
      if (kind === "middle") sum += inBar % 2 === 1 ? weight : -0.5 * weight;
    }
    // Who records a loop mostly begins with the one.
    const bars = (begins - from) / bar;
    return sum + (Math.abs(bars - Math.round(bars)) * bar < ON_ONE ? 0.12 * hits.length : 0);
  };
  const tried = hits.filter(({ time }) => time < begins + bar - ON_ONE).map(({ time }) => time);
  const best = tried.reduce((a, b) => (score(b) > score(a) + 1e-9 ? b : a));
  // The bar before it too, as far as the recording has it.
  let from = best;
  while (from - bar >= -ON_ONE && from - bar > begins - bar + ON_ONE) from -= bar;
  const hit = hits.find(({ time }) => Math.abs(time - from) < ON_ONE);
  return Math.max(0, hit ? hit.time : from);
}
