import { msToTicks, ticksToMs } from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { counted, defineTransform } from "./kit";

/**
 * Leaves out what was not meant: hits softer than a velocity, notes shorter than a time, and a second
 * strike of the same pitch so soon after the first that the key bounced (the louder of the two stays).
 */
export const strays = defineTransform({
  label: "Stray notes",
  family: "rhythm",
  example: {
    notes: [
      [0, 240, 60, 110],
      [420, 60, 60, 12],
      [960, 240, 60, 100],
      [1190, 60, 60, 15],
      [1920, 240, 60, 110],
      [2610, 60, 60, 14],
      [2880, 240, 60, 100],
    ],
  },
  about: "Leaves out what was not meant: too soft, too short, struck twice",
  schema: params({
    softer: param.whole("Softer than", 1, 127),
    shorter: param.number("Shorter than", 0, 500, { unit: "ms" }),
    twice: param.number("Twice within", 0, 200, { unit: "ms" }),
  }),
  defaults: { softer: 20, shorter: 25, twice: 40 },
  run(selected, p, context) {
    const least = msToTicks(p.shorter, context.tempo);
    const near = msToTicks(p.twice, context.tempo);
    let [soft, short, double] = [0, 0, 0];
    const gone = new Set<Note>();
    for (const note of selected) {
      if (note.velocity < p.softer) {
        soft++;
        gone.add(note);
        // A hit rings out by itself: only what is held can be too short.
      } else if (context.kind === "melody" && note.length < least) {
        short++;
        gone.add(note);
      }
    }
    const last = new Map<number, Note>();
    for (const note of [...selected].sort((a, b) => a.start - b.start)) {
      if (gone.has(note)) continue;
      const before = last.get(note.pitch);
      last.set(note.pitch, note);
      if (!before || near === 0 || note.start - before.start > near) continue;
      double++;
      const weaker = note.velocity > before.velocity ? before : note;
      gone.add(weaker);
      if (weaker === note) last.set(note.pitch, before);
    }
    const why = [
      soft > 0 && `${soft} too soft`,
      short > 0 && `${short} shorter than ${Math.round(ticksToMs(least, context.tempo))} ms`,
      double > 0 && `${double} struck twice`,
    ].filter(Boolean);
    return {
      replaced: selected.map((note) => (gone.has(note) ? null : note)),
      sentence: (counts) =>
        counts.removed === 0
          ? "No stray notes found"
          : `${counted(counts.removed, context)} left out: ${why.join(", ")}`,
    };
  },
});
