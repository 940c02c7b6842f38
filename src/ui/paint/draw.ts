import { barTicks, beatTicks, gridLines, gridTicks } from "@/core/time";
import { metreOf } from "@/core/score";
import { lanePeriod } from "@/core/playback";
import { touches, type Band } from "./bands";
import { drawOtherTracks, drawBend, drawChordTones, drawOutside } from "./draw-melody";
import { drawNotes } from "./draw-notes";
import { trackColour } from "../controls/colours";
import { RULER_HEIGHT, rowOf, type Block, type Row } from "../geometry/layout";
import type { Scene } from "./scene";
import { eachShown, visible } from "./shown";
import { stoneRadius, xOf } from "../geometry/view";

const TURN = 2 * Math.PI;

/** Draws the visible sheet: ruler, beats, lines, dimples, stones; with bands, only what lies in them. */
export function drawSheet(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  bands: readonly Band[] | null = null,
): void {
  const { view, colours, layout } = scene;
  if (bands?.length === 0) return;
  ctx.save();
  if (bands) {
    ctx.beginPath();
    for (const { top, bottom } of bands) {
      // Nothing of the ruler, and whole pixels, so that the edges of a band do not show.
      const from = Math.max(RULER_HEIGHT, Math.floor(top - view.top + RULER_HEIGHT));
      ctx.rect(0, from, view.width, Math.ceil(bottom - view.top + RULER_HEIGHT) - from);
    }
    ctx.clip();
  }
  ctx.fillStyle = colours.sheet;
  ctx.fillRect(0, 0, view.width, view.height);
  drawBeats(ctx, scene);
  ctx.save();
  ctx.beginPath();
  ctx.rect(0, RULER_HEIGHT, view.width, view.height - RULER_HEIGHT);
  ctx.clip();
  ctx.translate(0, RULER_HEIGHT - view.top);
  for (const block of layout.blocks) {
    const above = block.y + block.height < view.top;
    const below = block.y > view.top + view.height;
    if (above || below || !touches(bands, block.y, block.y + block.height)) continue;
    if (block.open) drawOpen(ctx, scene, block, bands);
    else drawSlim(ctx, scene, block);
  }
  ctx.restore();
  ctx.restore();
}

/** Room a bar's number takes on the ruler, in CSS pixels. */
const NUMBER_WIDTH = 46;

function drawBeats(ctx: CanvasRenderingContext2D, { view, colours, layout, project }: Scene): void {
  const metre = metreOf(project, layout.pattern);
  const [bar, beat] = [barTicks(metre), beatTicks(metre)];
  const [from, to] = visible(view);
  const first = Math.max(0, Math.floor(from / beat));
  const end = Math.min(to, layout.total);
  const beatWidth = beat * view.zoom;
  // Numbers of bars need room: where bars are narrow, only every second, fourth … is numbered.
  let every = 1;
  while (every * bar * view.zoom < NUMBER_WIDTH) every *= 2;
  ctx.textBaseline = "middle";
  for (let i = first; i * beat < end; i++) {
    const tick = i * beat;
    const x = xOf(view, tick);
    const inBar = Math.round((tick % bar) / beat);
    if (inBar % 2 === 0) {
      ctx.fillStyle = colours.beat;
      ctx.fillRect(x, RULER_HEIGHT, beatWidth, view.height);
    }
    const isBar = inBar === 0;
    if (isBar) {
      ctx.fillStyle = colours.line;
      ctx.fillRect(Math.round(x) - 0.5, RULER_HEIGHT - 8, 1, view.height);
    }
    const numbered = isBar && Math.round(tick / bar) % every === 0;
    if (numbered || beatWidth > 42) {
      ctx.font = `${isBar ? 600 : 400} 12px ${colours.mono}`;
      ctx.fillStyle = isBar ? colours.text : colours.quiet;
      ctx.fillText(`${Math.floor(tick / bar) + 1}.${inBar + 1}`, x + 3, RULER_HEIGHT / 2);
    }
  }
  const endX = Math.round(xOf(view, layout.total));
  if (endX < view.width) {
    ctx.fillStyle = colours.line;
    ctx.fillRect(endX - 0.5, RULER_HEIGHT - 8, 1, view.height);
  }
}

function drawOpen(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  block: Block,
  bands: readonly Band[] | null,
): void {
  const { colours, view, layout } = scene;
  const ink = trackColour(colours, block.index);
  const melody = block.track.kind === "melody";
  const visibleRows = block.rows.filter((row) => touches(bands, row.y, row.y + row.height));
  // Stones of narrow melodic rows reach into their neighbours, so those are drawn all together.
  const rows = melody ? block.rows : visibleRows;
  for (const row of rows) {
    const y = row.y + row.height / 2;
    if (melody) {
      ctx.fillStyle = row.root ? ink : colours.line;
      ctx.globalAlpha = row.root ? 0.55 : row.inKey ? 0.55 : 0.3;
      const from = Math.max(0, xOf(view, 0));
      const to = Math.min(view.width, xOf(view, layout.total));
      if (row.inKey) ctx.fillRect(from, y - 0.5, to - from, row.root ? 1.5 : 1);
      else dashes(ctx, from, to, y);
      ctx.globalAlpha = 1;
    } else drawDimples(ctx, scene, row);
  }
  if (melody && block.rows.length > 0) {
    drawChordTones(ctx, scene, block);
    drawGridTicks(ctx, scene, block);
    if (scene.otherTracks && block.track.id === scene.track) drawOtherTracks(ctx, scene, block);
  }
  const byPitch = new Map(rows.map((row) => [row.pitch, row]));
  if (scene.before && block.track.id === scene.track) drawBefore(ctx, scene, block, byPitch, ink);
  drawNotes(ctx, scene, { block, rows: byPitch, ink });
  if (!melody) return;
  drawBend(ctx, scene, block, ink);
  drawOutside(ctx, scene, block, ink);
}

