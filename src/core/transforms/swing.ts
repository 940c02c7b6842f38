import { lineAt, nearestLine, ticksToMs } from "../time";
import { gridChooser, gridParams } from "./grid-choice";
import { param, params } from "../params";
import { clampStart, counted, defineTransform, figure, evenly } from "./kit";

/**
 * Moves the second of each pair of cells to `amount` percent of the pair and leaves the first
 * where it is; drift is kept. 50 moves nothing, 66.67 is the triplet grid.
 */
export const swing = defineTransform({
  label: "Swing",
  family: "feel",
  example: { notes: evenly(240, 110, 80, 110, 80, 110, 80, 110, 80), params: { amount: 70 } },
  about: "Moves every second step later",
  schema: params({
    amount: param.number("Swing", 50, 75, { unit: "%", step: 0.5 }),
    ...gridParams,
  }),
  defaults: { amount: 58, value: "own" as string, kind: "straight" as string },
  run(selected, p, context) {
    let widest = 0;
    const gridFor = gridChooser(p, context);
    const replaced = selected.map((note) => {
      const straight = { ...gridFor(note), swing: 50 };
      const gridLine = nearestLine(straight, note.start);
      if (gridLine % 2 === 0) return note;
      const by = lineAt({ ...straight, swing: p.amount }, gridLine) - lineAt(straight, gridLine);
      widest = Math.max(widest, by);
      return by === 0 ? note : { ...note, start: clampStart(note.start + by) };
    });
    return {
      replaced,
      sentence: (counts) =>
        counts.moved === 0
          ? "None stands on an off-step, or the swing is straight: none moved"
          : `${counted(counts.moved, context)} of ${selected.length} later, up to ${figure(ticksToMs(widest, context.tempo))} ms`,
    };
  },
});
