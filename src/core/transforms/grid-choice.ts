import type { Note } from "../score/model";
import { GRID_KINDS, type Grid, type GridKind } from "../time/grid";
import { gridOf, param, type TransformContext } from "./kit";

const VALUES = ["own", "1", "2", "4", "8", "16", "32", "64", "128"] as const;
/** A grid was chosen, and not each note's own. */
export const NAMED = { param: "value", is: VALUES.slice(1) };

/** Parameters that choose a grid: each note's own, or one value and kind for all. */
export const gridParams = {
  value: param.choice("Grid", VALUES),
  kind: param.choice("Kind", GRID_KINDS.slice(0, 3), { when: NAMED }),
};

export const swingParam = param.number("Swing", 50, 75, { unit: "%", step: 0.5, when: NAMED });

/** A grid as parameters choose it. */
export interface GridChoice {
  value: string;
  kind: string;
  swing?: number;
}

/** The grid a note is worked on with. */
export function chosenGrid(
  note: Pick<Note, "pitch">,
  { value, kind, swing = 50 }: GridChoice,
  context: TransformContext,
): Grid {
  if (value === "own") return gridOf(note, context);
  return { value: Number(value), kind: kind as GridKind, swing };
}
