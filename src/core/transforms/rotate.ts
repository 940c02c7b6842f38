import type { Note } from "../score/model";
import { gridTicks, lineAt, nearestLine } from "../time/grid";
import { MAX_EARLY } from "../time/ticks";
import { chosenGrid, gridParams, type GridChoice } from "./grid-choice";
import {
  counted,
  defineTransform,
  loopOf,
  param,
  params,
  spanOf,
  type TransformContext,
} from "./kit";
import { plural } from "../words";

const modulo = (n: number, by: number) => ((n % by) + by) % by;

/**
 * Shifts by whole cells, wrapping round the loop: the selected range, else each lane's own loop,
 * else the part's. Drift is kept. Notes outside the loop stay where they are.
 */
export const rotate = defineTransform({
  label: "Rotate",
  about: "Shifts by whole steps; what leaves the loop comes in at its other end",
  schema: params({ steps: param.whole("Steps", -64, 64), ...gridParams }),
  defaults: { steps: 1, value: "own" as string, kind: "straight" as string },
  run(selected, p, context) {
    const span = spanOf(selected, context);
    return {
      replaced: selected.map((note) => rotated(note, p, context, span)),
      sentence: (c) => {
        const way = p.steps < 0 ? "earlier" : "later";
        const steps = Math.abs(p.steps);
        return `${counted(c.moved, context)} moved ${plural(steps, "step")} ${way}, round the loop`;
      },
    };
  },
});

function rotated(
  note: Note,
  p: GridChoice & { steps: number },
  context: TransformContext,
  span: readonly [number, number],
): Note {
  const loop = context.range ? null : loopOf(note.pitch, context);
  const [a, b] = context.range ?? (loop ? [0, loop] : span);
  const length = b - a;
  if (length <= 0 || note.start >= b) return note;
  const g = chosenGrid(note, p, context);
  const cell = gridTicks(g);
  const line = nearestLine(g, note.start - a);
  const drift = note.start - a - lineAt(g, line);
  // A loop of whole pairs of cells keeps its swing; any other is shifted by plain time.
  const pairs = length % (g.swing === 50 ? cell : 2 * cell) === 0;
  const moved = pairs
    ? lineAt(g, modulo(line + p.steps, length / cell)) + drift
    : modulo(note.start - a + p.steps * cell, length);
  const early = moved < 0 && (a > 0 || moved < -MAX_EARLY);
  return { ...note, start: a + (early ? moved + length : moved) };
}
