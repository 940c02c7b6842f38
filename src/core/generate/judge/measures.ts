import { barTicks, beatTicks } from "../../time";
import type { Note } from "../../score";
import { CHORD_MEASURES } from "./chord-measures";
import { topLine } from "../common/idea";
import { percent, type Measure, type Measured } from "./measure";
import { barAt } from "../rhythm/places";
import { syncopation } from "../rhythm/syncopation";
import { mean, nth } from "../../base";

const intervals = (notes: readonly Note[]) => {
  const top = topLine(notes);
  return top.slice(1).map((note, i) => Math.abs(note.pitch - nth(top, i).pitch));
};

/** What ideas are sorted by and liked for. One entry adds one. */
export const MEASURES: readonly Measure[] = [
  {
    id: "density",
    label: "Notes",
    of: ({ notes, bars }) => notes.length / bars,
    text: (x) => `${x.toFixed(1)} a bar`,
  },
  {
    id: "syncopation",
    label: "Syncopation",
    of: ({ notes, bars, metre }) => {
      const bar = barTicks(metre);
      const beats = Math.round(bar / beatTicks(metre));
      const inBars = Array.from({ length: bars }, (_, b) =>
        notes.filter(({ start }) => barAt(start, bar) === b),
      );
      const each = inBars.map((own) =>
        syncopation(
          own.map(({ start }) => Math.max(0, start) % bar),
          { bar, beats, cell: beatTicks(metre) / 4 },
        ),
      );
      return mean(each);
    },
    text: (x) => `${x.toFixed(1)} a bar`,
  },
  {
    id: "repeats",
    label: "Bars alike",
    of: ({ notes, bars, metre }) => {
      const bar = barTicks(metre);
      const seen = new Map<string, number>();
      for (let b = 0; b < bars; b++) {
        const sign = notes
          .filter(({ start }) => barAt(start, bar) === b)
          .map(({ start }) => Math.round((start - b * bar) / 30))
          .join();
        seen.set(sign, (seen.get(sign) ?? 0) + 1);
      }
      return bars > 1 ? (bars - seen.size) / (bars - 1) : 0;
    },
    text: percent,
  },
  {
    id: "compass",
    label: "Compass",
    line: true,
    of: ({ notes }) => {
      const pitches = notes.map(({ pitch }) => pitch);
      return pitches.length > 0 ? Math.max(...pitches) - Math.min(...pitches) : 0;
    },
    text: (x) => `${x.toFixed(0)} st`,
  },
  {
    id: "height",
    label: "Height",
    line: true,
    of: ({ notes }) => mean(topLine(notes).map(({ pitch }) => pitch)),
    text: (x) => `about ${x.toFixed(0)}`,
  },
  {
    id: "steps",
    label: "By step",
    line: true,
    of: ({ notes }) => mean(intervals(notes).map((by) => (by > 0 && by <= 2 ? 1 : 0))),
    text: percent,
  },
  {
    id: "leaps",
    label: "Leaps",
    line: true,
    of: ({ notes }) => mean(intervals(notes).map((by) => (by > 4 ? 1 : 0))),
    text: percent,
  },
  {
    id: "length",
    label: "Long notes",
    line: true,
    of: ({ notes, metre }) => mean(notes.map(({ length }) => length / beatTicks(metre))),
    text: (x) => `${x.toFixed(2)} beats`,
  },
];

/** All measures of an idea: of a line or beat in the order of `MEASURES`, of chords in that of `CHORD_MEASURES`. */
export const measuresOf = (what: Measured): number[] =>
  (what.chords ? CHORD_MEASURES : MEASURES).map((measure) => measure.of(what));
