import { clamp, nth, lastOf } from "@/core/base";
import { msToTicks } from "@/core/time";
import type { Params } from "@/core/params";
import type { ChainStep, Project } from "@/core/score";
import { stutterCurve, transformOf } from "@/core/transforms";
import type { Block } from "./layout";
import { xOf, type View } from "./view";

/** The slowest and the fastest gap that the line over the notes reaches, in ticks. */
const SLOWEST = 1920;
const FASTEST = 15;
/** How near to a handle a press has to be, in CSS pixels. */
const REACH = 11;
const POINTS = 24;

/** Ends of the line that can be pulled, and its middle, which is its curve. */
export type RateHandle = "first" | "middle" | "last";

/** How the rate of a stutter goes over its phrase, as a line over the notes: fast is up. */
export interface RateLine {
  step: ChainStep;
  params: Params;
  points: readonly { x: number; y: number }[];
  handles: Readonly<Record<RateHandle, { x: number; y: number }>>;
  /** The gap in ticks at a height of the sheet's content. */
  gapAt(y: number): number;
}

/** The line of the last stutter that is on in the chain of an open track; null where there is none. */
export function rateLine(project: Project, block: Block | undefined, view: View): RateLine | null {
  const step = block?.part.chain.findLast((step) => step.transform === "stutter" && step.on);
  const rows = block?.rows ?? [];
  if (!block || !step || rows.length === 0) return null;
  const scope = step.scope && new Set(step.scope);
  const notes = block.part.notes.filter(
    (note) =>
      (!scope || scope.has(note.id)) && (step.lane === undefined || note.pitch === step.lane),
  );
  if (notes.length === 0) return null;
  const from = Math.min(...notes.map((note) => note.start));
  const to = Math.max(...notes.map((note) => note.start + note.length));
  const params = { ...transformOf("stutter").defaults, ...step.params };
  const [first, last] = gapsOf(params, project.tempo);
  const lowest = lastOf(rows);
  const [top, bottom] = [nth(rows, 0).y + 4, lowest.y + lowest.height - 4];
  const share = (gap: number) => Math.log(gap / FASTEST) / Math.log(SLOWEST / FASTEST);
  const yOf = (gap: number) => top + clamp(share(gap), 0, 1) * (bottom - top);
  const at = (u: number) => ({
    x: xOf(view, from + u * (to - from)),
    y: yOf(first * (last / first) ** stutterCurve(u, String(params.curve))),
  });
  return {
    step,
    params,
    points: Array.from({ length: POINTS + 1 }, (_, i) => at(i / POINTS)),
    handles: { first: at(0), middle: at(0.5), last: at(1) },
    gapAt(y) {
      const down = clamp((y - top) / (bottom - top), 0, 1);
      return FASTEST * (SLOWEST / FASTEST) ** down;
    },
  };
}

const valueTicks = (value: string, kind: string) =>
  (3840 / Number(value)) * ({ triplet: 2 / 3, dotted: 3 / 2 }[kind] ?? 1);

function gapsOf(params: Params, tempo: number): [number, number] {
  return params.unit === "ms"
    ? [msToTicks(Number(params.firstMs), tempo), msToTicks(Number(params.lastMs), tempo)]
    : [
        valueTicks(String(params.first), String(params.kind)),
        valueTicks(String(params.last), String(params.kind)),
      ];
}

/** Which handle of a line a point is on; `y` in the sheet's content. */
export function rateHandleAt(
  rate: RateLine,
  { x, y }: { x: number; y: number },
): RateHandle | null {
  const near = (handle: RateHandle) =>
    Math.hypot(x - rate.handles[handle].x, y - rate.handles[handle].y) <= REACH;
  return (["first", "last", "middle"] as const).find(near) ?? null;
}

const VALUES = [1, 2, 4, 8, 16, 32, 64, 128] as const;

/** Values of the step after a handle was pulled to a height. */
export function ratePulled(rate: RateLine, handle: RateHandle, y: number, tempo: number): Params {
  const { params } = rate;
  if (handle === "middle") return { ...params, curve: curveAt(rate, y) };
  const gap = rate.gapAt(y);
  if (params.unit === "ms") {
    const ms = clamp((gap * 60_000) / tempo / 960, 5, 2000);
    return { ...params, [`${handle}Ms`]: Math.round(ms) };
  }
  const ratio = (value: number) =>
    Math.abs(Math.log(valueTicks(String(value), String(params.kind)) / gap));
  const nearest = VALUES.reduce((best, value) => (ratio(value) < ratio(best) ? value : best));
  return { ...params, [handle]: String(nearest) };
}

/** The curve whose middle lies nearest to a height. */
function curveAt({ handles: { first, last } }: RateLine, y: number): string {
  const way = last.y - first.y;
  if (Math.abs(way) < 1) return "evenly";
  const share = (y - first.y) / way;
  return share > 0.62 ? "early" : share < 0.38 ? "late" : "evenly";
}
