import { type Ticks, nth, lastOf } from "../base";
import { type Grid, gridTicks, gridLines, lineAt, nearestLine, ticksToMs } from "../time";
import type { Note } from "../score";
import { gridChooser, gridParams, swingParam } from "./grid-choice";
import { param, params } from "../params";
import { clampLength, clampStart, counted, defineTransform, figure, roundLoop } from "./kit";

const REACHES = ["all", "within", "beyond"] as const;
const ENDS = ["keep length", "keep end", "quantize ends"] as const;

/**
 * Pulls starts to the nearest line of the (swung) grid: `start' = start + strength · (line −
 * start)`; half way goes to the later line. `reach` limits it to notes within, or only beyond,
 * `window` percent of half a cell. With `from`, the lines are the onsets of that track's part.
 */
export const quantize = defineTransform({
  label: "Quantize",
  family: "feel",
  example: {
    notes: [
      [40, 120, 60, 100],
      [290, 120, 60, 100],
      [430, 120, 60, 100],
      [790, 120, 60, 100],
      [920, 120, 60, 100],
      [1260, 120, 60, 100],
    ],
    params: { strength: 100 },
  },
  about: "Pulls starts toward the lines of a grid",
  schema: params({
    strength: param.number("Strength", 0, 100, { unit: "%" }),
    ...gridParams,
    swing: swingParam,
    from: param.track("Timing of"),
    reach: param.choice("Which notes", REACHES, {
      texts: { within: "nearby only", beyond: "far only" },
    }),
    window: param.number("How near", 0, 100, {
      unit: "%",
      when: { param: "reach", is: ["within", "beyond"] },
    }),
    ends: param.choice("Ends", ENDS),
  }),
  defaults: {
    strength: 100,
    value: "own" as string,
    kind: "straight" as string,
    swing: 50,
    from: "",
    reach: "all" as string,
    window: 50,
    ends: "keep length" as string,
  },
  lines(p, context, pitch, to) {
    if (p.from) return (context.timingOf(p.from) ?? []).filter((tick) => tick < to);
    return gridLines(gridChooser(p, context)({ pitch }), 0, to);
  },
  run(selected, p, context) {
    let total = 0;
    let moved = 0;
    // Asked for once, not for each note.
    const onsets = p.from ? (context.timingOf(p.from) ?? []) : null;
    const others = onsets && onsetLines(onsets, context.length);
    const gridFor = gridChooser(p, context);
    const own = new Map<Grid, Lines>();
    const replaced = selected.map((note) => {
      const g = others ?? gridLinesOf(gridFor(note), own);
      const start = clampStart(note.start + pull(g, note.start, p));
      if (start !== note.start) {
        moved++;
        total += Math.abs(start - note.start);
      }
      const length = newLength(note, start, g, p);
      return { ...note, start: roundLoop(note, start, context), length };
    });
    const together = fallingTogether(selected, replaced);
    return {
      replaced,
      sentence: () => {
        if (onsets?.length === 0) return "That track has no onsets here";
        if (!moved) return "All notes already stood there, none moved";
        const mean = figure(ticksToMs(total / moved, context.tempo));
        const meets = together > 0 ? `; ${together} on one that is there` : "";
        return `${counted(moved, context)} of ${selected.length} moved, ${mean} ms each on average${meets}`;
      },
    };
  },
});

/** How many notes fall on another of their pitch that they did not lie on before. */
function fallingTogether(before: readonly Note[], after: readonly Note[]): number {
  const alone = (notes: readonly Note[]) =>
    new Set(notes.map(({ start, pitch }) => start * 128 + pitch)).size;
  const left = alone(after);
  // Mostly none does: then the places before need not be counted.
  return left === after.length ? 0 : alone(before) - left;
}

interface Settings {
  value: string;
  kind: string;
  swing: number;
  from: string;
  strength: number;
  reach: string;
  window: number;
  ends: string;
}

/** What notes are pulled to: the nearest line, and the distance from there to the next. */
interface Lines {
  nearest(tick: Ticks): number;
  cell(tick: Ticks): number;
}

/** The lines of a grid, made once for each grid of a run. */
function gridLinesOf(grid: Grid, known: Map<Grid, Lines>): Lines {
  let lines = known.get(grid);
  if (!lines) {
    const cell = gridTicks(grid);
    lines = { nearest: (tick) => lineAt(grid, nearestLine(grid, tick)), cell: () => cell };
    known.set(grid, lines);
  }
  return lines;
}

/** Onsets of another part as lines; the loop's first one counts again after its end. */
function onsetLines(onsets: readonly number[], length: Ticks | null): Lines {
  const sorted = [...new Set(onsets)].sort((a, b) => a - b);
  if (length && sorted.length > 0) {
    // What the other part plays after this loop's end is not heard with it.
    while (sorted.length > 1 && lastOf(sorted) >= length) sorted.pop();
    sorted.push(nth(sorted, 0) + length);
  }
  const index = (tick: Ticks) => {
    let [low, high] = [0, sorted.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      // Half way goes to the later line.
      if (tick - nth(sorted, middle) >= nth(sorted, middle + 1) - tick) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  return {
    nearest: (tick) => sorted[index(tick)] ?? tick,
    cell: (tick) => {
      if (sorted.length === 0) return 0;
      const i = index(tick);
      const before = nth(sorted, i) - (sorted[i - 1] ?? -Infinity);
      const after = (sorted[i + 1] ?? Infinity) - nth(sorted, i);
      return Math.min(before, after);
    },
  };
}

/** How far a tick is pulled, not rounded. */
function pull(lines: Lines, tick: Ticks, p: Settings): number {
  const distance = lines.nearest(tick) - tick;
  const limit = (p.window / 100) * (lines.cell(tick) / 2);
  if (p.reach === "within" && Math.abs(distance) > limit) return 0;
  if (p.reach === "beyond" && Math.abs(distance) <= limit) return 0;
  return (distance * p.strength) / 100;
}

function newLength(note: Note, start: Ticks, g: Lines, p: Settings): number {
  const end = note.start + note.length;
  if (p.ends === "keep end") return clampLength(end - start);
  if (p.ends === "quantize ends") return clampLength(end + pull(g, end, p) - start);
  return note.length;
}
