import {
  GRID_KINDS,
  type GridKind,
  MAX_EARLY,
  grid,
  gridTicks,
  msToTicks,
  ticksToMs,
} from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { counted, counter, defineTransform, figure, loopOf, pieceIds } from "./kit";
import { Places } from "./places";
import { nth } from "../base";

const UNITS = ["note value", "ms"] as const;
const VALUES = ["2", "4", "8", "16", "32", "64"] as const;
const ENDS = ["come round", "fall away"] as const;
const only = (is: string) => ({ when: { param: "unit", is: [is] } });

/**
 * Repeats each note, `number` times at most, a fixed time apart, each softer than the one before by
 * `decay` percent of its velocity; what would be softer than 1 is left out. At the end of the loop
 * echoes come round to its beginning or fall away. An echo that would lie on a note of the same
 * pitch is left out too. Common practice: a dotted eighth is the time of many an echo.
 */
export const echo = defineTransform({
  label: "Echo",
  family: "chords",
  example: { notes: [[0, 360, 60, 120]], context: { length: null } },
  about: "Repeats each note, softer each time",
  schema: params({
    number: param.whole("Echoes", 1, 16),
    unit: param.choice("Time in", UNITS),
    value: param.value("Time", VALUES, only("note value")),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3), only("note value")),
    ms: param.number("Time", 20, 2000, { unit: "ms", role: "rate", ...only("ms") }),
    decay: param.number("Decay", 0, 95, { unit: "%" }),
    ends: param.choice("At the end of the loop", ENDS),
  }),
  picture: { pitches: [60], held: 240, ticks: (bar) => bar },
  defaults: {
    number: 3,
    unit: "note value" as string,
    value: "8" as string,
    kind: "dotted" as string,
    ms: 350,
    decay: 40,
    ends: "come round" as string,
  },
  run(selected, p, context, all) {
    const apart =
      p.unit === "ms"
        ? msToTicks(p.ms, context.tempo)
        : gridTicks(grid(Number(p.value), p.kind as GridKind));
    const making = counter(context);
    const pieceId = pieceIds(all);
    const taken = new Places(all.length + Math.min(context.most, p.number * selected.length));
    for (const note of all) taken.add(note.start, note.pitch);
    // How loud each echo is and how late, the same for all.
    const softer = Array.from({ length: p.number + 1 }, (_, i) => (1 - p.decay / 100) ** i);
    const later = Array.from({ length: p.number + 1 }, (_, i) => Math.round(i * apart));
    const extra: Note[] = [];
    for (const note of selected) {
      const loop = loopOf(note.pitch, context);
      // What lies past the loop's end is not heard, nor are its echoes.
      if (loop !== null && note.start >= loop) continue;
      for (let i = 1; i <= p.number; i++) {
        const velocity = Math.round(note.velocity * nth(softer, i));
        if (velocity < 1) break;
        let start = note.start + nth(later, i);
        if (loop !== null && start >= loop) {
          if (p.ends === "fall away") break;
          start %= loop;
        }
        if (start < -MAX_EARLY || !taken.add(start, note.pitch)) continue;
        making(1);
        extra.push({ ...note, id: pieceId(note.id, i), start, velocity });
      }
    }
    return {
      replaced: selected,
      extra,
      sentence: () =>
        extra.length === 0
          ? "No room for an echo: none added"
          : `${counted(extra.length, context)} added, ${figure(ticksToMs(apart, context.tempo))} ms apart, each ${figure(p.decay)} % softer`,
    };
  },
});
