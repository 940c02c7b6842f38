import { plural, modulo } from "../base";
import { type Grid, MAX_EARLY, gridTicks, lineAt, nearestLine } from "../time";
import type { Note } from "../score";
import { gridChooser, gridParams } from "./grid-choice";
import { param, params } from "../params";
import { counted, defineTransform, loopOf, spanOf, type TransformContext, evenly } from "./kit";

/**
 * Shifts by whole cells, wrapping round the loop: the selected range, else each lane's own loop,
 * else the part's. Drift is kept. Notes outside the loop stay where they are.
 */
export const rotate = defineTransform({
  label: "Rotate",
  family: "rhythm",
  example: { notes: evenly(720, 110, 90, 90), params: { steps: 2 }, context: { length: 3840 } },
  about: "Shifts by whole steps; what leaves the loop comes in at its other end",
  schema: params({ steps: param.whole("Steps", -64, 64), ...gridParams }),
  defaults: { steps: 1, value: "own" as string, kind: "straight" as string },
  // The loop's time, or that of a stretch, is shifted round by plain steps, whatever its swing.
  time(selected, p, context) {
    const { range, length } = context;
    const [from, to] = range ?? (length ? [0, length] : spanOf(selected, context));
    const [first] = selected;
    if (!first || to <= from) return { from, to, put: [{ from, to, at: from, scale: 1 }] };
    const by = modulo(p.steps * gridTicks(gridChooser(p, context)(first)), to - from);
    const wrapped = { from: to - by, to, at: from, scale: 1 };
    return { from, to, put: [wrapped, { from, to: to - by, at: from + by, scale: 1 }] };
  },
  run(selected, p, context) {
    const span = spanOf(selected, context);
    const gridFor = gridChooser(p, context);
    return {
      replaced: selected.map((note) => rotated(note, p.steps, gridFor(note), context, span)),
      sentence: (counts) => {
        const way = p.steps < 0 ? "earlier" : "later";
        const steps = Math.abs(p.steps);
        return `${counted(counts.moved, context)} moved ${plural(steps, "step")} ${way}, round the loop`;
      },
    };
  },
});

function rotated(
  note: Note,
  steps: number,
  grid: Grid,
  context: TransformContext,
  span: readonly [number, number],
): Note {
  const loop = context.range ? null : loopOf(note.pitch, context);
  const [a, b] = context.range ?? (loop ? [0, loop] : span);
  const length = b - a;
  if (length <= 0 || note.start >= b) return note;
  const cell = gridTicks(grid);
  // Lines are counted from the loop's first one, in the swing that it has where it stands.
  const first = nearestLine(grid, a);
  const from = lineAt(grid, first) === a ? first : 0;
  const base = from === first ? 0 : a;
  const gridLine = nearestLine(grid, note.start - base);
  const drift = note.start - base - lineAt(grid, gridLine);
  // A loop of whole steps goes from line to line, swung ones too; any other is shifted by plain time.
  const moved =
    length % cell === 0
      ? lineAt(grid, from + modulo(gridLine - from + steps, length / cell)) + drift + base - a
      : modulo(note.start - a + steps * cell, length);
  const early = moved < 0 && (a > 0 || moved < -MAX_EARLY);
  return { ...note, start: a + (early ? moved + length : moved) };
}
