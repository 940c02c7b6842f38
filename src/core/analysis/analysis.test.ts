import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { createProject } from "../score/create";
import * as edits from "../score/edits";
import { grid, gridTicks } from "../time/grid";
import { msToTicks } from "../time/ticks";
import { bell, seeded } from "../random";
import { fitGrid } from "./fit-grid";
import { thumbnail } from "./thumbnail";
import { timingOf } from "./timing";

describe("timing", () => {
  it("measures drift, its mean and its spread", () => {
    // At 125 BPM a tick is exactly half a millisecond.
    const timing = timingOf([n(0), n(250), n(478), n(730)], grid(16), 125);
    expect(timing.drifts.map((d) => d.ticks)).toEqual([0, 10, -2, 10]);
    expect(timing.drifts.map((d) => d.ms)).toEqual([0, 5, -1, 5]);
    expect(timing.mean).toBeCloseTo(2.25, 10);
    expect(timing.spread).toBeCloseTo(Math.sqrt((2.25 ** 2 + 2.75 ** 2 * 2 + 3.25 ** 2) / 4), 10);
    expect(timing.off).toBe(3);
  });

  it("is even for nothing", () => {
    expect(timingOf([], grid(16), 120)).toEqual({ drifts: [], mean: 0, spread: 0, off: 0 });
  });
});

describe("fitGrid", () => {
  const cases: [string, number[]][] = [
    ["1/4", [0, 960, 1920, 2880]],
    ["1/8", [0, 480, 960, 1440, 2400]],
    ["1/16", [0, 240, 720, 960, 1680, 2160]],
    ["1/32", [0, 120, 240, 600, 960, 1080]],
    ["1/8T", [0, 320, 640, 960, 1280, 1920, 2240]],
    ["1/16T", [0, 160, 320, 480, 800, 960, 1120]],
  ];
  const random = seeded(11);

  for (const [name, starts] of cases) {
    it(`knows ${name}, exact and played with up to 10 ms of noise at 120 BPM`, () => {
      expect(fitGrid(starts.map((start) => n(start)))).toMatchObject({ name, fit: 1, misfits: [] });
      // Twice over and more, as a part of several bars would have it.
      const played = [0, 3840, 7680].flatMap((bar) =>
        starts.map((start) => n(bar + start + Math.round(bell(random) * 19))),
      );
      const fit = fitGrid(played)!;
      expect(fit.name).toBe(name);
      expect(fit.fit).toBeGreaterThan(0.5);
    });
  }

  it("tells straight, triplet and dotted apart with up to ± 20 ms of noise at 120 BPM", () => {
    for (const [value, kind] of [
      [8, "straight"],
      [16, "straight"],
      [8, "triplet"],
      [16, "triplet"],
      [8, "dotted"],
      [128, "straight"],
    ] as const) {
      const made = grid(value, kind);
      const cell = gridTicks(made);
      for (const ms of [0, 5, 10, 20]) {
        // Noise wider than the steps themselves leaves nothing to find.
        if (msToTicks(ms, 120) > cell / 4) continue;
        let right = 0;
        for (let trial = 0; trial < 40; trial++) {
          const chance = seeded(trial + value);
          const notes = [];
          for (let i = 0; i * cell < 7680; i++) {
            if (chance() > 2 / 3) continue;
            const off = (chance() * 2 - 1) * msToTicks(ms, 120);
            notes.push(n(Math.round(i * cell + off), { id: `${i}` }));
          }
          if (gridTicks(fitGrid(notes)!.grid) === cell) right++;
        }
        expect(right, `1/${value} ${kind} ±${ms} ms`).toBeGreaterThanOrEqual(38);
      }
    }
  });

  it("names hits that fit no line, and nothing for nothing", () => {
    const hits = [0, 960, 1920, 2880, 3840, 4800, 5760, 6720, 7680 + 400].map((start) => n(start));
    expect(fitGrid(hits)).toMatchObject({ name: "1/4", misfits: ["n8080-60"] });
    expect(fitGrid([])).toBeNull();
  });
});

describe("thumbnail", () => {
  it("shows the real notes, repeats included, inside its frame", () => {
    let project = createProject({ bars: 2 });
    const drums = { pattern: "a", track: "drums" };
    project = edits.setNotes(project, drums, [
      n(0, { pitch: 36, velocity: 127 }),
      n(960, { pitch: 38 }),
    ]);
    project = edits.setPartLength(project, drums, 3840);
    const { rows, bars, marks } = thumbnail(project);
    expect(bars).toBe(2);
    expect(rows).toBe(2);
    expect(marks.map((m) => m.at).sort()).toEqual([0, 0.125, 0.5, 0.625]);
    expect(marks[0]).toMatchObject({ row: 0, size: 1, track: 0, kind: "drums" });
    for (const mark of marks) expect(mark.at + mark.width).toBeLessThanOrEqual(1);
  });

  it("stays small for a large project", () => {
    const many = Array.from({ length: 5000 }, (_, i) => ({ ...n(i), id: `n${i}` }));
    const project = edits.setNotes(createProject(), { pattern: "a", track: "bass" }, many);
    expect(thumbnail(project).marks.length).toBeLessThanOrEqual(400);
  });
});
