import {
  barTicks,
  beatTicks,
  chordClasses,
  edits,
  gridLines,
  gridTicks,
  driftOf,
  lowerBound,
  nearestLine,
  lineAt,
  parseChord,
  type Note,
} from "@/core";
import { touches, type Band } from "./bands";
import { trackInk, type Inks } from "./inks";
import type { Block, Row } from "./layout";
import { RULER_HEIGHT, TAPS, rowOf } from "./layout";
import type { Scene } from "./scene";
import { startsOf } from "./starts";
import { stoneOf } from "./stones";
import { PAD, stoneRadius, tickOf, xOf, type View } from "./view";

const TURN = 2 * Math.PI;
/** Farthest a drift tick leans, in pixels. */
const LEAN = 7;

/** Draws the visible sheet: ruler, beats, lines, dimples, stones; with bands, only what lies in them. */
export function drawSheet(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  bands: readonly Band[] | null = null,
): void {
  const { view, inks, layout } = scene;
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
  ctx.fillStyle = inks.sheet;
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

/** Ticks in view, with room for stones that reach in from outside. */
function visible(view: View): [number, number] {
  return [tickOf(view, -PAD * 2), tickOf(view, view.width + PAD * 2)];
}

function drawBeats(ctx: CanvasRenderingContext2D, { view, inks, layout, project }: Scene): void {
  const bar = barTicks(project.metre);
  const beat = beatTicks(project.metre);
  const [from, to] = visible(view);
  const first = Math.max(0, Math.floor(from / beat));
  const end = Math.min(to, layout.total);
  const beatWidth = beat * view.zoom;
  ctx.textBaseline = "middle";
  for (let i = first; i * beat < end; i++) {
    const tick = i * beat;
    const x = xOf(view, tick);
    const inBar = Math.round((tick % bar) / beat);
    if (inBar % 2 === 0) {
      ctx.fillStyle = inks.beat;
      ctx.fillRect(x, RULER_HEIGHT, beatWidth, view.height);
    }
    const isBar = inBar === 0;
    if (isBar) {
      ctx.fillStyle = inks.line;
      ctx.fillRect(Math.round(x) - 0.5, RULER_HEIGHT - 8, 1, view.height);
    }
    if (isBar || beatWidth > 42) {
      ctx.font = `${isBar ? 600 : 400} 11px ${inks.mono}`;
      ctx.fillStyle = isBar ? inks.text : inks.quiet;
      ctx.fillText(`${Math.floor(tick / bar) + 1}.${inBar + 1}`, x + 3, RULER_HEIGHT / 2);
    }
  }
  const endX = Math.round(xOf(view, layout.total));
  if (endX < view.width) {
    ctx.fillStyle = inks.line;
    ctx.fillRect(endX - 0.5, RULER_HEIGHT - 8, 1, view.height);
  }
}

function drawOpen(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  block: Block,
  bands: readonly Band[] | null,
): void {
  const { inks, view, layout } = scene;
  const ink = trackInk(inks, block.index);
  const melody = block.track.kind === "melody";
  const visibleRows = block.rows.filter((row) => touches(bands, row.y, row.y + row.height));
  // Stones of narrow melodic rows reach into their neighbours, so those are drawn all together.
  const rows = melody ? block.rows : visibleRows;
  for (const row of rows) {
    const y = row.y + row.height / 2;
    if (melody) {
      ctx.fillStyle = row.root ? ink : inks.line;
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
    if (scene.behind && block.track.id === scene.track) drawBehind(ctx, scene, block);
  }
  const byPitch = new Map(rows.map((row) => [row.pitch, row]));
  if (scene.before && block.track.id === scene.track) drawBefore(ctx, scene, block, byPitch, ink);
  drawNotes(ctx, scene, block, byPitch, ink);
}

function dashes(ctx: CanvasRenderingContext2D, from: number, to: number, y: number): void {
  for (let x = from; x < to; x += 8) ctx.fillRect(x, y - 0.5, 3, 1);
}

/** Each lane's own steps, where they truly are: swing moves them, a shorter loop restarts them. */
function drawDimples(
  ctx: CanvasRenderingContext2D,
  { view, inks, layout, project }: Scene,
  row: Row,
): void {
  const y = row.y + row.height / 2;
  const beat = beatTicks(project.metre);
  const small = gridTicks(row.grid) * view.zoom >= 5 && row.grid.kind !== "off";
  const [from, to] = visible(view);
  const end = Math.min(to, layout.total);
  const large = new Path2D();
  const fine = new Path2D();
  for (let loop = Math.max(0, Math.floor(from / row.period)); loop * row.period < end; loop++) {
    const offset = loop * row.period;
    const until = Math.min(row.period, end - offset);
    const lines = small ? gridLines(row.grid, Math.max(0, from - offset), until) : [];
    for (const line of lines) {
      const tick = offset + line;
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
  ctx.fillStyle = inks.dimple;
  ctx.fill(fine);
  ctx.fillStyle = inks.dimpleBeat;
  ctx.fill(large);
  ctx.globalAlpha = 1;
}

/** Where the chord line says so, the rows of the chord's tones stand out, its root's the most. */
function drawChordTones(
  ctx: CanvasRenderingContext2D,
  { view, inks, layout, project }: Scene,
  block: Block,
): void {
  for (const { mark, from, to } of edits.chordSpans(project, layout.pattern)) {
    const chord = parseChord(mark.name);
    if (!chord) continue;
    const [x0, x1] = [Math.max(0, xOf(view, from)), Math.min(view.width, xOf(view, to) - 3)];
    if (x1 <= x0) continue;
    const classes = chordClasses(chord);
    ctx.fillStyle = inks.chosen;
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
function drawBehind(ctx: CanvasRenderingContext2D, scene: Scene, block: Block): void {
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
    ctx.strokeStyle = trackInk(scene.inks, other.index);
    ctx.globalAlpha = 0.55;
    ctx.lineWidth = 1;
    ctx.stroke(outline);
    ctx.globalAlpha = 1;
  }
}

/** A melodic track shows its steps along its root lines and its lowest row. */
function drawGridTicks(ctx: CanvasRenderingContext2D, scene: Scene, block: Block): void {
  const roots = block.rows.filter((row) => row.root);
  for (const row of roots.length > 0 ? roots : block.rows.slice(-1)) drawDimples(ctx, scene, row);
}

interface Brush {
  solid: Path2D;
  hollow: Path2D;
  tails: Path2D;
  drift: Path2D;
}

const brush = (): Brush => ({
  solid: new Path2D(),
  hollow: new Path2D(),
  tails: new Path2D(),
  drift: new Path2D(),
});

function drawNotes(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  ink: string,
): void {
  const [first, again] = [brush(), brush()];
  const rings = new Path2D();
  const slides = new Path2D();
  eachShown(scene, block, rows, (note, row, tick, repeat) => {
    if (note.slide && !repeat) addSlide(slides, scene, block, rows, note, row);
    const chosen = !repeat && block.track.id === scene.track && scene.selection.has(note.id);
    addStone(scene, block, repeat ? again : first, note, row, tick, chosen);
    if (!chosen) return;
    const x = xOf(scene.view, tick);
    const y = row.y + row.height / 2;
    const r = stoneOf(block.heard, note, row, scene.view).radius + 2.5;
    rings.moveTo(x + r, y);
    rings.arc(x, y, r, 0, TURN);
  });
  ctx.fillStyle = ink;
  ctx.strokeStyle = ink;
  for (const [paths, alpha] of [
    [again, 0.36],
    [first, 1],
  ] as const) {
    ctx.globalAlpha = alpha * 0.42;
    ctx.fill(paths.tails);
    ctx.globalAlpha = alpha;
    ctx.fill(paths.solid);
    // Stones of a fast roll overlap: a rim of paper keeps them apart.
    ctx.strokeStyle = scene.inks.sheet;
    ctx.lineWidth = 1;
    ctx.stroke(paths.solid);
    ctx.strokeStyle = ink;
    ctx.lineWidth = 1.5;
    ctx.stroke(paths.hollow);
    ctx.lineWidth = 1.2;
    ctx.stroke(paths.drift);
  }
  ctx.globalAlpha = 1;
  ctx.lineWidth = 2;
  ctx.stroke(slides);
  ctx.strokeStyle = scene.inks.text;
  ctx.lineWidth = 1.6;
  ctx.stroke(rings);
}

/** A slide is a bow from the note to the one it goes into. */
function addSlide(
  path: Path2D,
  { view }: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  note: Note,
  row: Row,
): void {
  const starts = startsOf(block.heard);
  const next = block.heard[lowerBound(starts, note.start + 1)];
  const to = next && rows.get(rowOf(next));
  const y = row.y + row.height / 2;
  const from = xOf(view, note.start + note.length * 0.55);
  if (!to) {
    // Into the first note of the next round.
    path.moveTo(from, y);
    path.quadraticCurveTo(from + 8, y, from + 12, y - 6);
    return;
  }
  const x = xOf(view, next.start);
  path.moveTo(from, y);
  path.bezierCurveTo(
    (from + x) / 2,
    y,
    (from + x) / 2,
    to.y + to.height / 2,
    x,
    to.y + to.height / 2,
  );
}

/** Every note in view, with the tick it is drawn at; repeats of a shorter loop included. */
function eachShown(
  scene: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  show: (note: Note, row: Row, tick: number, repeat: boolean) => void,
): void {
  const [from, to] = visible(scene.view);
  const { total } = scene.layout;
  const starts = startsOf(block.heard);
  const periods = new Set([...rows.values()].map((row) => row.period));
  // A long tail may reach into view from far before it.
  const reach = block.track.kind === "melody" ? longest(block.heard) : 0;
  for (const period of periods) {
    for (
      let loop = Math.max(0, Math.floor((from - reach) / period));
      loop * period < Math.min(to, total);
      loop++
    ) {
      const offset = loop * period;
      const last = Math.min(to, total) - offset;
      for (
        let i = lowerBound(starts, from - reach - offset);
        i < starts.length && starts[i]! < last;
        i++
      ) {
        const note = block.heard[i]!;
        if (note.start >= period) break;
        const row = rows.get(rowOf(note));
        if (row?.period === period) show(note, row, offset + note.start, loop > 0);
      }
    }
  }
}

const longests = new WeakMap<readonly Note[], number>();
function longest(notes: readonly Note[]): number {
  let most = longests.get(notes);
  if (most === undefined) {
    most = notes.reduce((m, note) => Math.max(m, note.length), 0);
    longests.set(notes, most);
  }
  return most;
}

function addStone(
  { view }: Scene,
  block: Block,
  paths: Brush,
  note: Note,
  row: Row,
  tick: number,
  chosen: boolean,
): void {
  const x = xOf(view, tick);
  const y = row.y + row.height / 2;
  const { radius: r, crowded } = stoneOf(block.heard, note, row, view);
  const drums = block.track.kind === "drums";
  // A hit as long as its step needs no tail: the step says it.
  const showTail = !drums || chosen || note.length > gridTicks(row.grid) * 1.5;
  if (showTail) {
    const thick = drums ? 2.5 : 6;
    const end = Math.max(x, xOf(view, tick + note.length) - 1);
    paths.tails.roundRect(x, y - thick / 2, end - x, thick, thick / 2);
  }
  const path = row.quiet ? paths.hollow : paths.solid;
  path.moveTo(x + r, y);
  if (row.inKey) path.arc(x, y, r, 0, TURN);
  else diamond(path, x, y, r);
  const drift = driftOf(row.grid, note.start) * view.zoom;
  if (row.grid.kind !== "off" && Math.abs(drift) >= 0.6) {
    // It leans toward the line it belongs to, by how far that is, up to a limit. Between the close
    // hits of a roll there is room for a short mark only.
    const [most, tall] = crowded ? [2, 4] : [LEAN, 6];
    const lean = Math.max(-most, Math.min(most, -drift));
    paths.drift.moveTo(x, y - r + 1);
    paths.drift.lineTo(x + lean, Math.max(row.y - 2, y - r - tall));
  }
}

/** Out of the key is a shape of its own, not a colour alone. */
function diamond(path: Path2D, x: number, y: number, r: number): void {
  path.moveTo(x + r + 1, y);
  path.lineTo(x, y + r + 1);
  path.lineTo(x - r - 1, y);
  path.lineTo(x, y - r - 1);
  path.closePath();
}

/** Old places in dashed outline, of those notes only that are not where and what they were. */
function drawBefore(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  ink: string,
): void {
  const now = new Map(block.heard.map((note) => [note.id, note]));
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
  const pitches = [...new Set(block.heard.map(rowOf))].sort((a, b) => b - a);
  if (block.track.kind === "drums") pitches.reverse();
  const room = block.height - 16;
  const gap = pitches.length > 1 ? Math.min(9, room / (pitches.length - 1)) : 0;
  const top = block.y + block.height / 2 - (gap * (pitches.length - 1)) / 2;
  const rows = new Map<number, Row>();
  pitches.forEach((pitch, i) => {
    const lane = block.track.lanes.find((l) => l.pitch === pitch) ?? null;
    const period = lane?.steps ? lane.steps * gridTicks(lane.grid) : block.period;
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
  const ink = trackInk(scene.inks, block.index);
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

export interface Overlay {
  caret: { row: Row; tick: number } | null;
  hover: { row: Row; tick: number } | null;
  box: { x0: number; y0: number; x1: number; y1: number } | null;
  /** The span that can be stretched by its ends. */
  span: { from: number; to: number; y: number } | null;
  /** Where step entry goes on. */
  entry: { tick: number; top: number; bottom: number } | null;
  /** Where the knife would cut. */
  cut: { row: Row; tick: number } | null;
  /** A selected stretch of time, and the heights it covers. */
  stretch: { from: number; to: number; top: number; bottom: number } | null;
}

/** What moves with the pointer and the keyboard: drawn on its own layer, so stones are not redrawn. */
export function drawOverlay(
  ctx: CanvasRenderingContext2D,
  view: View,
  inks: Inks,
  { caret, hover, box, stretch, span, cut, entry }: Overlay,
): void {
  ctx.clearRect(0, 0, view.width, view.height);
  ctx.save();
  ctx.beginPath();
  ctx.rect(0, RULER_HEIGHT, view.width, view.height - RULER_HEIGHT);
  ctx.clip();
  ctx.translate(0, RULER_HEIGHT - view.top);
  if (stretch) {
    const [x0, x1] = [xOf(view, stretch.from) - 6, xOf(view, stretch.to) - 6];
    ctx.fillStyle = inks.chosen;
    ctx.globalAlpha = 0.09;
    ctx.fillRect(x0, stretch.top, x1 - x0, stretch.bottom - stretch.top);
    ctx.globalAlpha = 0.8;
    for (const x of [x0, x1]) ctx.fillRect(x, stretch.top, 1, stretch.bottom - stretch.top);
    ctx.globalAlpha = 1;
  }
  ctx.lineWidth = 1.5;
  if (span) drawSpan(ctx, view, inks, span);
  if (entry) {
    const x = Math.round(xOf(view, entry.tick));
    ctx.fillStyle = inks.chosen;
    ctx.fillRect(x - 1, entry.top, 2, entry.bottom - entry.top);
    ctx.beginPath();
    ctx.moveTo(x - 6, entry.top - 7);
    ctx.lineTo(x + 6, entry.top - 7);
    ctx.lineTo(x, entry.top);
    ctx.fill();
  }
  if (cut) {
    const x = xOf(view, cut.tick);
    ctx.strokeStyle = inks.text;
    ctx.beginPath();
    ctx.moveTo(x + 3, cut.row.y - 3);
    ctx.lineTo(x - 3, cut.row.y + cut.row.height + 3);
    ctx.stroke();
  }
  if (hover) {
    ctx.strokeStyle = inks.quiet;
    ctx.beginPath();
    ctx.arc(xOf(view, hover.tick), hover.row.y + hover.row.height / 2, 7, 0, TURN);
    ctx.stroke();
  }
  if (caret) {
    const x = xOf(view, caret.tick);
    const half = Math.max(7, Math.min(13, caret.row.height / 2));
    const y = caret.row.y + caret.row.height / 2;
    ctx.strokeStyle = inks.chosen;
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
    ctx.fillStyle = inks.chosen;
    ctx.globalAlpha = 0.1;
    ctx.fillRect(x, y, w, h);
    ctx.globalAlpha = 1;
    ctx.strokeStyle = inks.chosen;
    ctx.strokeRect(x, y, w, h);
  }
  ctx.restore();
}

/** A bar over the chosen notes with a handle at either end. */
function drawSpan(
  ctx: CanvasRenderingContext2D,
  view: View,
  inks: Inks,
  { from, to, y }: { from: number; to: number; y: number },
): void {
  const [a, b] = [xOf(view, from), xOf(view, to)];
  ctx.strokeStyle = inks.chosen;
  ctx.fillStyle = inks.paper;
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

/** The line of a row nearest to a tick of the pattern, inside the row's own loop. */
export function snapToRow(row: Row, tick: number): number {
  const loop = Math.max(0, Math.floor(tick / row.period));
  const inside = tick - loop * row.period;
  return loop * row.period + Math.min(lineAt(row.grid, nearestLine(row.grid, inside)), row.period);
}
