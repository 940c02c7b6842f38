import { test } from "vitest";
import { type Random, seeded } from "@/core/base";
import { type Grid, grid, gridTicks, lineAt, msToTicks } from "@/core/time";
import { fitGrid } from "@/core/analysis";

const TRIALS = 300;
const NOISE = [0, 5, 10, 20];

/** Starts of two bars on a grid, two in three of its steps hit by chance. */
function hitsOn(grid: Grid, random: Random): number[] {
  const starts: number[] = [];
  for (let i = 0; lineAt(grid, i) < 2 * 3840; i++)
    if (random() < 2 / 3) starts.push(lineAt(grid, i));
  return starts;
}

/** A base grid with one beat, by chance, wholly on another. */
function withBeat(base: Grid, other: Grid, random: Random): number[] {
  const beat = Math.floor(random() * 8) * 960;
  const rest = hitsOn(base, random).filter((t) => t < beat || t >= beat + 960);
  const count = 960 / gridTicks(other);
  return [...rest, ...Array.from({ length: count }, (_, i) => beat + i * gridTicks(other))];
}

const same = (a: Grid, b: Grid) =>
  gridTicks(a) === gridTicks(b) && Math.abs(a.swing - b.swing) <= 1.5;

/** Parts with a known answer, by what they are called. */
const CLASSES: [name: string, answer: Grid, make: (random: Random) => number[]][] = [
  ...[
    grid(4),
    grid(8),
    grid(16),
    grid(32),
    grid(8, "triplet"),
    grid(16, "triplet"),
    grid(8, "dotted"),
    grid(16, "straight", 54),
    grid(16, "straight", 58),
    grid(16, "straight", 62),
    grid(8, "straight", 58),
  ].map((grid): [string, Grid, (random: Random) => number[]] => {
    const mark = grid.kind === "triplet" ? "T" : grid.kind === "dotted" ? "." : "";
    const swing = grid.swing === 50 ? "" : ` ${grid.swing} %`;
    return [`1/${grid.value}${mark}${swing}`, grid, (random) => hitsOn(grid, random)];
  }),
  ["1/16, a beat of 1/32", grid(16), (random) => withBeat(grid(16), grid(32), random)],
  ["1/8, a beat of 1/16T", grid(8), (random) => withBeat(grid(8), grid(16, "triplet"), random)],
];

/** Share of parts whose grid is found, each hit moved by up to ± so many ms (even spread) at 90–170 BPM. */
function hitRate([, answer, make]: (typeof CLASSES)[number], ms: number): number {
  let right = 0;
  for (let trial = 0; trial < TRIALS; trial++) {
    const random = seeded(trial * 31 + answer.value + answer.swing);
    const noise = msToTicks(ms, 90 + 80 * random());
    const notes = make(random).map((start, i) => ({
      id: String(i),
      start: Math.round(start + (random() * 2 - 1) * noise),
    }));
    const fit = fitGrid(notes);
    if (fit && same(fit.grid, answer)) right++;
  }
  return right / TRIALS;
}

test("fitGrid finds the grid a part was made on", () => {
  console.log("fitGrid, share of 300 parts of two bars whose grid is found, at 90 to 170 BPM");
  console.log("  (wanted: 95 % at ±10 ms, 75 % at ±20 ms)".padEnd(26));
  console.log(`  ${"".padEnd(24)}${NOISE.map((ms) => `±${ms} ms`.padStart(9)).join("")}`);
  for (const one of CLASSES) {
    const rates = NOISE.map((ms) => `${(100 * hitRate(one, ms)).toFixed(0)} %`.padStart(9));
    console.log(`  ${one[0].padEnd(24)}${rates.join("")}`);
  }
});
