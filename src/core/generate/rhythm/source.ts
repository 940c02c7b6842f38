import { type MidiPitch, type Random, type Ticks, nth, modulo } from "../../base";
import { type Metre, barTicks, beatTicks, gridTicks } from "../../time";
import { type Groove, grooveGrid, grooveHits } from "../../groove";
import { metricalWeights } from "./syncopation";
import { fillRhythm, type Slot, type ValueWeight, valueTicks } from "./slots";

/** How a rhythm goes with another: with it, into its gaps, or never together with it. */
export const WITH = ["follow", "answer", "interlock"] as const;
export type With = (typeof WITH)[number];

/** Another part that a rhythm is taken from. */
export interface RhythmSource {
  how: With;
  /** Its onsets over all bars, as it is heard. */
  hits: readonly Ticks[];
  /** Their pitches, where it is a line: an answer takes up its intervals too. */
  pitches?: readonly MidiPitch[];
  /**
   * How loud each hit is, 1–127, where only as many as the density says are followed, the loud ones rather: those of a
   * groove, which has all steps of a bar. Left out where all are.
   */
  loud?: readonly number[];
}

/** Hits nearer than this are one. */
const TOGETHER = 60;
/** How loud a hit is of which that is not said, and how much its place in the bar counts then. */
const USUAL = 64;
const LEVEL = 0.5;
/** A gap is at least so many beats long to be answered in, and is left empty for so many first. */
const GAP = 1;
const BREATH = 0.5;
/** So often is a question answered in its own rhythm. */
const IMITATES = 0.5;
/** Notes that follow hits ring for so many beats at most. */
const RING = 2;

/** The hits of a groove as a source: its louder steps count more, of equally loud ones those on stronger places. */
export function grooveSource(groove: Groove, how: With, metre: Metre, bars: number): RhythmSource {
  const bar = barTicks(metre);
  const cell = gridTicks(grooveGrid(groove));
  const cells = Math.round(bar / cell);
  const beats = Math.round(bar / beatTicks(metre));
  const weights = cells % beats === 0 ? metricalWeights(cells, beats) : [0];
  const hits = grooveHits(groove, bars * bar);
  return {
    how,
    hits: hits.map(({ tick }) => tick),
    loud: hits.map(({ tick, velocity }) => {
      const place = Math.round((tick % bar) / cell) % weights.length;
      return (velocity ?? USUAL) + LEVEL * nth(weights, place);
    }),
  };
}

interface Asked {
  metre: Metre;
  values: readonly ValueWeight[];
  density: number;
}

/**
 * The places of one bar, from 0 in it: where another part's hits are, in its gaps, or anywhere but there. `own` makes a
 * bar of a rhythm that knows nothing of the other; `whole` is how long all bars are, after which hits come again.
 */
export function withOther(
  source: RhythmSource,
  asked: Asked,
  [from, bar, whole]: readonly [from: Ticks, bar: Ticks, whole: Ticks],
  { own, random }: { own: () => Slot[]; random: Random },
): Slot[] {
  const hits = distinct(source.hits);
  if (hits.length === 0) return own();
  switch (source.how) {
    case "follow":
      return source.loud
        ? follow(louder(source, asked.density, from, bar), asked, from, bar, bar)
        : follow(hits, asked, from, bar, whole);
    case "answer":
      // Where there is no gap, it goes between the hits.
      if (!hasGaps(hits, asked.metre, whole)) return apart(own(), hits, asked, from, bar);
      return answer(hits, questionPitches(source), asked, [from, bar, whole], random);
    case "interlock":
      return apart(own(), hits, asked, from, bar);
  }
}

/** Of the hits of a bar as many as the density says, the louder ones first. */
function louder({ hits, loud }: RhythmSource, density: number, from: Ticks, bar: Ticks): Ticks[] {
  const here = hits.flatMap((tick, i) =>
    tick >= from && tick < from + bar ? [{ tick, loud: nth(loud!, i) }] : [],
  );
  const most = Math.round((density / 100) * here.length);
  const chosen = here.sort((a, b) => b.loud - a.loud || a.tick - b.tick).slice(0, most);
  return distinct(chosen.map(({ tick }) => tick));
}

function distinct(hits: readonly Ticks[]): Ticks[] {
  const sorted = [...hits].sort((a, b) => a - b);
  return sorted.filter((tick, i) => i === 0 || tick - nth(sorted, i - 1) >= TOGETHER);
}

