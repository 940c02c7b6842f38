import { clamp } from "@/core/base";
import type { Colours } from "../controls/colours";
import { RULER_HEIGHT, type Row } from "../geometry/layout";
import type { PullLines } from "../geometry/pull-lines";
import type { RateLine } from "../geometry/rate-line";
import { xOf, type View } from "../geometry/view";

const TURN = 2 * Math.PI;

/**
 * What lies over the notes; null for what is not there. Boxes are in CSS pixels of the content.
 */
export interface Overlay {
  caret: { row: Row; tick: number } | null;
  hover: { row: Row; tick: number } | null;
  box: { x0: number; y0: number; x1: number; y1: number } | null;
  /** The span that can be stretched by its ends. */
  span: { from: number; to: number; y: number } | null;
  /** How the rate of a stutter goes over its phrase. */
  rate: Pick<RateLine, "points" | "handles"> | null;
  /** Where step entry goes on. */
  entry: { tick: number; top: number; bottom: number } | null;
  /** Where the knife would cut. */
  cut: { row: Row; tick: number } | null;
  /** What notes are pulled to by a transform that is being set. */
  pulls: readonly PullLines[];
  /** A selected stretch of time, and the heights it covers. */
  stretch: { from: number; to: number; top: number; bottom: number } | null;
}

/** What moves with the pointer and the keyboard: drawn on its own layer, so stones are not redrawn. */
export function drawOverlay(
  ctx: CanvasRenderingContext2D,
  view: View,
  colours: Colours,
  { caret, hover, box, stretch, span, cut, entry, rate, pulls }: Overlay,
): void {
  ctx.clearRect(0, 0, view.width, view.height);
  ctx.save();
  ctx.beginPath();
  ctx.rect(0, RULER_HEIGHT, view.width, view.height - RULER_HEIGHT);
  ctx.clip();
  ctx.translate(0, RULER_HEIGHT - view.top);
  if (stretch) {
    const [x0, x1] = [xOf(view, stretch.from) - 6, xOf(view, stretch.to) - 6];
    ctx.fillStyle = colours.selected;
    ctx.globalAlpha = 0.09;
    ctx.fillRect(x0, stretch.top, x1 - x0, stretch.bottom - stretch.top);
    ctx.globalAlpha = 0.8;
    for (const x of [x0, x1]) ctx.fillRect(x, stretch.top, 1, stretch.bottom - stretch.top);
    ctx.globalAlpha = 1;
  }
  for (const lines of pulls) drawPulls(ctx, view, colours, lines);
  ctx.lineWidth = 1.5;
  if (span) drawSpan(ctx, view, colours, span);
  if (rate) drawRate(ctx, colours, rate);
  if (entry) {
    const x = Math.round(xOf(view, entry.tick));
    ctx.fillStyle = colours.selected;
    ctx.fillRect(x - 1, entry.top, 2, entry.bottom - entry.top);
    ctx.beginPath();
    ctx.moveTo(x - 6, entry.top - 7);
    ctx.lineTo(x + 6, entry.top - 7);
    ctx.lineTo(x, entry.top);
    ctx.fill();
  }
  if (cut) {
    const x = xOf(view, cut.tick);
    ctx.strokeStyle = colours.text;
    ctx.beginPath();
    ctx.moveTo(x + 3, cut.row.y - 3);
    ctx.lineTo(x - 3, cut.row.y + cut.row.height + 3);
    ctx.stroke();
  }
  if (hover) {
    ctx.strokeStyle = colours.quiet;
    ctx.beginPath();
    ctx.arc(xOf(view, hover.tick), hover.row.y + hover.row.height / 2, 7, 0, TURN);
    ctx.stroke();
  }
  if (caret) {
    const x = xOf(view, caret.tick);
    const half = clamp(caret.row.height / 2, 7, 13);
    const y = caret.row.y + caret.row.height / 2;
    ctx.strokeStyle = colours.selected;
    ctx.beginPath();
    // Open corners: a caret, not one more stone.
    for (const [sx, sy] of [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const) {
      const [cx, cy] = [x + sx * 12, y + sy * half];
      ctx.moveTo(cx - sx * 5, cy);
      ctx.lineTo(cx, cy);
      ctx.lineTo(cx, cy - sy * 5);
    }
    ctx.stroke();
  }
  if (box) {
    const [x, y] = [Math.min(box.x0, box.x1), Math.min(box.y0, box.y1)];
    const [w, h] = [Math.abs(box.x1 - box.x0), Math.abs(box.y1 - box.y0)];
    ctx.fillStyle = colours.selected;
    ctx.globalAlpha = 0.1;
    ctx.fillRect(x, y, w, h);
    ctx.globalAlpha = 1;
    ctx.strokeStyle = colours.selected;
    ctx.strokeRect(x, y, w, h);
  }
  ctx.restore();
}

/** Lines closer than this would be a surface. */
const LEAST_GAP = 4;

/** Where notes are pulled to: a dashed line over the rows at each place. */
function drawPulls(
  ctx: CanvasRenderingContext2D,
  view: View,
  colours: Colours,
  { top, bottom, ticks }: PullLines,
): void {
  ctx.strokeStyle = colours.selected;
  ctx.globalAlpha = 0.6;
  ctx.lineWidth = 1;
  ctx.setLineDash([2, 2]);
  ctx.beginPath();
  let last = -Infinity;
  for (const tick of ticks) {
    const x = Math.round(xOf(view, tick)) + 0.5;
    if (x < -1 || x > view.width + 1 || x - last < LEAST_GAP) continue;
    ctx.moveTo(x, top + 3);
    ctx.lineTo(x, bottom - 3);
    last = x;
  }
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.globalAlpha = 1;
}

/** A bar over the selected notes with a handle at either end. */
function drawSpan(
  ctx: CanvasRenderingContext2D,
  view: View,
  colours: Colours,
  { from, to, y }: { from: number; to: number; y: number },
): void {
  const [a, b] = [xOf(view, from), xOf(view, to)];
  ctx.strokeStyle = colours.selected;
  ctx.fillStyle = colours.paper;
  ctx.beginPath();
  ctx.moveTo(a, y);
  ctx.lineTo(b, y);
  ctx.stroke();
  for (const [x, way] of [
    [a, -1],
    [b, 1],
  ] as const) {
    // A wedge that points outward: it can be pulled.
    ctx.beginPath();
    ctx.moveTo(x + way * 8, y);
    ctx.lineTo(x - way * 2, y - 6);
    ctx.lineTo(x - way * 2, y + 6);
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
  }
}

/** A line over the notes, fast is up, with its ends and its middle to be pulled. */
function drawRate(
  ctx: CanvasRenderingContext2D,
  colours: Colours,
  { points, handles }: Pick<RateLine, "points" | "handles">,
): void {
  ctx.strokeStyle = colours.selected;
  ctx.fillStyle = colours.paper;
  ctx.beginPath();
  for (const { x, y } of points) ctx.lineTo(x, y);
  ctx.stroke();
  for (const { x, y } of Object.values(handles)) {
    ctx.beginPath();
    ctx.moveTo(x, y - 6);
    ctx.lineTo(x + 6, y);
    ctx.lineTo(x, y + 6);
    ctx.lineTo(x - 6, y);
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
  }
}
