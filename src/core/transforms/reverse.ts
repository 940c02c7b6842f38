import { type Ticks, mustGet, modulo } from "../base";
import { type Grid, driftOf, lineAt, nearestLine } from "../time";
import type { Note } from "../score";
import { params } from "../params";
import { clampStart, counted, defineTransform, gridOf, spanOf, type TransformContext } from "./kit";

/**
 * Melody: `start' = a + b − (start + length)`. Drums: cell *i* of *n* goes to cell *n − 1 − i* of
 * its lane's grid, drift kept with its sign turned. Twice gives the notes back.
 */
export const reverse = defineTransform({
  label: "Reverse",
  family: "line",
  about: "Plays the selection from its end to its start",
  schema: params({}),
  defaults: {},
  time(selected, _params, context) {
    const [from, to] = spanOf(selected, context);
    return { from, to, put: [{ from, to, at: from, scale: -1 }] };
  },
  run(selected, _params, context) {
    const move = context.kind === "drums" ? byCells(selected, context) : byTime(selected, context);
    return {
      replaced: selected.map((note) => ({ ...note, start: clampStart(move(note)) })),
      sentence: (counts) =>
        `${counted(counts.moved, context)} of ${selected.length} moved, last one first`,
    };
  },
});

function byTime(selected: readonly Note[], context: TransformContext) {
  const [a, b] = spanOf(selected, context);
  return (note: Note) => a + b - (note.start + note.length);
}

function byCells(selected: readonly Note[], context: TransformContext) {
  const spans = new Map<Grid, [number, number]>();
  const onGrid = new Map<Grid, Note[]>();
  let earliest = Infinity;
  let latest = -Infinity;
  for (const note of selected) {
    earliest = Math.min(earliest, note.start);
    latest = Math.max(latest, note.start);
    const grid = gridOf(note, context);
    const list = onGrid.get(grid);
    if (list) list.push(note);
    else onGrid.set(grid, [note]);
  }
  return (note: Note) => {
    const grid = gridOf(note, context);
    let span = spans.get(grid);
    if (!span) {
      const own = mustGet(onGrid, grid);
      spans.set(grid, (span = cellSpan(grid, earliest, latest, own, context)));
    }
    const cell = nearestLine(grid, note.start);
    return lineAt(grid, span[0] + span[1] - cell) - driftOf(grid, note.start);
  };
}

/** First and last cell of what is reversed: of the range, else those that hold the outermost hits. */
function cellSpan(
  grid: Grid,
  earliest: number,
  latest: number,
  notes: readonly Note[],
  context: TransformContext,
): [number, number] {
  const first = nearestLine(grid, context.range ? context.range[0] : earliest);
  let last = context.range ? nearestLine(grid, context.range[1]) - 1 : nearestLine(grid, latest);
  // A hit exactly between two lines counts for the later one at the front and, mirrored, for the
  // earlier one at the back; otherwise reversing twice would not come back.
  if (!context.range && isHalfWay(grid, latest, last)) last -= 1;
  // A mirror of swung cells, which are long and short in turn, sends each hit to a cell of its own kind
  // where first and last are; then only one far from its line could come to lie nearer to another.
  const alike = (first + last) % 2 === 0;
  if (grid.swing !== 50 && alike && notes.some((note) => !isNear(grid, note.start))) {
    // A mirror of whole pairs sends long to short: what is far there is as far here.
    const paired = [first - modulo(first, 2), last + 1 - modulo(last, 2)] as [number, number];
    const loop = context.range?.[1] ?? context.length;
    if (loop === null || lineAt(grid, paired[1]) < loop) return paired;
  }
  return [first, last];
}

/** Whether a tick is nearer to its line than half a short cell of a swung grid. */
function isNear(grid: Grid, tick: Ticks): boolean {
  const short = lineAt(grid, 2) - lineAt(grid, 1);
  return Math.abs(driftOf(grid, tick)) < short / 2;
}

function isHalfWay(grid: Grid, tick: Ticks, gridLine: number): boolean {
  return (
    lineAt(grid, gridLine) > tick &&
    lineAt(grid, gridLine) - tick === tick - lineAt(grid, gridLine - 1)
  );
}
