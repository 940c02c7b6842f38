import { type Ticks, nth } from "../base";
import {
  type ArrangementOptions,
  type BendPoint,
  type Project,
  arrangementOf,
  bendAt,
  sectionAfter,
} from "../score";
import { effectivePart } from "../transforms";

const bentTracks = new WeakMap<Project, ReadonlySet<string>>();

/** Tracks that have a bend curve in any pattern; looked for once in each state of a project. */
function bentIn(project: Project): ReadonlySet<string> {
  let bent = bentTracks.get(project);
  if (!bent) {
    const parts = project.patterns.flatMap((pattern) => pattern.parts);
    bent = new Set(parts.filter((part) => part.bend).map((part) => part.track));
    bentTracks.set(project, bent);
  }
  return bent;
}

/**
 * How a track is bent over `[from, to)`, ticks from the start of playback: the corners of its curve, the
 * loop gone round, the first of them at `from`, the last a tick before `to`. Empty where the track has no curve in any pattern that is
 * played there and none just before. Straight between corners, as `bendAt` reads it.
 */
export function bendLine(
  project: Project,
  trackId: string,
  [from, to]: readonly [from: Ticks, to: Ticks],
  options: ArrangementOptions & { loop?: boolean } = {},
): BendPoint[] {
  if (!bentIn(project).has(trackId)) return [];
  const arrangement = arrangementOf(project, options);
  const track = project.tracks.find((track) => track.id === trackId);
  if (arrangement.length === 0 || to <= from || track?.kind !== "melody") return [];
  const corners: BendPoint[] = [];
  const put = (tick: Ticks, value: number) => {
    const last = corners.at(-1);
    if (last?.tick === tick) corners.pop();
    corners.push({ tick, value });
  };
  const passes = (options.loop ?? true) ? Math.floor((to - 1) / arrangement.length) : 0;
  // One tick before the window too, so that a jump at its beginning is a jump.
  for (
    let pass = Math.max(0, Math.floor((from - 1) / arrangement.length));
    pass <= passes;
    pass++
  ) {
    const zero = pass * arrangement.length - arrangement.from;
    const [low, high] = [
      Math.max(from - 1 - zero, arrangement.from),
      Math.min(to - zero, arrangement.from + arrangement.length),
    ];
    for (let i = sectionAfter(arrangement.sections, low); i < arrangement.sections.length; i++) {
      const { pattern, at, length, skip, loopTicks } = nth(arrangement.sections, i);
      if (at >= high) break;
      const begin = Math.max(at, arrangement.from);
      const end = Math.min(at + length, arrangement.from + arrangement.length);
      const part = pattern.parts.find((part) => part.track === trackId);
      const heard = part && effectivePart(project, track, part, pattern);
      const { bend: curve, length: period } = heard ?? { bend: [], length: loopTicks };
      const inside = curve.filter((point) => point.tick < period);
      // Round by round of the pattern, and loop by loop in each.
      for (
        let own = at - skip + Math.max(0, Math.floor((low - at + skip) / loopTicks)) * loopTicks;
        own < Math.min(end, high);
        own += loopTicks
      ) {
        const loops = Math.max(0, Math.floor((low - own) / period));
        const close = Math.min(own + loopTicks, end);
        for (let loop = own + loops * period; loop < Math.min(close, high); loop += period) {
          const [first, until] = [Math.max(loop, begin), Math.min(loop + period, close)];
          if (until <= first) continue;
          put(first + zero, bendAt(curve, first - loop));
          for (const { tick, value } of inside)
            if (loop + tick > first && loop + tick < until) put(loop + tick + zero, value);
          put(until - 1 + zero, bendAt(curve, until - 1 - loop));
        }
      }
    }
  }
  const between = corners.filter(({ tick }) => tick > from && tick < to - 1);
  const cornerAt = (tick: number) => ({ tick, value: bendAt(corners, tick) });
  return [cornerAt(from), ...between, ...(to - 1 > from ? [cornerAt(to - 1)] : [])];
}

/** A wheel's step is sent for each so many of its 16,384 values: under two hundredths of a semitone. */
const WHEEL_STEP = 64;
/** And no oftener than once in so many ticks. */
const LEAST_TICKS = 10;

/** A line as a wheel says it: values one after another, each held to the next. */
export function bendSteps(curve: readonly BendPoint[]): BendPoint[] {
  const steps: BendPoint[] = [];
  const put = (tick: Ticks, value: number) => {
    const whole = Math.round(value);
    if ((steps.at(-1)?.value ?? 0) !== whole) steps.push({ tick: Math.round(tick), value: whole });
  };
  curve.forEach((point, i) => {
    put(point.tick, point.value);
    const next = curve[i + 1];
    if (!next) return;
    const ticks = next.tick - point.tick;
    const n = Math.min(
      Math.ceil(Math.abs(next.value - point.value) / WHEEL_STEP),
      Math.floor(ticks / LEAST_TICKS),
    );
    for (let k = 1; k < n; k++) {
      put(point.tick + (ticks * k) / n, point.value + ((next.value - point.value) * k) / n);
    }
  });
  return steps;
}