/** The next hit after each, over the end of the bars. */
const nextOf = (hits: readonly Ticks[], i: number, whole: Ticks) =>
  hits[i + 1] ?? nth(hits, 0) + whole;

function follow(
  hits: readonly Ticks[],
  asked: Asked,
  from: Ticks,
  bar: Ticks,
  whole: Ticks,
): Slot[] {
  const most = RING * beatTicks(asked.metre);
  return hits.flatMap((tick, i) => {
    const start = Math.max(0, tick) - from;
    if (start < 0 || start >= bar) return [];
    return [{ start, length: Math.max(1, Math.min(most, nextOf(hits, i, whole) - tick)) }];
  });
}

/** Whether there is a gap at all that can be answered in. */
export function hasGaps(hits: readonly Ticks[], metre: Metre, whole: Ticks): boolean {
  const all = distinct(hits);
  return all.some((tick, i) => nextOf(all, i, whole) - tick > GAP * beatTicks(metre));
}

/** What is called at a tick: the highest pitch there, if any. */
function questionPitches({ hits, pitches }: RhythmSource): (tick: Ticks) => MidiPitch | undefined {
  const highest = new Map<Ticks, MidiPitch>();
  pitches?.forEach((pitch, i) =>
    highest.set(nth(hits, i), Math.max(pitch, highest.get(nth(hits, i)) ?? pitch)),
  );
  return (tick) => highest.get(tick);
}

function answer(
  hits: readonly Ticks[],
  calledAt: (tick: Ticks) => MidiPitch | undefined,
  asked: Asked,
  [from, bar, whole]: readonly [Ticks, Ticks, Ticks],
  random: Random,
): Slot[] {
  const beat = beatTicks(asked.metre);
  const cell = finest(asked.values);
  const slots: Slot[] = [];
  // What begins before the bars ends is answered at their beginning too.
  const around = [...hits.map((tick) => tick - whole), ...hits];
  around.forEach((tick, i) => {
    const next = around[i + 1] ?? nth(hits, 0) + whole;
    if (next - tick <= GAP * beat) return;
    const begin = tick + Math.max(BREATH * beat, (next - tick) / 2);
    const first = Math.max(from, Math.ceil(begin / cell) * cell);
    const end = Math.min(from + bar, next);
    if (first >= end) return;
    const echo = around.filter((hit) => hit > tick - (end - first) && hit <= tick);
    // Now and then as the question went, else in a way of its own.
    if (echo.length > 1 && random() < IMITATES) {
      const shift = first - nth(echo, 0) - from;
      const placed = echo.map((hit) => ({ hit, start: Math.round((hit + shift) / cell) * cell }));
      const again = placed.filter(({ start }, k) => k === 0 || start > nth(placed, k - 1).start);
      again.forEach(({ start, hit }, k) => {
        const until = again[k + 1]?.start ?? end - from;
        const call = calledAt(modulo(hit, whole));
        if (until > start)
          slots.push({ start, length: until - start, ...(call !== undefined && { call }) });
      });
      return;
    }
    for (const slot of fillRhythm(end - first, asked.values, random))
      if (random() * 100 < asked.density) slots.push({ ...slot, start: first - from + slot.start });
  });
  return slots.sort((a, b) => a.start - b.start);
}

/** Each place that a hit stands on goes to the next free one of the grid, where there is one before the next place. */
function apart(
  own: readonly Slot[],
  hits: readonly Ticks[],
  asked: Asked,
  from: Ticks,
  bar: Ticks,
): Slot[] {
  const cell = finest(asked.values);
  const taken = (start: Ticks) => hits.some((hit) => Math.abs(hit - from - start) < TOGETHER);
  return own.flatMap((slot, i) => {
    const limit = Math.min(bar, own[i + 1]?.start ?? bar);
    let { start } = slot;
    while (start < limit && taken(start)) start += cell;
    if (start >= limit) return [];
    const length = Math.min(slot.length, limit - start);
    return [{ start, length }];
  });
}

/** The shortest of the values in the mix. */
function finest(values: readonly ValueWeight[]): Ticks {
  const used = values.filter(({ weight }) => weight > 0);
  return Math.min(...used.map(valueTicks));
}
