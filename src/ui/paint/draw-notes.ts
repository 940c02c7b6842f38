import { isMade } from "../geometry/made";
import { lowerBound, clamp, nth } from "@/core/base";
import { driftOf, gridTicks } from "@/core/time";
import { type Condition, type Note, countedLoops } from "@/core/score";
import { rowOf, type Block, type Row } from "../geometry/layout";
import type { Scene } from "./scene";
import { eachShown } from "./shown";
import { selectedOn } from "../geometry/selected-on";
import { startsOf } from "../geometry/starts";
import { stoneOf } from "../geometry/stones";
import { stoneRadius, xOf } from "../geometry/view";

const TURN = 2 * Math.PI;
/** Farthest a drift tick leans, in pixels. */
const LEAN = 7;
/** From so many notes in view on, they are too close for stones: each is a bar. */
const CROWD = 2500;
/** From so many notes of a line on, stones are made of rectangles: filled in a third of the time. */
const BUSY = 500;
/**
 * Stones to a path. A path over the whole sheet takes many times as long to fill as small ones in a
 * row each.
 */
const CHUNK = 40;

/** What is gathered before it is painted: paths of a row's stones, a few dozen each. */
class Brush {
  readonly solid: Path2D[] = [];
  /** Out of the key. */
  readonly outside: Path2D[] = [];
  readonly hollow: Path2D[] = [];
  readonly tails: Path2D[] = [];
  readonly drift: Path2D[] = [];
  /** Loops of a condition: those that sound, and the others. */
  readonly sounds: Path2D[] = [];
  readonly silent: Path2D[] = [];
  private readonly rows = new Map<Row, { count: number; at: number }>();

  /** The paths a stone of a row goes into. */
  at(row: Row) {
    let own = this.rows.get(row);
    if (!own || own.count >= CHUNK) {
      own = { count: 0, at: this.solid.length };
      this.rows.set(row, own);
      const { solid, outside, hollow, tails, drift, sounds, silent } = this;
      for (const list of [solid, outside, hollow, tails, drift, sounds, silent])
        list.push(new Path2D());
    }
    own.count++;
    const { at } = own;
    return {
      solid: nth(this.solid, at),
      outside: nth(this.outside, at),
      hollow: nth(this.hollow, at),
      tails: nth(this.tails, at),
      drift: nth(this.drift, at),
      sounds: nth(this.sounds, at),
      silent: nth(this.silent, at),
    };
  }
}

interface Shown {
  note: Note;
  row: Row;
  tick: number;
  repeat: boolean;
}

/** Stones with their tails, slides and drift; repeats paler, selected ones ringed. */
export function drawNotes(
  ctx: CanvasRenderingContext2D,
  scene: Scene,
  { block, rows, ink }: { block: Block; rows: ReadonlyMap<number, Row>; ink: string },
): void {
  const shown: Shown[] = [];
  eachShown(scene, block, rows, (note, row, tick, repeat) =>
    shown.push({ note, row, tick, repeat }),
  );
  const chosen = selectedOn(scene, block.track.id);
  const isChosen = ({ note, repeat }: Shown) => !repeat && chosen.has(note.id);
  if (shown.length > CROWD) {
    drawCrowd(ctx, scene, shown, ink, isChosen);
    return;
  }
  if (shown.length > BUSY && block.track.kind === "melody") {
    drawMany(ctx, scene, shown, ink, isChosen);
    return;
  }
  const [first, again] = [new Brush(), new Brush()];
  const rings = new Brush();
  const slides = new Path2D();
  for (const one of shown) {
    const { note, row, tick, repeat } = one;
    if (note.slide && !repeat) addSlide(slides, scene, block, rows, note, row);
    const selected = isChosen(one);
    addStone(scene, block, (repeat ? again : first).at(row), one, selected);
    if (!selected) continue;
    const x = xOf(scene.view, tick);
    const y = row.y + row.height / 2;
    const r = stoneOf(block.effective, note, row, scene.view).radius + 2.5;
    const ring = rings.at(row).solid;
    ring.moveTo(x + r, y);
    ring.arc(x, y, r, 0, TURN);
  }
  ctx.fillStyle = ink;
  for (const [paths, alpha] of [
    [again, 0.36],
    [first, 1],
  ] as const) {
    ctx.globalAlpha = alpha * 0.42;
    for (const path of paths.tails) ctx.fill(path);
    ctx.globalAlpha = alpha;
    for (const path of paths.solid) ctx.fill(path);
    ctx.fillStyle = scene.colours.text;
    for (const path of paths.outside) ctx.fill(path);
    ctx.fillStyle = ink;
    // Stones of a fast roll overlap: a rim of paper keeps them apart.
    ctx.strokeStyle = scene.colours.sheet;
    ctx.lineWidth = 1;
    for (const path of paths.solid) ctx.stroke(path);
    ctx.strokeStyle = ink;
    ctx.lineWidth = 1.5;
    for (const path of paths.hollow) ctx.stroke(path);
    ctx.lineWidth = 1.2;
    for (const path of paths.drift) ctx.stroke(path);
    ctx.fillStyle = scene.colours.text;
    for (const path of paths.sounds) ctx.fill(path);
    ctx.globalAlpha = alpha * 0.4;
    for (const path of paths.silent) ctx.fill(path);
    ctx.fillStyle = ink;
  }
  ctx.globalAlpha = 1;
  ctx.lineWidth = 2;
  ctx.stroke(slides);
  ctx.strokeStyle = scene.colours.text;
  ctx.lineWidth = 1.6;
  for (const path of rings.solid) ctx.stroke(path);
}

