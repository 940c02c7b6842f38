import { type Ticks, clamp, nth, modulo } from "../base";
import {
  GRID_VALUES,
  type Grid,
  type Metre,
  barTicks,
  beatTicks,
  driftOf,
  grid,
  gridName,
  gridTicks,
  lineAt,
} from "../time";
import type { Note } from "../score";

/** A beat of a part that stands on another grid than the rest. */
export interface GridException {
  /** Bar and beat, from 1. */
  bar: number;
  beat: number;
  grid: Grid;
  name: string;
}

/** The grid that notes fit best, and how well. */
export interface GridFit {
  grid: Grid;
  name: string;
  /** Share of the hits, 0–1, that stand at a line of it, or of its beat's own grid. */
  fit: number;
  /** Whether it explains the hits clearly better than chance. */
  clear: boolean;
  /** Ids of hits that stand at no line. */
  misfits: string[];
  /** Beats on a grid of their own, in order. */
  exceptions: GridException[];
}

type Onset = Pick<Note, "id" | "start">;

/** A grid that hits are tried against; `cost` is what its being uncommon takes, in nats. */
interface Candidate {
  grid: Grid;
  cell: Ticks;
  cost: number;
}

/** Straight values down to 1/16 are what music mostly stands on (common practice). */
const UNCOMMON: Readonly<Record<string, number>> = {
  "32 straight": 0.5,
  "64 straight": 2,
  "128 straight": 3,
  "8 triplet": 1,
  "16 triplet": 1,
  "4 dotted": 2,
  "8 dotted": 2,
};
const PLAIN: readonly Candidate[] = (["straight", "triplet", "dotted"] as const)
  .flatMap((kind) => GRID_VALUES.map((value) => grid(value, kind)))
  .map((grid) => ({
    grid: grid,
    cell: gridTicks(grid),
    cost: UNCOMMON[`${grid.value} ${grid.kind}`] ?? (grid.kind === "straight" ? 0 : 2.5),
  }))
  .sort((a, b) => b.cell - a.cell);

/** What swings, and what a swing takes, as one more number that has to be known. */
const SWUNG = [8, 16] as const;
const SWING_COST = 2.5;

/** Half widths in ticks of the noise that hits are tried with, about their lines. */
const WIDTHS = [2, 5, 9, 14, 20, 27, 35, 44, 54, 64, 80] as const;
/** What a hit takes that stands at no line, and a beat that has a grid of its own. */
const STRAY = 3.5;
const SWITCH = 5.5;
/** What any grid gains of hits that stand anywhere, by chance. */
const BY_CHANCE = 4;
/** So many hits, the first ones, decide of which grid a part is; all of them what fits it. */
const DECIDING = 2000;

/**
 * The grid that notes fit best: the one by which they are told in the fewest words. Each hit takes the
 * choice of a line and of a place in the noise about it, so that a finer grid than needed is dearer, and
 * so is one that leaves hits beside its lines; uncommon grids and swing take something, and a beat may
 * have a grid of its own where that pays (minimum description length). Null without notes.
 */
export function fitGrid(
  notes: readonly Onset[],
  metre: Metre = { beats: 4, unit: 4 },
): GridFit | null {
  if (notes.length === 0) return null;
  const beat = beatTicks(metre);
  const candidates = [...PLAIN, ...SWUNG.map((value) => swung(notes, value))];
  const deciding = beatsOf(notes.slice(0, DECIDING), beat);
  const { candidate, width, cost } = cheapest(deciding, candidates);
  const { grid: found, cell } = candidate;
  const own = exceptionsOf(beatsOf(notes, beat), candidate, width, candidates);

  const misfits: string[] = [];
  for (const { id, start } of notes) {
    const other = own.get(beatAt(start, beat));
    const [g, size] = other ? [other.grid, other.cell] : [found, cell];
    const reach = Math.max(size / 4, Math.min(width, size / 2));
    if (Math.abs(driftOf(g, start)) > reach) misfits.push(id);
  }
  const inBar = Math.round(barTicks(metre) / beat);
  return {
    grid: found,
    name: gridName(found),
    fit: 1 - misfits.length / notes.length,
    clear: cost < -BY_CHANCE,
    misfits,
    exceptions: [...own].map(([at, { grid: g }]) => ({
      bar: Math.floor(at / inBar) + 1,
      beat: (at % inBar) + 1,
      grid: g,
      name: gridName(g),
    })),
  };
}

