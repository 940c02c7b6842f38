import type { Ticks } from "../base";
import { GRID_KINDS, type GridKind, grid, gridTicks, msToTicks, ticksToMs } from "../time";
import { param, params } from "../params";
import { clampLength, counted, defineTransform, figure } from "./kit";

const WAYS = ["set", "scale", "trim"] as const;
const VALUES = ["1", "2", "4", "8", "16", "32", "64", "128"] as const;
const only = (is: string) => ({ when: { param: "way", is: [is] } });

/** Sets lengths to a note value, scales them, or trims their ends; never below one tick. */
export const length = defineTransform({
  label: "Length",
  family: "line",
  about: "Sets, scales or trims how long notes are",
  schema: params({
    way: param.choice("Mode", WAYS),
    value: param.value("Value", VALUES, only("set")),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3), only("set")),
    scale: param.number("Scale", 1, 800, { unit: "%", ...only("scale") }),
    trim: param.number("Shorter by", -1000, 1000, { unit: "ms", ...only("trim") }),
  }),
  defaults: {
    way: "scale" as string,
    value: "16",
    kind: "straight" as string,
    scale: 50,
    trim: 20,
  },
  run(selected, p, context) {
    const set = gridTicks(grid(Number(p.value), p.kind as GridKind));
    const trim = msToTicks(p.trim, context.tempo);
    const after = (ticks: Ticks) =>
      p.way === "set" ? set : p.way === "scale" ? (ticks * p.scale) / 100 : ticks - trim;
    const replaced = selected.map((note) => {
      const now = clampLength(after(note.length));
      return now === note.length ? note : { ...note, length: now };
    });
    const mean =
      replaced.reduce((sum, note) => sum + note.length, 0) / Math.max(1, replaced.length);
    return {
      replaced,
      sentence: (counts) =>
        `${counted(counts.changed, context)} of ${selected.length} changed, ${figure(ticksToMs(mean, context.tempo))} ms long on average`,
    };
  },
});