function dashes(ctx: CanvasRenderingContext2D, from: number, to: number, y: number): void {
  for (let x = from; x < to; x += 8) ctx.fillRect(x, y - 0.5, 3, 1);
}

/** Each lane's own steps, where they truly are: swing moves them, a shorter loop restarts them. */
function drawDimples(
  ctx: CanvasRenderingContext2D,
  { view, colours, layout, project }: Scene,
  row: Row,
): void {
  const y = row.y + row.height / 2;
  const beat = beatTicks(metreOf(project, layout.pattern));
  const small = gridTicks(row.grid) * view.zoom >= 5 && row.grid.kind !== "off";
  const [from, to] = visible(view);
  const end = Math.min(to, layout.total);
  const large = new Path2D();
  const fine = new Path2D();
  for (let loop = Math.max(0, Math.floor(from / row.period)); loop * row.period < end; loop++) {
    const offset = loop * row.period;
    const until = Math.min(row.period, end - offset);
    const lines = small ? gridLines(row.grid, Math.max(0, from - offset), until) : [];
    for (const gridLine of lines) {
      const tick = offset + gridLine;
      if (tick % beat === 0) continue;
      const x = xOf(view, tick);
      fine.moveTo(x + 1.4, y);
      fine.arc(x, y, 1.4, 0, TURN);
    }
  }
  for (let tick = Math.max(0, Math.ceil(from / beat)) * beat; tick < end; tick += beat) {
    const x = xOf(view, tick);
    large.moveTo(x + 2.7, y);
    large.arc(x, y, 2.7, 0, TURN);
  }
  ctx.globalAlpha = row.quiet ? 0.4 : 1;
  ctx.fillStyle = colours.dimple;
  ctx.fill(fine);
  ctx.fillStyle = colours.dimpleBeat;
  ctx.fill(large);
  ctx.globalAlpha = 1;
}

/** A melodic track shows its steps along its root lines and its lowest row. */
function drawGridTicks(ctx: CanvasRenderingContext2D, scene: Scene, block: Block): void {
  const roots = block.rows.filter((row) => row.root);
  for (const row of roots.length > 0 ? roots : block.rows.slice(-1)) drawDimples(ctx, scene, row);
}

/** Old places in dashed outline, of those notes only that are not where and what they were. */
function drawBefore(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  ink: string,
): void {
  const now = new Map(block.effective.map((note) => [note.id, note]));
  const [from, to] = visible(scene.view);
  const outline = new Path2D();
  for (const note of scene.before ?? []) {
    const same = now.get(note.id);
    const row = rows.get(rowOf(note));
    if (!row || note.start + note.length < from || note.start > to) continue;
    if (
      same?.start === note.start &&
      same.pitch === note.pitch &&
      same.velocity === note.velocity
    ) {
      continue;
    }
    const x = xOf(scene.view, note.start);
    const y = row.y + row.height / 2;
    const r = stoneRadius(note.velocity, row.height);
    outline.moveTo(x + r, y);
    outline.arc(x, y, r, 0, TURN);
    if (block.track.kind === "melody") {
      const end = xOf(scene.view, note.start + note.length) - 1;
      outline.rect(x + r, y - 3, Math.max(0, end - x - r), 6);
    }
  }
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1;
  ctx.setLineDash([2.5, 2.5]);
  ctx.stroke(outline);
  ctx.setLineDash([]);
}

/** A slim track: all its pitches in a narrow band, still readable as rhythm and contour. */
function drawSlim(ctx: CanvasRenderingContext2D, scene: Scene, block: Block): void {
  const pitches = [...new Set(block.effective.map(rowOf))].sort((a, b) => b - a);
  if (block.track.kind === "drums") pitches.reverse();
  const space = block.height - 16;
  const gap = pitches.length > 1 ? Math.min(9, space / (pitches.length - 1)) : 0;
  const top = block.y + block.height / 2 - (gap * (pitches.length - 1)) / 2;
  const rows = new Map<number, Row>();
  pitches.forEach((pitch, i) => {
    const lane = block.track.lanes.find((lane) => lane.pitch === pitch) ?? null;
    const period = lanePeriod(block.track, pitch, block.period);
    const y = top + i * gap;
    rows.set(pitch, {
      pitch,
      name: "",
      y: y - 2,
      height: 4,
      grid: block.part.grid,
      period,
      lane,
      inKey: true,
      root: false,
      quiet: lane?.mute ?? false,
    });
  });
  const ink = trackColour(scene.colours, block.index);
  const [stones, tails] = [new Path2D(), new Path2D()];
  const [stonesAgain, tailsAgain] = [new Path2D(), new Path2D()];
  eachShown(scene, block, rows, (note, row, tick, repeat) => {
    const x = xOf(scene.view, tick);
    const y = row.y + 2;
    const r = 1.2 + 2.6 * (note.velocity / 127);
    const stone = repeat ? stonesAgain : stones;
    stone.moveTo(x + r, y);
    stone.arc(x, y, r, 0, TURN);
    if (block.track.kind === "melody") {
      const end = xOf(scene.view, tick + note.length) - 1;
      (repeat ? tailsAgain : tails).rect(x, y - 1.25, Math.max(0, end - x), 2.5);
    }
  });
  ctx.fillStyle = ink;
  for (const [paths, alpha] of [
    [[tailsAgain, stonesAgain], 0.36],
    [[tails, stones], 0.9],
  ] as const) {
    ctx.globalAlpha = alpha * 0.5;
    ctx.fill(paths[0]);
    ctx.globalAlpha = alpha;
    ctx.fill(paths[1]);
  }
  ctx.globalAlpha = 1;
}