/** Bar and beat in words: `1/8, bar 2 beat 4 in 1/16T`. */
export function describeFit({ name, exceptions }: GridFit): string {
  const [first] = exceptions;
  if (!first) return name;
  if (exceptions.length > 3) return `${name}, ${exceptions.length} beats in other grids`;
  const each = exceptions.map((e) => `bar ${e.bar} beat ${e.beat} in ${e.name}`);
  return `${name}, ${each.join(", ")}`;
}

/** A hit a little early belongs to the beat it leads into. */
const EARLY = 30;
const beatAt = (start: Ticks, beat: Ticks) => Math.max(0, Math.floor((start + EARLY) / beat));

/** Starts by the beat they lie in. */
function beatsOf(notes: readonly Onset[], beat: Ticks): Map<number, number[]> {
  const beats = new Map<number, number[]>();
  for (const { start } of notes) {
    const at = beatAt(start, beat);
    const list = beats.get(at);
    if (list) list.push(start);
    else beats.set(at, [start]);
  }
  return beats;
}

/** The swing of a value that notes would have: the one by which most of them stand at a line. */
function swung(notes: readonly Onset[], value: number): Candidate {
  const cell = gridTicks(grid(value));
  const pair = 2 * cell;
  // How many hits stand where in a pair of cells: all that a swing can be told by.
  const phases = new Uint32Array(pair);
  for (const { start } of notes) phases[modulo(start, pair)]!++;
  let best = { swing: 51, cost: Infinity };
  for (let swing = 51; swing <= 75; swing++) {
    const off = (pair * swing) / 100;
    const counts = new Uint32Array(WIDTHS.length + 1);
    for (let phase = 0; phase < pair; phase++) {
      if (phases[phase]! > 0) {
        const drift = Math.min(phase, pair - phase, Math.abs(phase - off));
        counts[levelOf(drift)]! += phases[phase]!;
      }
    }
    for (let level = 0; level < WIDTHS.length; level++) {
      const cost = costOf(counts, level, cell);
      if (cost < best.cost) best = { swing, cost };
    }
  }
  // The middle of the hits about the off-beats says it more exactly than whole percents: of their mean
  // and of their outermost, since played timing is spread more evenly than a bell.
  const off = (pair * best.swing) / 100;
  const offBeats = spreadAbout(phases, off, Math.min(off, pair - off) / 2);
  const { mean, count, first, last } = offBeats;
  const middle = count > 0 ? (mean + (first + last) / 2) / 2 : off;
  const exact = (100 * middle) / pair;
  // The triplet feel has its exact name; else half percents are as fine as anyone says it.
  const said = Math.abs(exact - 200 / 3) < 0.5 ? 66.67 : Math.round(2 * exact) / 2;
  const swing = clamp(said, 51, 75);
  // A swing that the unevenness of the hits explains as well is none.
  const onBeats = spreadAbout(phases, 0, cell / 2);
  const later = mean - onBeats.mean - cell;
  const error = Math.sqrt(
    offBeats.variance / Math.max(1, count) + onBeats.variance / Math.max(1, onBeats.count),
  );
  const certain = later > (swing < SLIGHT ? SURE : LIKELY) * error;
  const cost = count > 0 && certain ? SWING_COST : Infinity;
  return { grid: grid(value, "straight", swing), cell, cost };
}

/**
 * How many standard errors off-beats have to lie late by to be swung: a slight swing, which comes by chance more
 * easily than a strong one, has to be surer.
 */
const SURE = 3.5;
const LIKELY = 1.8;
/** Below this swing, in percent, it is slight. */
const SLIGHT = 52.5;

/** How hits are spread within a reach about a phase of a pair of cells, round its end; in ticks from its beginning. */
function spreadAbout(phases: Uint32Array, about: number, reach: number) {
  const pair = phases.length;
  let [sum, squares, count, first, last] = [0, 0, 0, pair, 0];
  phases.forEach((hits, phase) => {
    if (hits === 0) return;
    const at = phase - about > pair / 2 ? phase - pair : phase;
    if (Math.abs(at - about) >= reach) return;
    sum += hits * at;
    squares += hits * at * at;
    count += hits;
    first = Math.min(first, at);
    last = Math.max(last, at);
  });
  const mean = count > 0 ? sum / count : about;
  return {
    mean,
    variance: count > 0 ? Math.max(0, squares / count - mean * mean) : 0,
    count,
    first,
    last,
  };
}

