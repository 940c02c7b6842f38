import { describe, expect, it } from "vitest";
import { GRID_VALUES, type Grid, grid, lineAt } from "../../time";
import { askedOver } from "../figures.test-helper";
import { generateIdeas } from "../ideas";
import type { IdeaOptions } from "../options";
import { PHRASE_DEFAULTS } from "../phrase/options";
import { swungTick } from "./swung";

const MIX: IdeaOptions["values"] = [
  { value: 8, kind: "straight", weight: 2 },
  { value: 8, kind: "triplet", weight: 1 },
  { value: 16, kind: "straight", weight: 1 },
];
const lines = (swing: Grid | null, more: Partial<IdeaOptions> = {}) =>
  Array.from(
    { length: 60 },
    (_, seed) =>
      generateIdeas({
        ...askedOver(4),
        phrases: PHRASE_DEFAULTS,
        values: MIX,
        seed,
        swing,
        ...more,
      })[0]!.notes,
  );
const GRIDS = [
  grid(8, "straight", 66),
  grid(16, "straight", 58),
  grid(8, "straight", 75),
  grid(16, "triplet", 60),
];

describe("a place on a swung grid", () => {
  it("is on the grid's lines where it was on those of the straight one, and in order between", () => {
    for (const value of GRID_VALUES)
      for (const swing of [50, 54, 66, 75]) {
        const [own, plain] = [grid(value, "straight", swing), grid(value)];
        for (let i = 0; i < 9; i++) expect(swungTick(own, lineAt(plain, i))).toBe(lineAt(own, i));
      }
    let last = -1;
    for (let tick = 0; tick < 3840; tick += 60) {
      const at = swungTick(grid(8, "straight", 66), tick);
      // Thirds of a pair are triplets: they stay.
      if (tick % 960 === 0 || (tick * 3) % 960 === 0) expect(at).toBe(tick);
      else expect(at).toBeGreaterThan(last);
      if ((tick * 3) % 960 !== 0) last = at;
    }
    expect(swungTick(grid(8, "off"), 480)).toBe(480);
  });
});

describe("lines on a swung grid", () => {
  it("are the straight ones with late off-steps, triplets as they are, and none over another", () => {
    for (const on of GRIDS)
      for (const role of ["melody", "bass", "stabs"] as const) {
        const straight = lines(null, { role });
        lines(on, { role }).forEach((notes, seed) => {
          const before = straight[seed]!;
          expect(notes.map(({ start }) => start)).toEqual(
            before.map(({ start }) => swungTick(on, start)),
          );
          expect(notes.map(({ pitch }) => pitch)).toEqual(before.map(({ pitch }) => pitch));
          for (const { start, length } of notes) {
            expect(length).toBeGreaterThan(0);
            const next = notes.find((other) => other.start > start);
            expect(start + length).toBeLessThanOrEqual(next?.start ?? 4 * 3840);
          }
        });
        if (on.kind === "straight")
          expect(
            lines(on, { role })
              .flat()
              .some(({ start }, i) => start !== straight.flat()[i]!.start),
          ).toBe(true);
      }
  });

  it("keep what was given where it was: a rhythm, bars, what is followed", () => {
    const on = grid(8, "straight", 66);
    const [given] = lines(null);
    const starts = (more: Partial<IdeaOptions>) => lines(on, more)[7]!.map(({ start }) => start);
    expect(starts({ rhythm: given! })).toEqual(given!.map(({ start }) => start));
    const inFirst = (all: readonly number[]) => all.filter((start) => start < 3840);
    expect(inFirst(starts({ keepBars: [0], kept: given! }))).toEqual(
      inFirst(given!.map((n) => n.start)),
    );
    expect(starts({ follow: { how: "follow", hits: [0, 480, 1440, 3840] } })).toEqual([
      0, 480, 1440, 3840,
    ]);
    expect(() => lines({ ...on, swing: 80 })).toThrow(/swing\.swing/);
  });
});
