import type { Ticks } from "../base";
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
  about: "Plays the selection from its end to its start",
  schema: params({}),
  defaults: {},
  run(selected, _params, context) {
    const move = context.kind === "drums" ? byCells(selected, context) : byTime(selected, context);
    return {
      replaced: selected.map((note) => ({ ...note, start: clampStart(move(note)) })),
      sentence: (c) => `${counted(c.moved, context)} of ${selected.length} moved, last one first`,
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
    const g = gridOf(note, context);
    const list = onGrid.get(g);
    if (list) list.push(note);
    else onGrid.set(g, [note]);
  }
  return (note: Note) => {
    const g = gridOf(note, context);
    let span = spans.get(g);
    if (!span) {
      spans.set(g, (span = cellSpan(g, earliest, latest, onGrid.get(g)!, context)));
    }
    const cell = nearestLine(g, note.start);
    return lineAt(g, span[0] + span[1] - cell) - driftOf(g, note.start);
  };
}

/** First and last cell of what is reversed: of the range, else those that hold the outermost hits. */
function cellSpan(
  g: Grid,
  earliest: number,
  latest: number,
  notes: readonly Note[],
  context: TransformContext,
): [number, number] {
  const first = nearestLine(g, context.range ? context.range[0] : earliest);
  let last = context.range ? nearestLine(g, context.range[1]) - 1 : nearestLine(g, latest);
  // A hit exactly between two lines counts for the later one at the front and, mirrored, for the
  // earlier one at the back; otherwise reversing twice would not come back.
  if (!context.range && isHalfWay(g, latest, last)) last -= 1;
  // A mirror of swung cells, which are long and short in turn, sends each hit to a cell of its own kind
  // where first and last are; then only one far from its line could come to lie nearer to another.
  const alike = (first + last) % 2 === 0;
  if (g.swing !== 50 && alike && notes.some((note) => !isNear(g, note.start))) {
    // A mirror of whole pairs sends long to short: what is far there is as far here.
    const paired = [first - modulo(first, 2), last + 1 - modulo(last, 2)] as [number, number];
    const loop = context.range?.[1] ?? context.length;
    if (loop === null || lineAt(g, paired[1]) < loop) return paired;
  }
  return [first, last];
}

const modulo = (n: number, by: number) => ((n % by) + by) % by;

/** Whether a tick is nearer to its line than half a short cell of a swung grid. */
function isNear(g: Grid, tick: Ticks): boolean {
  const short = lineAt(g, 2) - lineAt(g, 1);
  return Math.abs(driftOf(g, tick)) < short / 2;
}

function isHalfWay(g: Grid, tick: Ticks, line: number): boolean {
  return lineAt(g, line) > tick && lineAt(g, line) - tick === tick - lineAt(g, line - 1);
}
