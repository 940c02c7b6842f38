import { plural, modulo } from "../base";
import { type Grid, MAX_EARLY, gridTicks, lineAt, nearestLine } from "../time";
import type { BendPiece, Note } from "../score";
import { gridChooser, gridParams } from "./grid-choice";
import { param, params } from "../params";
import {
  bendsParam,
  counted,
  defineTransform,
  loopOf,
  spanOf,
  withStretch,
  type TransformContext,
} from "./kit";

/**
 * Shifts by whole cells, wrapping round the loop: the selected range, else each lane's own loop,
 * else the part's. Drift is kept. Notes outside the loop stay where they are.
 */
export const rotate = defineTransform({
  label: "Rotate",
  about: "Shifts by whole steps; what leaves the loop comes in at its other end",
  schema: params({ steps: param.whole("Steps", -64, 64), ...gridParams, ...bendsParam }),
  defaults: {
    steps: 1,
    value: "own" as string,
    kind: "straight" as string,
    bends: false as boolean,
  },
  starts: { bends: true },
  run(selected, p, context) {
    const span = spanOf(selected, context);
    const gridFor = gridChooser(p, context);
    const [first] = selected;
    return {
      ...(p.bends && first && { time: rotatedTime(p.steps, gridFor(first), context, span) }),
      replaced: selected.map((note) => rotated(note, p.steps, gridFor(note), context, span)),
      sentence: (counts) => {
        const way = p.steps < 0 ? "earlier" : "later";
        const steps = Math.abs(p.steps);
        return `${counted(counts.moved, context)} moved ${plural(steps, "step")} ${way}, round the loop`;
      },
    };
  },
});

/** The time of a loop, or of a stretch, that is shifted round: by plain steps, whatever its swing. */
function rotatedTime(
  steps: number,
  grid: Grid,
  { range, length }: TransformContext,
  span: readonly [number, number],
): BendPiece[] {
  const [a, b] = range ?? (length ? [0, length] : span);
  if (b <= a) return [];
  const by = modulo(steps * gridTicks(grid), b - a);
  const wrapped = { from: b - by, to: b, at: a, scale: 1 };
  const rest = { from: a, to: b - by, at: a + by, scale: 1 };
  return withStretch([a, b], [wrapped, rest], length);
}

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