/** Hundreds of notes of a line: stones of two rectangles each, selected ones in the text's ink. */
function drawMany(
  ctx: CanvasRenderingContext2D,
  { view, colours }: Scene,
  shown: readonly Shown[],
  ink: string,
  isChosen: (one: Shown) => boolean,
): void {
  ctx.fillStyle = ink;
  for (const { note, row, tick, repeat } of shown) {
    ctx.globalAlpha = repeat ? 0.15 : 0.42;
    const width = Math.max(1, note.length * view.zoom - 1);
    ctx.fillRect(Math.round(xOf(view, tick)), row.y + row.height / 2 - 3, width, 6);
  }
  const drifts = new Brush();
  for (const one of shown) {
    const { note, row, tick, repeat } = one;
    ctx.globalAlpha = (repeat ? 0.36 : 1) * (0.3 + 0.007 * (note.chance ?? 100));
    ctx.fillStyle = isChosen(one) || !row.inKey ? colours.text : ink;
    const x = Math.round(xOf(view, tick));
    const y = Math.round(row.y + row.height / 2);
    const r = Math.round(stoneRadius(note.velocity, row.height));
    const d = row.inKey ? Math.round(r * 0.55) : 1;
    ctx.fillRect(x - r, y - d, 2 * r, 2 * d);
    ctx.fillRect(x - d, y - r, 2 * d, 2 * r);
    const drift = driftOf(row.grid, note.start) * view.zoom;
    if (row.grid.kind === "off" || Math.abs(drift) < 0.6) continue;
    const path = drifts.at(row).drift;
    path.moveTo(x, y - r + 1);
    path.lineTo(x + clamp(-drift, -LEAN, LEAN), y - r - 6);
  }
  ctx.globalAlpha = 1;
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1.2;
  for (const path of drifts.drift) ctx.stroke(path);
}

