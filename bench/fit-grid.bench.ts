import { test } from "vitest";
import { fitGrid, grid, gridTicks, msToTicks, type Grid } from "@/core";
import { seeded } from "@/core/random";

const GRIDS: Grid[] = [
  grid(8),
  grid(16),
  grid(8, "triplet"),
  grid(16, "triplet"),
  grid(8, "dotted"),
  grid(16, "dotted"),
];
const TRIALS = 300;

/**
 * Parts with a known answer: two bars, two in three steps of a grid hit by chance but enough of
 * them off the coarser grids, each moved by up to ± so many ms (even spread) at 120 BPM.
 */
function hitRate(g: Grid, ms: number): number {
  const noise = msToTicks(ms, 120);
  let right = 0;
  for (let trial = 0; trial < TRIALS; trial++) {
    const random = seeded(trial * 31 + g.value);
    const cell = gridTicks(g);
    const steps = Math.floor((2 * 3840) / cell);
    const notes = [];
    for (let i = 0; i < steps; i++) {
      if (random() > 2 / 3) continue;
      const start = Math.round(i * cell + (random() * 2 - 1) * noise);
      notes.push({ id: String(i), start });
    }
    const fit = fitGrid(notes);
    if (fit && gridTicks(fit.grid) === cell) right++;
  }
  return right / TRIALS;
}

test("fitGrid finds the grid a part was made on", () => {
  console.log("fitGrid, share of parts whose grid is found (300 each, two bars, 120 BPM)");
  for (const ms of [0, 5, 10, 20]) {
    const rates = GRIDS.map((g) => {
      const mark = g.kind === "triplet" ? "T" : g.kind === "dotted" ? "." : "";
      return `1/${g.value}${mark} ${(100 * hitRate(g, ms)).toFixed(0)} %`;
    });
    console.log(`  ±${ms} ms`.padEnd(10), rates.join("   "));
  }
});
