import { type Ticks, lowerBound, clamp, clampVelocity, nth, lastOf } from "../base";
import { GRID_KINDS, type GridKind, PPQ, grid, gridTicks, msToTicks, ticksToMs } from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { clampLength, counted, counter, defineTransform, figure, pieceIds, spanOf } from "./kit";

const UNITS = ["note values", "ms"] as const;
const VALUES = ["1", "2", "4", "8", "16", "32", "64", "128"] as const;
const CURVES = ["evenly", "early", "late", "slow at both ends"] as const;
/** Never more gaps than this, however fast. */
const MAX = 4096;
const only = (is: string) => ({ when: { param: "unit", is: [is] } });

/** How far of the way from the first rate to the last one is at a share of the phrase. Ends stay. */
export function stutterCurve(share: number, curve: string): number {
  if (curve === "early") return 1 - (1 - share) ** 2;
  if (curve === "late") return share ** 2;
  return curve === "slow at both ends" ? share * share * (3 - 2 * share) : share;
}

/** So many gaps from one to another in equal ratios along the curve, exact, not rounded. */
function gapsOf(count: number, from: Ticks, to: Ticks, curve: string): number[] {
  const share = (i: number) => (count > 1 ? i / (count - 1) : 0);
  return Array.from(
    { length: count },
    (_, i) => from * (to / from) ** stutterCurve(share(i), curve),
  );
}

/**
 * The gaps that fill a phrase, from the first rate to the last: as many as come nearest to its length, all
 * made longer or shorter by one factor so that they end with it.
 */
export function stutterGaps(length: Ticks, from: Ticks, to: Ticks, curve: string): number[] {
  const sum = (gaps: readonly number[]) => gaps.reduce((all, gap) => all + gap, 0);
  const mean = sum(gapsOf(64, from, to, curve)) / 64;
  const near = clamp(Math.round(length / mean), 1, MAX);
  let best: number[] = [];
  for (let count = Math.max(1, near - 2); count <= near + 2; count++) {
    const gaps = gapsOf(count, from, to, curve);
    const misses = (list: readonly number[]) => Math.abs(Math.log(sum(list) / length));
    if (best.length === 0 || misses(gaps) < misses(best)) best = gaps;
  }
  const factor = length / sum(best);
  return best.map((gap) => gap * factor);
}

/** A piece left over at a note's end that is shorter than a 1/128, and than those before it, is none. */
const LEAST_PIECE = PPQ / 32;

/** Whether the last of some edges cuts off too little to be a piece. */
function leavesScrap(edges: readonly Ticks[]): boolean {
  const [before = 0, cut = 0, end = 0] = edges.slice(-3);
  return edges.length > 2 && end - cut < Math.min(LEAST_PIECE, 0.75 * (cut - before));
}

/**
 * Cuts the notes of a phrase at a rate that changes over it, from one gap to another, slower or faster;
 * each piece is as long as gate × its gap. Velocity may ramp over the phrase.
 */
export const stutter = defineTransform({
  label: "Stutter",
  family: "chords",
  example: {
    notes: [
      [0, 3600, 60, 110],
      [0, 3600, 64, 110],
      [0, 3600, 67, 110],
    ],
  },
  about: "Repeats what is held at a rate that slows down or speeds up",
  schema: params({
    unit: param.choice("Rates in", UNITS),
    first: param.value("From", VALUES, only(UNITS[0])),
    last: param.value("To", VALUES, only(UNITS[0])),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3), only(UNITS[0])),
    firstMs: param.number("From", 5, 2000, { unit: "ms", role: "rate", ...only(UNITS[1]) }),
    lastMs: param.number("To", 5, 2000, { unit: "ms", role: "rate", ...only(UNITS[1]) }),
    curve: param.choice("Changes", CURVES),
    gate: param.number("Gate", 1, 100, { unit: "%" }),
    velocityFrom: param.whole("Velocity at start", -126, 126),
    velocityTo: param.whole("Velocity at end", -126, 126),
  }),
  picture: { pitches: [60, 64, 67], ticks: (bar) => bar },
  defaults: {
    unit: UNITS[0] as string,
    first: "32" as string,
    last: "8" as string,
    kind: "straight" as string,
    firstMs: 47,
    lastMs: 188,
    curve: CURVES[0] as string,
    gate: 90,
    velocityFrom: 0,
    velocityTo: 0,
  },
  run(selected, p, context, all) {
    const [a, b] = spanOf(selected, context);
    const ticks = (value: string, ms: number) =>
      p.unit === UNITS[1]
        ? Math.max(1, msToTicks(ms, context.tempo))
        : gridTicks(grid(Number(value), p.kind as GridKind));
    const [from, to] = [ticks(p.first, p.firstMs), ticks(p.last, p.lastMs)];
    const gaps = b > a ? stutterGaps(b - a, from, to, p.curve) : [];
    let at = a;
    const cuts = gaps.map((gap) => Math.round((at += gap)));
    const making = counter(context);
    const pieceId = pieceIds(all);
    const gate = p.gate / 100;
    const replaced = selected.map((note): Note[] => {
      const end = note.start + note.length;
      const first = lowerBound(cuts, note.start + 1);
      const inside = cuts.slice(first, Math.max(first, lowerBound(cuts, end)));
      const edges = [note.start, ...inside, end];
      if (leavesScrap(edges)) edges.splice(-2, 1);
      making(edges.length - 1);
      return edges.slice(0, -1).map((start, i) => {
        const share = b > a ? (start - a) / (b - a) : 0;
        const louder = p.velocityFrom + share * (p.velocityTo - p.velocityFrom);
        return {
          ...note,
          id: i === 0 ? note.id : pieceId(note.id, i),
          start,
          length: clampLength((nth(edges, i + 1) - start) * gate),
          velocity: clampVelocity(note.velocity + louder),
        };
      });
    });
    return {
      replaced,
      sentence: (counts) => {
        if (selected.length === 0) return "No notes to repeat";
        if (gaps.length === 0) return "The stretch is empty: nothing to repeat in it";
        const ms = (gap: Ticks) => `${figure(ticksToMs(gap, context.tempo))} ms`;
        const after = selected.length + counts.added;
        return `${counted(selected.length, context)} became ${after}, from ${ms(nth(gaps, 0))} to ${ms(lastOf(gaps))}`;
      },
    };
  },
});
