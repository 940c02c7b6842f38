import { GRID_KINDS, type Grid, type GridKind } from "../time";
import type { Note } from "../score";
import { param } from "../params";
import { gridOf, type TransformContext } from "./kit";

const VALUES = ["own", "1", "2", "4", "8", "16", "32", "64", "128"] as const;
/** A grid was chosen, and not each note's own. */
export const NAMED = { param: "value", is: VALUES.slice(1) };

/** Parameters that choose a grid: each note's own, or one value and kind for all. */
export const gridParams = {
  value: param.value("Grid", VALUES),
  kind: param.choice("Kind", GRID_KINDS.slice(0, 3), { when: NAMED }),
};

export const swingParam = param.number("Swing", 50, 75, { unit: "%", step: 0.5, when: NAMED });

/** A grid as parameters choose it. */
export interface GridChoice {
  value: string;
  kind: string;
  swing?: number;
}

/** Which grid each note is worked on with; made once for each pitch of a run, since notes are many. */
export function gridChooser(
  { value, kind, swing = 50 }: GridChoice,
  context: TransformContext,
): (note: Pick<Note, "pitch">) => Grid {
  if (value !== "own") {
    const named: Grid = { value: Number(value), kind: kind as GridKind, swing };
    return () => named;
  }
  const known = new Map<number, Grid>();
  return (note) => {
    let grid = known.get(note.pitch);
    if (!grid) known.set(note.pitch, (grid = gridOf(note, context)));
    return grid;
  };
}
