import type { Ticks } from "@/core/base";
import { type Metre, barTicks } from "@/core/time";

/** How time lies on the sheet: `x = PAD + (tick − scroll) · zoom`, in CSS pixels. */
export interface View {
  width: number;
  height: number;
  zoom: number;
  scroll: number;
  /** Pixels the content is scrolled down. */
  top: number;
}

/** Room before tick 0, for early hits and half a stone. */
export const PAD = 14;
const LEAST_BAR = 150;

/** Zoom that shows the whole pattern, or as many bars as stay readable. */
export function fitZoom(width: number, total: number, metre: Metre): number {
  const whole = (width - 2 * PAD) / total;
  return Math.max(whole, LEAST_BAR / barTicks(metre));
}

/** What of a stone at the left edge has to be in view, in px. */
const EDGE = 7;

/** The farthest the sheet can be scrolled back: before the first bar where early hits do not lie in view from it. */
export const minScroll = (zoom: number, early: Ticks): number =>
  Math.min(0, (PAD - EDGE) / zoom - early);

export const MIN_ZOOM = 0.004;
/** A quarter is then wider than the sheet of a small screen. */
export const MAX_ZOOM = 2;

/** Where a tick lies in view, in CSS pixels from its left edge. */
export function xOf(view: View, tick: number): number {
  return PAD + (tick - view.scroll) * view.zoom;
}

/** The tick at a place in view; not rounded, and outside the pattern where the place is. */
export function tickOf(view: View, x: number): number {
  return view.scroll + (x - PAD) / view.zoom;
}

/** The farthest the sheet can be scrolled in time. */
export function maxScroll(width: number, zoom: number, total: number): number {
  return Math.max(0, total - (width - 2 * PAD) / zoom);
}

/**
 * What is seen of time in a width: at the wanted zoom, or one that fits where none is wanted, and scrolled no
 * farther than the end, or than hits that are `early` by so much. At the beginning these are seen.
 */
export function timeView(
  { zoom: wanted, scroll }: { zoom: number | null; scroll: number },
  { width, total, early, metre }: { width: number; total: Ticks; early: Ticks; metre: Metre },
): Pick<View, "width" | "zoom" | "scroll"> {
  const space = Math.max(200, width);
  let zoom = wanted ?? fitZoom(space, total, metre);
  let first = minScroll(zoom, early);
  if (wanted === null && first < 0) {
    zoom = fitZoom(space, total - first, metre);
    first = minScroll(zoom, early);
  }
  const from = scroll <= 0 ? first : scroll;
  return { width, zoom, scroll: Math.min(from, Math.max(first, maxScroll(width, zoom, total))) };
}

/** Radius of a stone: louder is larger. Stones of narrow rows may reach into the next row. */
export function stoneRadius(velocity: number, rowHeight: number): number {
  return 2.2 + (Math.max(rowHeight, 22) / 2 - 6.2) * (velocity / 127);
}