/** Index of the narrowest noise that holds a drift; one past the last where none does. */
function levelOf(drift: number): number {
  let level = 0;
  for (const width of WIDTHS) {
    if (drift <= width) break;
    level++;
  }
  return level;
}

/** What hits take in nats, by how many need which noise at least, against standing anywhere. */
function costOf(counts: ArrayLike<number>, level: number, cell: Ticks): number {
  let [inside, outside] = [0, 0];
  for (let i = 0; i <= WIDTHS.length; i++) {
    if (i <= level) inside += counts[i]!;
    else outside += counts[i]!;
  }
  const space = Math.min(1, (2 * nth(WIDTHS, level) + 1) / cell);
  return inside * Math.log(space) + outside * STRAY;
}

/** The drift of a start from the nearest line, as `driftOf`, without making anything. */
function distance({ grid: g, cell }: Candidate, start: Ticks): number {
  if (g.swing === 50) {
    const rest = modulo(start, cell);
    return Math.min(rest, cell - rest);
  }
  const pair = 2 * cell;
  const rest = modulo(start, pair);
  return Math.min(rest, pair - rest, Math.abs(rest - lineAt(g, 1)));
}

function countsOf(candidate: Candidate, starts: readonly number[]): Uint32Array {
  const counts = new Uint32Array(WIDTHS.length + 1);
  for (const start of starts) counts[levelOf(distance(candidate, start))]!++;
  return counts;
}

/** The grid and the noise that tell the hits in the fewest nats, beats with grids of their own included. */
function cheapest(beats: ReadonlyMap<number, readonly number[]>, candidates: readonly Candidate[]) {
  const lists = [...beats.values()];
  const counts = candidates.map((candidate) => lists.map((starts) => countsOf(candidate, starts)));
  let best = { candidate: nth(candidates, 0), width: WIDTHS[0] as number, cost: Infinity };
  WIDTHS.forEach((width, level) => {
    /** Of each beat, what it costs on each candidate's grid. */
    const costs = lists.map((_, b) =>
      candidates.map(({ cell }, c) => costOf(nth(nth(counts, c), b), level, cell)),
    );
    // The cheapest grid of each beat alone, if it had one.
    const alone = costs.map((own, b) =>
      nth(lists, b).length < 3
        ? Infinity
        : own.reduce((least, cost, c) => Math.min(least, cost + nth(candidates, c).cost), Infinity),
    );
    candidates.forEach((candidate, c) => {
      // Noise wider than a cell tells nothing.
      if (2 * width > candidate.cell && level > 0 && 2 * nth(WIDTHS, level - 1) > candidate.cell)
        return;
      let cost = candidate.cost;
      for (const [b, own] of costs.entries()) cost += Math.min(nth(own, c), nth(alone, b) + SWITCH);
      if (cost < best.cost - 1e-9) best = { candidate, width, cost };
    });
  });
  return best;
}

/** Beats that are told in fewer nats by a grid of their own, by number from 0. */
function exceptionsOf(
  beats: ReadonlyMap<number, readonly number[]>,
  base: Candidate,
  width: number,
  candidates: readonly Candidate[],
): Map<number, Candidate> {
  const level = WIDTHS.indexOf(width as (typeof WIDTHS)[number]);
  const found = new Map<number, Candidate>();
  for (const [at, starts] of [...beats].sort(([a], [b]) => a - b)) {
    const own = countsOf(base, starts);
    let outside = 0;
    for (let i = level + 1; i <= WIDTHS.length; i++) outside += own[i]!;
    // One hit beside the lines is a stray, not a grid.
    if (starts.length < 3 || outside < 2) continue;
    let best = { candidate: base, cost: costOf(own, level, base.cell) - SWITCH };
    for (const candidate of candidates) {
      if (candidate === base) continue;
      const cost = costOf(countsOf(candidate, starts), level, candidate.cell) + candidate.cost;
      if (cost < best.cost) best = { candidate, cost };
    }
    if (best.candidate !== base) found.set(at, best.candidate);
  }
  return found;
}
