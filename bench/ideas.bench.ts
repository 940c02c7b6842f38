import { test } from "vitest";
import { grid } from "@/core/time";
import { scalePitches } from "@/core/pitch";
import { type Note, makeNote } from "@/core/score";
import { PHRASE_DEFAULTS, PHRASE_FORMS, generateDrumIdeas, generateIdeas } from "@/core/generate";
import {
  KEY as key,
  askedOver,
  figuresOf,
  measuredOver,
  wandering,
} from "@/core/generate/figures.test-helper";
import { report, sideBySide } from "./side-by-side";

const SEEDS = 5000;
const BARS = 8;
test("lines over 5,000 seeds, in percent", () => {
  const [base, asked] = [askedOver(BARS), measuredOver(BARS)];
  const row = (name: string, lines: readonly (readonly Note[])[]) => {
    const figures = Object.entries(figuresOf(lines, asked));
    const text = figures.map(([figure, value]) => `${figure} ${(100 * value).toFixed(1)}`);
    console.log(`${name.padEnd(16)} ${text.join("  ")}`);
  };
  const seeds = Array.from({ length: SEEDS }, (_, seed) => seed);
  for (const form of PHRASE_FORMS) {
    const phrases = { ...PHRASE_DEFAULTS, form, climax: 50, strict: 100 };
    row(
      form,
      seeds.map((seed) => generateIdeas({ ...base, seed, phrases })[0]!.notes),
    );
  }
  const first = seeds.map((seed) => generateIdeas({ ...base, seed })[0]!.notes);
  row("first version", first);
  const pitches = scalePitches(key, 57, 81);
  row(
    "by chance",
    first.map((line, seed) => wandering(line, pitches, seed) as Note[]),
  );
});

test("speed of ideas against copying", () => {
  const notes = Array.from({ length: 100_000 }, (_, i) => makeNote({ id: `n${i}`, start: i }));
  const copy = () => notes.map((note) => ({ ...note }));
  const lines = () =>
    generateIdeas({ key, bars: 8, low: 57, high: 81, count: 24, phrases: PHRASE_DEFAULTS });
  report("24 ideas of 8 bars against copying 100,000 notes", sideBySide(lines, copy), "< 5");
  const lanes = [36, 38, 42, 46].map((pitch) => ({ pitch, grid: grid(16), period: null }));
  const full = () =>
    generateDrumIdeas({ lanes, bars: 8, density: 100, count: 24, style: "straight" });
  report("drum ideas at a density of 100 against the same", sideBySide(full, copy), "< 5");
});
