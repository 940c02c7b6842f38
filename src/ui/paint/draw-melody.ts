import { chordClasses, parseChord } from "@/core/pitch";
import { type Note, bendAt, chordSpans } from "@/core/score";
import { trackColour } from "../controls/colours";
import { TAPS, type Block } from "../geometry/layout";
import type { Scene } from "./scene";
import { eachShown, visible } from "./shown";
import { xOf } from "../geometry/view";

/** Where the chord line says so, the rows of the chord's tones stand out, its root's the most. */
export function drawChordTones(
  ctx: CanvasRenderingContext2D,
  { view, colours, layout, project }: Scene,
  block: Block,
): void {
  for (const { mark, from, to } of chordSpans(project, layout.pattern)) {
    const chord = parseChord(mark.name);
    if (!chord) continue;
    const [x0, x1] = [Math.max(0, xOf(view, from)), Math.min(view.width, xOf(view, to) - 3)];
    if (x1 <= x0) continue;
    const classes = chordClasses(chord);
    ctx.fillStyle = colours.selected;
    for (const row of block.rows) {
      if (row.pitch === TAPS || !classes.has(row.pitch % 12)) continue;
      const root = row.pitch % 12 === chord.root;
      ctx.globalAlpha = root ? 0.2 : 0.11;
      ctx.beginPath();
      ctx.roundRect(x0, row.y + 2, x1 - x0, row.height - 4, 5);
      ctx.fill();
    }
    ctx.globalAlpha = 1;
  }
}

/** What the other melodic tracks play, in outline, on the rows there are. */
export function drawOtherTracks(ctx: CanvasRenderingContext2D, scene: Scene, block: Block): void {
  const rows = new Map(block.rows.map((row) => [row.pitch, row]));
  for (const other of scene.layout.blocks) {
    if (other === block || other.track.kind !== "melody" || other.track.mute) continue;
    const own = new Map([...rows].map(([p, row]) => [p, { ...row, period: other.period }]));
    const outline = new Path2D();
    eachShown(scene, other, own, (note, row, tick) => {
      const x = xOf(scene.view, tick);
      const end = Math.max(x + 4, xOf(scene.view, tick + note.length) - 1);
      outline.roundRect(x, row.y + row.height / 2 - 3, end - x, 6, 3);
    });
    ctx.strokeStyle = trackColour(scene.colours, other.index);
    ctx.globalAlpha = 0.55;
    ctx.lineWidth = 1;
    ctx.stroke(outline);
    ctx.globalAlpha = 1;
  }
}

/** Notes above and below the rows that are seen: small wedges at their edges, where they begin. */
export function drawOutside(
  ctx: CanvasRenderingContext2D,
  { view }: Scene,
  block: Block,
  ink: string,
): void {
  if (block.above.length + block.below.length === 0) return;
  const rows = block.rows.filter((row) => row.pitch !== TAPS && !row.between);
  const [first, last] = [rows[0], rows[rows.length - 1]];
  if (!first || !last) return;
  const [from, to] = visible(view);
  ctx.fillStyle = ink;
  ctx.beginPath();
  const wedges = (notes: readonly Note[], y: number, way: 1 | -1) => {
    let last = -Infinity;
    for (const { start } of notes) {
      if (start < from || start > to) continue;
      const x = xOf(view, start);
      // A run of them is a row of wedges, not a bar.
      if (x - last < 7) continue;
      last = x;
      ctx.moveTo(x - 3.5, y);
      ctx.lineTo(x + 3.5, y);
      ctx.lineTo(x, y + way * 5);
    }
  };
  wedges(block.above, first.y - 1, -1);
  wedges(block.below, last.y + last.height + 1, 1);
  ctx.fill();
}

/** How far the wheel's ends are drawn from its middle, in CSS pixels. */
const BEND_HEIGHT = 26;

/**
 * The part's bend, as a line over its rows about their middle, which is drawn dashed; paler where the loop
 * goes round again.
 */
export function drawBend(
  ctx: CanvasRenderingContext2D,
  { view, layout, colours }: Scene,
  block: Block,
  ink: string,
): void {
  const { bend } = block;
  const [first, last] = [block.rows[0], block.rows[block.rows.length - 1]];
  if (bend.length === 0 || !first || !last) return;
  const middle = (first.y + last.y + last.height) / 2;
  const [from, to] = visible(view);
  const y = (value: number) => middle - (value / 8192) * BEND_HEIGHT;
  for (let at = 0; at < layout.total; at += block.period) {
    const end = Math.min(at + block.period, layout.total);
    if (end < from || at > to) continue;
    ctx.globalAlpha = at === 0 ? 1 : 0.45;
    ctx.strokeStyle = colours.quiet;
    ctx.lineWidth = 1;
    ctx.setLineDash([2, 4]);
    ctx.beginPath();
    ctx.moveTo(xOf(view, at), middle);
    ctx.lineTo(xOf(view, end), middle);
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.strokeStyle = ink;
    ctx.lineWidth = 2;
    ctx.beginPath();
    ctx.moveTo(xOf(view, at), y(bendAt(bend, 0)));
    for (const { tick, value } of bend)
      if (at + tick < end) ctx.lineTo(xOf(view, at + tick), y(value));
    ctx.lineTo(xOf(view, end), y(bendAt(bend, end - at)));
    ctx.stroke();
    ctx.globalAlpha = 1;
  }
}
