import { type Chord, parseChord } from "../../pitch";
import { percent, type Measure, type Measured } from "./measure";
import { nth } from "../../base";

/** The chords of a line of chords, in order. */
const chordsOf = ({ chords = [] }: Measured): Chord[] =>
  chords.flatMap(({ name }) => parseChord(name) ?? []);

/** How many of a line's chords are so, 0–1. */
const share = (is: (chord: Chord, what: Measured) => boolean) => (what: Measured) => {
  const all = chordsOf(what);
  return all.filter((chord) => is(chord, what)).length / Math.max(1, all.length);
};

/** How many of its moves go so many semitones up or down. */
const moving = (by: readonly number[]) => (what: Measured) => {
  const all = chordsOf(what);
  const goes = all.slice(1).map(({ root }, i) => (root - nth(all, i).root + 12) % 12);
  return goes.filter((way) => by.includes(way)).length / Math.max(1, goes.length);
};

/** What lines of chords are liked for. One entry adds one. */
export const CHORD_MEASURES: readonly Measure[] = [
  {
    id: "changes",
    label: "Changes",
    of: ({ chords = [], bars }) => chords.length / bars,
    text: (x) => `${x.toFixed(1)} a bar`,
  },
  {
    id: "minor",
    label: "Minor chords",
    of: share(({ tones }) => tones.includes(3) && !tones.includes(4)),
    text: percent,
  },
  { id: "sevenths", label: "Sevenths", of: share(({ tones }) => tones.length > 3), text: percent },
  {
    id: "home",
    label: "Key's own chord",
    of: share(({ root }, { key }) => root === key?.root),
    text: percent,
  },
  {
    id: "begins",
    label: "Begins with it",
    of: (what) => (chordsOf(what)[0]?.root === what.key?.root ? 1 : 0),
    text: percent,
  },
  { id: "fifths", label: "By fifths", of: moving([5, 7]), text: percent },
  { id: "steps", label: "By steps", of: moving([1, 2, 10, 11]), text: percent },
  {
    id: "again",
    label: "Chords again",
    of: ({ chords = [] }) =>
      1 - new Set(chords.map(({ name }) => name)).size / Math.max(1, chords.length),
    text: percent,
  },
];