/** Thousands of notes seen from afar: bars as high as they are loud, selected ones in the text's ink. */
function drawCrowd(
  ctx: CanvasRenderingContext2D,
  { view, colours }: Scene,
  shown: readonly Shown[],
  ink: string,
  isChosen: (one: Shown) => boolean,
): void {
  const bars = (list: readonly Shown[], fill: string) => {
    ctx.fillStyle = fill;
    for (const { note, row, tick } of list) {
      const x = Math.round(xOf(view, tick));
      const width = Math.max(1, Math.round(note.length * view.zoom) - 1);
      const height = Math.round(stoneRadius(note.velocity, row.height) * 1.6);
      ctx.fillRect(x, Math.round(row.y + (row.height - height) / 2), width, height);
    }
  };
  ctx.globalAlpha = 0.36;
  bars(
    shown.filter((one) => one.repeat),
    ink,
  );
  ctx.globalAlpha = 0.85;
  bars(
    shown.filter((one) => !one.repeat && !isChosen(one)),
    ink,
  );
  bars(shown.filter(isChosen), colours.text);
  ctx.globalAlpha = 1;
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
  const starts = startsOf(block.effective);
  const next = block.effective[lowerBound(starts, note.start + 1)];
  const to = next && rows.get(rowOf(next));
  const y = row.y + row.height / 2;
  const from = xOf(view, note.start + note.length * 0.55);
  if (!to) {
    // Into the first note of the next loop.
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

function addStone(
  { view }: Scene,
  block: Block,
  paths: ReturnType<Brush["at"]>,
  { note, row, tick }: Shown,
  selected: boolean,
): void {
  const x = xOf(view, tick);
  const y = row.y + row.height / 2;
  const { radius: r, crowded } = stoneOf(block.effective, note, row, view);
  const drums = block.track.kind === "drums";
  // A hit as long as its step needs no tail: the step says it.
  const showTail = !drums || selected || note.length > gridTicks(row.grid) * 1.5;
  if (showTail) {
    const thick = drums ? 2.5 : 6;
    const end = Math.max(x, xOf(view, tick + note.length) - 1);
    paths.tails.roundRect(x, y - thick / 2, end - x, thick, thick / 2);
  }
  // What a card made is an outline: it is not there to be taken hold of.
  const made = block.part.chain.length > 0 && isMade(block.part.notes, note.id);
  const path = row.quiet || made ? paths.hollow : row.inKey ? paths.solid : paths.outside;
  if (note.chance !== undefined) {
    // As much of the stone is full as its chance, from the top round.
    const share = note.chance / 100;
    paths.hollow.moveTo(x + r, y);
    paths.hollow.arc(x, y, r, 0, TURN);
    path.moveTo(x, y);
    path.arc(x, y, Math.max(1, r - 2), -TURN / 4, TURN * share - TURN / 4);
    path.closePath();
  } else if (!row.inKey) diamond(path, x, y, r);
  else {
    path.moveTo(x + r, y);
    path.arc(x, y, r, 0, TURN);
  }
  if (note.when !== undefined && !crowded) conditionDots(paths, note.when, x, y + r + 3.5);
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

/** Most loops that are shown each by a dot; of more, where the one lies among them. */
const MAX_DOTS = 8;
const DOT_GAP = 5;

/** What conditions that count no loops look like: whether each of three sounds. */
const LOOPS_OF = {
  "not-first": [false, true, true],
  last: [false, false, true],
  "not-last": [true, true, false],
} as const;

/** The loops of a condition under its stone: full where it sounds. */
function conditionDots(
  paths: Pick<ReturnType<Brush["at"]>, "sounds" | "silent">,
  when: Condition,
  x: number,
  y: number,
): void {
  const counted = countedLoops(when);
  const loops = counted
    ? Array.from({ length: counted.of }, (_, i) => (i === counted.k - 1) !== counted.not)
    : LOOPS_OF[when as keyof typeof LOOPS_OF];
  if (counted && loops.length > MAX_DOTS) {
    const width = MAX_DOTS * DOT_GAP;
    const [many, one] = counted.not ? [paths.sounds, paths.silent] : [paths.silent, paths.sounds];
    many.rect(x - width / 2, y - 0.5, width, 1);
    const at = x - width / 2 + (width * (counted.k - 0.5)) / counted.of;
    one.moveTo(at + 2, y);
    one.arc(at, y, 2, 0, TURN);
    return;
  }
  loops.forEach((sounds, i) => {
    const at = x + (i - (loops.length - 1) / 2) * DOT_GAP;
    const path = sounds ? paths.sounds : paths.silent;
    const size = sounds ? 2.2 : 1.4;
    path.moveTo(at + size, y);
    path.arc(at, y, size, 0, TURN);
  });
}

/** Out of the key is a shape of its own as well as a colour. */
function diamond(path: Path2D, x: number, y: number, r: number): void {
  path.moveTo(x + r + 1, y);
  path.lineTo(x, y + r + 1);
  path.lineTo(x - r - 1, y);
  path.lineTo(x, y - r - 1);
  path.closePath();
}
