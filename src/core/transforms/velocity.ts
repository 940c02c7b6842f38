import type { Note } from "../score";
import { param, params } from "../params";
import { clampVelocity } from "../base";
import { beatOf, counted, defineTransform, type TransformContext } from "./kit";

const WAYS = ["set", "add", "scale", "ramp", "level", "accent"] as const;
const only = (...is: string[]) => ({ when: { param: "way", is } });

/**
 * Set to a value, add, scale, ramp from first to last onset, level toward the mean, or accent the
 * chosen beats. Never below 1 or above 127.
 */
export const velocity = defineTransform({
  label: "Velocity",
  family: "feel",
  example: { params: { way: "ramp", from: 20, to: 127 } },
  about: "Sets, adds, scales, ramps, levels or accents velocities",
  schema: params({
    way: param.choice("Mode", WAYS),
    value: param.whole("Velocity", 1, 127, only("set")),
    add: param.whole("Add", -126, 126, only("add", "accent")),
    scale: param.number("Scale", 0, 400, { unit: "%", ...only("scale") }),
    from: param.whole("First", 1, 127, only("ramp")),
    to: param.whole("Last", 1, 127, only("ramp")),
    amount: param.number("Level by", 0, 100, { unit: "%", ...only("level") }),
    beats: param.beats("Beats", only("accent")),
  }),
  defaults: {
    way: "ramp" as string,
    value: 96,
    add: 20,
    scale: 100,
    from: 40,
    to: 120,
    amount: 50,
    beats: "1",
  },
  run(selected, p, context) {
    const change = changeOf(selected, p, context);
    let [low, high] = [127, 1];
    const replaced = selected.map((note) => {
      const after = clampVelocity(change(note));
      low = Math.min(low, after);
      high = Math.max(high, after);
      return after === note.velocity ? note : { ...note, velocity: after };
    });
    return {
      replaced,
      sentence: (counts) =>
        selected.length === 0
          ? "Nothing to make louder or softer"
          : `${counted(counts.changed, context)} of ${selected.length} changed, now ${low === high ? `at ${low}` : `from ${low} to ${high}`}`,
    };
  },
});

interface Settings {
  way: string;
  value: number;
  add: number;
  scale: number;
  from: number;
  to: number;
  amount: number;
  beats: string;
}

function changeOf(
  selected: readonly Note[],
  p: Settings,
  context: TransformContext,
): (note: Note) => number {
  switch (p.way) {
    case "set":
      return () => p.value;
    case "add":
      return (note) => note.velocity + p.add;
    case "scale":
      return (note) => (note.velocity * p.scale) / 100;
    case "ramp": {
      const starts = selected.map((note) => note.start);
      const first = starts.reduce((a, b) => Math.min(a, b), Infinity);
      const last = starts.reduce((a, b) => Math.max(a, b), -Infinity);
      const share = (note: Note) => (last === first ? 0 : (note.start - first) / (last - first));
      return (note) => p.from + share(note) * (p.to - p.from);
    }
    case "level": {
      const mean = selected.reduce((sum, note) => sum + note.velocity, 0) / selected.length;
      return (note) => note.velocity + ((mean - note.velocity) * p.amount) / 100;
    }
    default: {
      const beats = new Set(p.beats.split(" ").filter(Boolean).map(Number));
      const onBeat = (note: Note) => beats.has(beatOf(note, context) ?? NaN);
      return (note) => note.velocity + (beats.size > 0 && onBeat(note) ? p.add : 0);
    }
  }
}
