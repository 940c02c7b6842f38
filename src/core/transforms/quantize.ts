import { GRID_KINDS, gridTicks, lineAt, nearestLine, type Grid, type GridKind } from "../time/grid";
import { ticksToMs } from "../time/ticks";
import type { Note } from "../score/model";
import {
  clampLength,
  clampStart,
  counted,
  defineTransform,
  figure,
  gridOf,
  param,
  params,
  type TransformContext,
} from "./kit";

const VALUES = ["own", "1", "2", "4", "8", "16", "32", "64", "128"] as const;
const REACHES = ["all", "within", "beyond"] as const;
const ENDS = ["keep length", "keep end", "quantize ends"] as const;

/**
 * Pulls starts to the nearest line of the (swung) grid: `start' = start + strength · (line −
 * start)`; half way goes to the later line. `reach` limits it to notes within, or only beyond,
 * `window` percent of half a cell.
 */
export const quantize = defineTransform({
  label: "Quantize",
  about: "Pulls starts toward the lines of a grid",
  schema: params({
    value: param.choice("Grid", VALUES),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3)),
    swing: param.number("Swing", 50, 75, { unit: "%", step: 0.5 }),
    strength: param.number("Strength", 0, 100, { unit: "%" }),
    reach: param.choice("Which notes", REACHES),
    window: param.number("Window", 0, 100, { unit: "%" }),
    ends: param.choice("Ends", ENDS),
  }),
  defaults: {
    value: "own" as string,
    kind: "straight" as string,
    swing: 50,
    strength: 100,
    reach: "all" as string,
    window: 50,
    ends: "keep length" as string,
  },
  run(selected, p, context) {
    let total = 0;
    let moved = 0;
    const replaced = selected.map((note) => {
      const g = gridFor(note, p, context);
      const start = clampStart(note.start + pull(g, note.start, p));
      if (start !== note.start) {
        moved++;
        total += Math.abs(start - note.start);
      }
      return { ...note, start, length: newLength(note, start, g, p) };
    });
    return {
      replaced,
      sentence: () => {
        if (!moved) return "All notes already stood there, none moved";
        const mean = figure(ticksToMs(total / moved, context.tempo));
        return `${counted(moved, context)} of ${selected.length} moved, ${mean} ms each on average`;
      },
    };
  },
});

interface Settings {
  value: string;
  kind: string;
  swing: number;
  strength: number;
  reach: string;
  window: number;
  ends: string;
}

function gridFor(note: Note, p: Settings, context: TransformContext): Grid {
  if (p.value === "own") return gridOf(note, context);
  return { value: Number(p.value), kind: p.kind as GridKind, swing: p.swing };
}

/** How far a tick is pulled, not rounded. */
function pull(g: Grid, tick: number, p: Settings): number {
  const distance = lineAt(g, nearestLine(g, tick)) - tick;
  const limit = (p.window / 100) * (gridTicks(g) / 2);
  if (p.reach === "within" && Math.abs(distance) > limit) return 0;
  if (p.reach === "beyond" && Math.abs(distance) <= limit) return 0;
  return (distance * p.strength) / 100;
}

function newLength(note: Note, start: number, g: Grid, p: Settings): number {
  const end = note.start + note.length;
  if (p.ends === "keep end") return clampLength(end - start);
  if (p.ends === "quantize ends") return clampLength(end + pull(g, end, p) - start);
  return note.length;
}
