import { type Semitones, type Ticks, firstIndex, nth, lastOf } from "../base";
import { type BendPoint, LIMITS } from "./model";

/** What the wheel's end bends by, in semitones: the default of MIDI 1.0 (RPN 0, General MIDI). */
export const BEND_RANGE = 2;
/** The wheel's ends, 14 bits about the middle. */
export const BEND_LIMITS = { min: -8192, max: 8191 } as const;

/** A bend in semitones. */
export const bendSemitones = (value: number): Semitones => (value * BEND_RANGE) / 8192;

/** A hundredth of a semitone, in steps of the wheel: less is not heard. */
const CENT = 8192 / (BEND_RANGE * 100);
/** A wheel that sends nothing for so long stands still: what follows is a step and no ramp. */
const STILL_TICKS = 96;

/** The bend of a curve at a tick: straight lines between its points, held before the first and after the last. */
export function bendAt(points: readonly BendPoint[], tick: Ticks): number {
  const next = firstIndex(points.length, (i) => nth(points, i).tick <= tick);
  const [a, b] = [points[next - 1], points[next]];
  if (!a || !b) return (a ?? b)?.value ?? 0;
  return a.value + ((b.value - a.value) * (tick - a.tick)) / (b.tick - a.tick);
}

/** A wheel stood in the middle until it was first moved. */
export function fromMiddle(positions: readonly BendPoint[]): BendPoint[] {
  const [first] = positions;
  return first && first.tick > 0
    ? [{ tick: first.tick - 1, value: 0 }, ...positions]
    : [...positions];
}

/** The positions that a wheel was heard to take, as a curve: where it stood still that is level until the next one. */
export function bendCurve(positions: readonly BendPoint[]): BendPoint[] {
  const curve: BendPoint[] = [];
  for (const { tick, value } of positions) {
    const last = curve.at(-1);
    if (last && tick <= last.tick) {
      // Two at one tick: the later one holds.
      curve[curve.length - 1] = { tick: last.tick, value };
      continue;
    }
    if (last && tick - last.tick > STILL_TICKS) curve.push({ tick: tick - 1, value: last.value });
    curve.push({ tick, value });
  }
  return curve;
}

/**
 * A curve with only the points it needs: nowhere farther than `within` from what it was, measured
 * upright. Source: D. Douglas, T. Peucker, “Algorithms for the reduction of the number of points
 * required to represent a digitized line”, The Canadian Cartographer 10(2), 1973.
 */
export function thinned(curve: readonly BendPoint[], within = CENT): BendPoint[] {
  if (curve.length < 3) return [...curve];
  const kept = new Uint8Array(curve.length);
  kept[0] = kept[curve.length - 1] = 1;
  const spans: [number, number][] = [[0, curve.length - 1]];
  for (let span = spans.pop(); span; span = spans.pop()) {
    const [from, to] = span;
    const [a, b] = [nth(curve, from), nth(curve, to)];
    let [far, at] = [within, -1];
    for (let i = from + 1; i < to; i++) {
      const { tick, value } = nth(curve, i);
      const straight = a.value + ((b.value - a.value) * (tick - a.tick)) / (b.tick - a.tick);
      if (Math.abs(value - straight) > far) [far, at] = [Math.abs(value - straight), i];
    }
    if (at < 0) continue;
    kept[at] = 1;
    spans.push([from, at], [at, to]);
  }
  return curve.filter((_, i) => kept[i]);
}

/** A curve of a loop gone round until `whole` ticks are filled. */
export function repeated(curve: readonly BendPoint[], loop: Ticks, whole: Ticks): BendPoint[] {
  const rounds: BendPoint[] = [];
  // Each loop begins where the curve does: what was held at its end does not run into it.
  const round = [
    { tick: 0, value: Math.round(bendAt(curve, 0)) },
    ...curve.filter(({ tick }) => tick > 0 && tick < loop - 1),
    { tick: loop - 1, value: Math.round(bendAt(curve, loop - 1)) },
  ];
  for (let at = 0; at < whole; at += loop) {
    for (const { tick, value } of round)
      if (at + tick < whole) rounds.push({ tick: at + tick, value });
  }
  return thinned(rounds, 0.5);
}

