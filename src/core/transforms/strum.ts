import { type Ticks, plural, clampVelocity, nth } from "../base";
import { GRID_KINDS, type GridKind, grid, gridTicks, msToTicks, ticksToMs } from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { clampLength, clampStart, counted, defineTransform, figure, roundLoop } from "./kit";
import { TOGETHER, onsetIndices } from "./onsets";

const DIRECTIONS = ["up", "down", "alternate"] as const;
const UNITS = ["ms", "note value"] as const;
const VALUES = ["4", "8", "16", "32", "64", "128"] as const;

/** Bends 0…1: 0 is a straight line, above it hurries at the end, below at the beginning. Ends stay. */
export const strumCurve = (x: number, bend: number) => x ** (2 ** (-bend / 50));

/**
 * Spreads the notes of each onset: the i-th of k begins at `start + spread · curve(i / (k − 1))`, from
 * the lowest up, from the highest down, or in turns; ends stay where they are. A spread that would
 * leave nothing of the chord's shortest note is held to what leaves it a 1/64, or half of it.
 */
export const strum = defineTransform({
  label: "Strum",
  family: "chords",
  about: "Spreads chords, up, down or in turns",
  schema: params({
    direction: param.choice("Direction", DIRECTIONS),
    unit: param.choice("Spread in", UNITS),
    spread: param.number("Spread", 0, 1000, { unit: "ms", when: { param: "unit", is: ["ms"] } }),
    value: param.value("Spread over", VALUES, { when: { param: "unit", is: ["note value"] } }),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3), {
      when: { param: "unit", is: ["note value"] },
    }),
    curve: param.number("Curve", -100, 100, { unit: "%" }),
    tilt: param.whole("Velocity tilt", -126, 126),
  }),
  picture: {
    pitches: [60, 64, 67, 71],
    // A strum that is longer than an eighth is seen whole.
    ticks: (_, made) => Math.max(480, 1.15 * Math.max(...made.map((note) => note.start))),
  },
  defaults: {
    direction: "up" as string,
    unit: "ms" as string,
    spread: 40,
    value: "16" as string,
    kind: "straight" as string,
    curve: 0,
    tilt: 0,
  },
  run(selected, p, context) {
    const ticks =
      p.unit === "ms"
        ? msToTicks(p.spread, context.tempo)
        : gridTicks(grid(Number(p.value), p.kind as GridKind));
    const replaced: Note[] = [...selected];
    let [chords, notes, turn, held] = [0, 0, 0, 0];
    for (const group of onsetIndices(selected)) {
      if (group.length < 2) continue;
      chords++;
      notes += group.length;
      const space = spaceOf(group.map((k) => selected[k]!));
      const spread = Math.round(ticks) < space.all - 1 ? ticks : space.some;
      if (spread < ticks) held++;
      const down = p.direction === "down" || (p.direction === "alternate" && turn++ % 2 === 1);
      const order = [...group].sort((a, b) => selected[a]!.pitch - selected[b]!.pitch);
      if (down) order.reverse();
      order.forEach((k, i) => {
        const note = selected[k]!;
        const share = i / (order.length - 1);
        const start = clampStart(space.from + spread * strumCurve(share, p.curve));
        replaced[k] = {
          ...note,
          start: roundLoop(note, start, context),
          length: clampLength(note.start + note.length - start),
          velocity: clampVelocity(note.velocity + p.tilt * share),
        };
      });
    }
    return {
      replaced,
      sentence: () => {
        if (chords === 0) return "No notes begin together: nothing to strum";
        const ms = figure(ticksToMs(ticks, context.tempo));
        const less = held > 0 ? `, ${held} over less, as its notes are short` : "";
        return `${plural(chords, "chord")} of ${counted(notes, context)} spread over ${ms} ms${less}`;
      },
    };
  },
});

/**
 * How long a chord's shortest note reaches from where the chord begins: a spread as wide would leave
 * nothing of it. `some` leaves a 1/64 of it, or half.
 */
function spaceOf(group: readonly Note[]): { from: Ticks; all: Ticks; some: Ticks } {
  const from = nth(group, 0).start;
  const all = Math.min(...group.map((note) => note.start + note.length - from));
  return { from, all, some: Math.floor(all - Math.min(all / 2, TOGETHER)) };
}
