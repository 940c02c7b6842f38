import { lowerBound, nth } from "@/core/base";
import { stepTicks } from "@/core/time";
import type { Note } from "@/core/score";
import { cellOf } from "./cells";
import { TAPS, rowAt, rowOf, type Block, type Row, type SheetLayout } from "./layout";
import { startsOf } from "./starts";
import { stoneOf } from "./stones";
import { tickOf, xOf, type View } from "./view";

/** What lies under the pointer on an open track. */
export interface Hit {
  block: Block;
  row: Row;
  /** Tick of the pattern under the pointer. */
  tick: number;
  /** The note there, and which part of it. */
  note: Note | null;
  zone: "stone" | "tail" | "end" | "begin";
}

const REACH = 5;
const END_ZONE = 7;

/** Finds row and note under a point; `y` counts in the sheet's content. */
export function hitTest(
  layout: SheetLayout,
  view: View,
  { x, y }: { x: number; y: number },
  selection?: ReadonlySet<string>,
): Hit | null {
  const found = rowAt(layout, y);
  if (!found) return null;
  const { block } = found;
  // Notes between two rows lie over both; where there is none, the row itself is meant.
  for (const between of block.rows) {
    if (!between.between || y < between.y || y >= between.y + between.height) continue;
    const hit = hitInRow(block, between, view, x, selection);
    if (hit.note) return hit;
  }
  return hitInRow(block, found.row, view, x, selection);
}

function hitInRow(
  block: Block,
  row: Row,
  view: View,
  x: number,
  selection?: ReadonlySet<string>,
): Hit {
  const tick = tickOf(view, x);
  const loop = Math.max(0, Math.floor((tick + REACH / view.zoom) / row.period));
  const inLoop = tick - loop * row.period;
  const near = { block, row, tick };

  let best: { note: Note; distance: number } | null = null;
  let tail: { note: Note; end: boolean } | null = null;
  let begin: Note | null = null;
  const widest = 16 / view.zoom;
  const from =
    block.track.kind === "melody" ? 0 : lowerBound(startsOf(block.effective), inLoop - widest);
  for (let i = from; i < block.effective.length; i++) {
    const note = nth(block.effective, i);
    if (note.start > inLoop + widest || note.start >= row.period) break;
    if (rowOf(note) !== row.pitch) continue;
    const at = xOf(view, note.start + loop * row.period);
    const distance = Math.abs(at - x);
    const radius = Math.max(REACH, stoneOf(block.effective, note, row, view).radius + 1);
    const own = distance <= radius && !isOfNext(block, row, { view, tick, note, distance });
    if (own && (!best || distance < best.distance)) best = { note, distance };
    else if (block.track.kind === "melody") {
      // Just before a selected note's stone is its front end.
      if (at - x > radius && at - x <= radius + END_ZONE && selection?.has(note.id)) begin = note;
      const end = xOf(view, note.start + note.length + loop * row.period);
      if (x > at && x <= end + 3) tail = { note, end: end - x < END_ZONE };
    }
  }
  if (best) return { ...near, note: best.note, zone: "stone" };
  if (begin) return { ...near, note: begin, zone: "begin" };
  if (tail) return { ...near, note: tail.note, zone: tail.end ? "end" : "tail" };
  return { ...near, note: null, zone: "stone" };
}

/** What is as near to a hit as this part of a step is on it, whatever line is nearer. */
const ON_IT = 1 / 4;

/**
 * Whether a point beside a hit is nearer to the next step of its lane: that is meant then, however far the stone
 * reaches.
 */
function isOfNext(
  block: Block,
  row: Row,
  at: { view: View; tick: number; note: Note; distance: number },
): boolean {
  if (block.track.kind !== "drums") return false;
  if (at.distance <= stepTicks(row.grid) * at.view.zoom * ON_IT) return false;
  return cellOf(row, at.tick) !== cellOf(row, at.note.start);
}

/** Room over and under a melodic track's rows in which notes beyond them are marked, in CSS pixels. */
const MARKS = 9;

/** The note beyond the rows that a point at their edge marks; null where none is marked. */
export function outsideAt(block: Block, view: View, x: number, y: number): Note | null {
  const rows = block.rows.filter((row) => row.pitch !== TAPS);
  const [first, last] = [rows[0], rows[rows.length - 1]];
  if (!first || !last) return null;
  const bottom = last.y + last.height;
  const notes =
    y < first.y && y >= first.y - MARKS
      ? block.above
      : y > bottom && y <= bottom + MARKS
        ? block.below
        : [];
  return notes.find((note) => Math.abs(xOf(view, note.start) - x) <= MARKS) ?? null;
}

/** Ids of the notes of a block inside a box; `x` in view, `y` in content. Repeats do not count. */
export function notesInBox(
  block: Block,
  view: View,
  box: { x0: number; y0: number; x1: number; y1: number },
): string[] {
  const [left, right] = [Math.min(box.x0, box.x1), Math.max(box.x0, box.x1)];
  const [top, bottom] = [Math.min(box.y0, box.y1), Math.max(box.y0, box.y1)];
  const rows = new Map(block.rows.map((row) => [row.pitch, row]));
  return block.effective
    .filter((note) => {
      const row = rows.get(rowOf(note));
      if (!row) return false;
      const [x, y] = [xOf(view, note.start), row.y + row.height / 2];
      return x >= left && x <= right && y >= top && y <= bottom;
    })
    .map((note) => note.id);
}