/** A part with a bend curve, as far as there is room for its points; a curve that rests in the middle is none. */
export function withBend<P extends { bend?: readonly BendPoint[] }>(
  part: P,
  curve: readonly BendPoint[],
): P {
  if (part.bend === curve || (!part.bend && curve.length === 0)) return part;
  const { bend: _, ...rest } = part;
  if (curve.every(({ value }) => value === 0)) return rest as P;
  return { ...rest, bend: curve.slice(0, LIMITS.bend) } as unknown as P;
}

/** A stretch `[from, to)` of a curve put elsewhere in time: at a tick, so many times as long, turned about where below 0. */
export interface BendPiece {
  from: Ticks;
  to: Ticks;
  at: Ticks;
  scale: number;
}

/** A curve put together of stretches of another, in order of where they are put; between them the wheel rests. */
export function rearranged(curve: readonly BendPoint[], pieces: readonly BendPiece[]): BendPoint[] {
  const points: BendPoint[] = [];
  const put = (at: Ticks, exact: number) => {
    const value = Math.round(exact);
    const last = points.at(-1);
    if (at < 0) return;
    // Two corners of a jump that fall together stay one tick apart; no corner is put off by more.
    if (!last || at > last.tick) points.push({ tick: at, value });
    else if (at === last.tick) points.push({ tick: at + 1, value });
    else points[points.length - 1] = { tick: last.tick, value };
  };
  let end = 0;
  for (const { from, to, at, scale } of pieces) {
    if (to <= from || scale === 0) continue;
    if (at > end) {
      put(end, 0);
      put(at - 1, 0);
    }
    const inside = curve.filter(({ tick }) => tick > from && tick < to - 1);
    const corners = [from, ...inside.map(({ tick }) => tick), to - 1];
    if (scale < 0) corners.reverse();
    // The last tick of a stretch is the last before the next one, however long it was made.
    const first = nth(corners, 0);
    const width = Math.max(1, Math.round((to - from) * Math.abs(scale)));
    const long = Math.max(1, to - 1 - from);
    for (const tick of corners)
      put(at + Math.round((Math.abs(tick - first) / long) * (width - 1)), bendAt(curve, tick));
    end = at + width;
  }
  // After the last of them the wheel rests.
  if (lastValue(points) !== 0) put(end, 0);
  return levelEnds(thinned(points, 0.5));
}

const lastValue = (curve: readonly BendPoint[]): number => curve.at(-1)?.value ?? 0;

/** A curve without the points at its ends that only say what is held there anyway. */
function levelEnds(curve: readonly BendPoint[]): BendPoint[] {
  let [first, last] = [0, curve.length - 1];
  while (first < last && nth(curve, first).value === nth(curve, first + 1).value) first++;
  while (last > first && nth(curve, last).value === nth(curve, last - 1).value) last--;
  return curve.slice(first, last + 1);
}

/** A curve with another laid over the stretch that it covers. */
export function overlaid(under: readonly BendPoint[], over: readonly BendPoint[]): BendPoint[] {
  const [first, last] = [over[0], over.at(-1)];
  if (!first || !last) return [...under];
  const before = under.filter((point) => point.tick < first.tick);
  const after = under.filter((point) => point.tick > last.tick);
  // What lies outside keeps its shape: it goes on from where it stood.
  if (before.length > 0 && lastOf(before).tick < first.tick - 1) {
    before.push({ tick: first.tick - 1, value: Math.round(bendAt(under, first.tick - 1)) });
  }
  if (after.length > 0 && nth(after, 0).tick > last.tick + 1) {
    after.unshift({ tick: last.tick + 1, value: Math.round(bendAt(under, last.tick + 1)) });
  }
  return thinned([...before, ...over, ...after], 0.5);
}
