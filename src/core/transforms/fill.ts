import { type MidiPitch, modulo } from "../base";
import { barTicks, gridTicks, lineAt, nearestLine } from "../time";
import type { Note } from "../score";
import { gridChooser, gridParams, type GridChoice } from "./grid-choice";
import { param, params } from "../params";
import {
  clampStart,
  counted,
  counter,
  defineTransform,
  loopOf,
  type TransformContext,
  evenly,
} from "./kit";

const WAYS = ["every n-th", "spread evenly"] as const;
const THERE = ["keep them", "replace them"] as const;
const only = (is: string) => ({ when: { param: "way", is: [is] } });

/**
 * `hits` spread as evenly as whole steps allow over `steps`: step *i* hits where
 * `floor(i · hits / steps)` rises, turned `rotation` steps later. All whole numbers, `hits ≤ steps`.
 */
export function evenSpread(hits: number, steps: number, rotation = 0): boolean[] {
  return Array.from({ length: steps }, (_, step) => {
    const i = modulo(step - rotation, steps);
    return Math.floor((i * hits) / steps) > Math.floor(((i - 1) * hits) / steps);
  });
}

/**
 * Adds hits on every n-th cell, or k spread evenly over n cells, in each lane it works on: the one
 * asked for, else those that have hits, else one (the kick of a kit, middle C of a melody).
 */
export const fill = defineTransform({
  label: "Fill",
  family: "rhythm",
  example: { notes: evenly(960, 110, 110, 110, 110), params: { every: 2, velocity: 60 } },
  about: "Adds hits on every n-th step, or k of n spread evenly",
  schema: params({
    way: param.choice("Mode", WAYS),
    every: param.whole("Every", 1, 64, { unit: "steps", ...only("every n-th") }),
    hits: param.whole("Hits", 1, 64, only("spread evenly")),
    over: param.whole("Over", 1, 128, { unit: "steps", ...only("spread evenly") }),
    rotation: param.whole("Rotated by", -64, 64, { unit: "steps" }),
    velocity: param.whole("Velocity", 1, 127),
    there: param.choice("Hits that are there", THERE),
    ...gridParams,
  }),
  defaults: {
    way: "every n-th" as string,
    every: 2,
    hits: 5,
    over: 16,
    rotation: 0,
    velocity: 96,
    there: "keep them" as string,
    value: "own" as string,
    kind: "straight" as string,
  },
  run(selected, p, context, all) {
    const ids = new Set(all.map((note) => note.id).filter((id) => id.startsWith("fill-")));
    const there = new Map<number, Note[]>();
    for (const note of all) {
      const list = there.get(note.pitch);
      if (list) list.push(note);
      else there.set(note.pitch, [note]);
    }
    const making = counter(context);
    const mine = new Set(p.there === "replace them" ? selected : []);
    const extra: Note[] = [];
    const touched = new Set<Note>();
    let cells = 0;
    for (const pitch of lanesOf(selected, context)) {
      const lane = laneCells(pitch, p, context);
      const share = p.way === "every n-th" ? 1 / p.every : Math.min(1, p.hits / p.over);
      making(Math.floor(lane.count * share));
      const held = new Set<number>();
      // Whatever is there counts, worked on or not: no step gets a second hit.
      for (const note of there.get(pitch) ?? []) {
        const gridLine = nearestLine(lane.grid, note.start);
        const inside = gridLine >= lane.first && gridLine < lane.first + lane.count;
        if (mine.has(note) && inside) touched.add(note);
        else if (inside) held.add(gridLine);
      }
      cells += lane.count;
      for (const cell of cellsHit(lane.count, p)) {
        const gridLine = lane.first + cell;
        if (held.has(gridLine)) continue;
        let id = `fill-${pitch}-${gridLine}`;
        while (ids.has(id)) id += "+";
        ids.add(id);
        const start = lineAt(lane.grid, gridLine);
        extra.push({
          id,
          start: clampStart(start),
          length: Math.max(1, gridTicks(lane.grid)),
          pitch,
          velocity: p.velocity,
          pan: 0,
          tune: 0,
          slide: false,
        });
      }
    }
    return {
      replaced: selected.map((note) => (touched.has(note) ? null : note)),
      extra,
      sentence: (counts) => {
        const gone = counts.removed > 0 ? `, ${counts.removed} replaced` : "";
        const way =
          p.way === "spread evenly"
            ? `${Math.min(p.hits, p.over)} of every ${p.over} steps`
            : p.every === 1
              ? "on every step"
              : `on one step in ${p.every}`;
        return `${counted(counts.added, context)} added on ${cells} steps, ${way}${gone}`;
      },
    };
  },
});

interface Settings extends GridChoice {
  way: string;
  every: number;
  hits: number;
  over: number;
  rotation: number;
}

function lanesOf(selected: readonly Note[], context: TransformContext): number[] {
  if (context.lane !== null) return [context.lane];
  const found = [...new Set(selected.map((note) => note.pitch))];
  if (found.length > 0) return found;
  return [context.kind === "drums" ? 36 : 60];
}

/** The cells of a lane that are filled: those of the range, else of its loop, else of one bar. */
function laneCells(pitch: MidiPitch, p: Settings, context: TransformContext) {
  const grid = gridChooser(p, context)({ pitch });
  const [a, b] = context.range ?? [0, loopOf(pitch, context) ?? barTicks(context.metre)];
  const first = nearestLine(grid, a);
  let count = 0;
  while (lineAt(grid, first + count) < b) count++;
  return { grid, first, count };
}

function cellsHit(count: number, p: Settings): number[] {
  const cells = Array.from({ length: count }, (_, i) => i);
  if (p.way !== "spread evenly") {
    return cells.filter((i) => (((i - p.rotation) % p.every) + p.every) % p.every === 0);
  }
  const pattern = evenSpread(Math.min(p.hits, p.over), p.over, p.rotation);
  return cells.filter((i) => pattern[i % p.over]);
}
