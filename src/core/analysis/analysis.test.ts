import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import { bell, seeded } from "../base";
import { grid, gridTicks, lineAt, msToTicks } from "../time";
import { createProject } from "../score";
import { describeFit, fitGrid } from "./fit-grid";
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

  const fitOf = (starts: readonly number[]) =>
    fitGrid(starts.map((start, i) => n(start, { id: `h${i}` })))!;

  it("names what stands beside a grid by the grid it is on", () => {
    // Sixteenth triplets, none of them on a line of eighth triplets but each beat's first.
    const off = [0, 160, 480, 800, 960, 1120, 1440, 1760, 1920, 2080, 2400, 2720];
    expect(fitOf(off)).toMatchObject({ name: "1/16T", fit: 1, misfits: [] });
  });

  it("names swing with its percentage, within 1.5 at up to 10 ms, and the triplet feel as such", () => {
    for (const value of [8, 16]) {
      for (const swing of [54, 58, 62]) {
        const line = grid(value, "straight", swing);
        const starts = Array.from({ length: 32 }, (_, i) => lineAt(line, i));
        expect(fitOf(starts)).toMatchObject({ name: `1/${value} ${swing}%`, fit: 1 });
        let right = 0;
        for (let seed = 0; seed < 100; seed++) {
          const chance = seeded(seed);
          const noise = () => Math.round((chance() * 2 - 1) * msToTicks(10, 170));
          const { grid: found } = fitOf(starts.map((start) => start + noise()));
          if (found.value === value && Math.abs(found.swing - swing) <= 1.5) right++;
        }
        expect(right, `1/${value} ${swing} %`).toBeGreaterThanOrEqual(95);
      }
    }
    expect(fitOf([0, 640, 960, 1600, 1920, 2560, 2880, 3520]).name).toBe("1/8 66.67%");
  });

  it("calls straight sixteenths straight, unevenly played as they are: in at least 99 of 100", () => {
    for (const [ms, count] of [
      [0, 32],
      [5, 32],
      [7.5, 64],
      [10, 64],
      [10, 32],
    ] as const) {
      let swung = 0;
      for (let seed = 1; seed <= 300; seed++) {
        const random = seeded(seed);
        const notes = Array.from({ length: count }, (_, i) =>
          n(i * 240 + Math.round((random() * 2 - 1) * ms * 1.92), { id: `n${i}` } as never),
        );
        if (fitGrid(notes)?.grid.swing !== 50) swung++;
      }
      expect(swung, `${ms} ms`).toBeLessThanOrEqual(3);
    }
  });

  it("tells a beat that has a grid of its own, by bar and beat", () => {
    const eighths = Array.from({ length: 16 }, (_, i) => i * 480);
    const beat = 3840 + 3 * 960;
    const rest = eighths.filter((t) => t < beat || t >= beat + 960);
    const mixed = fitOf([...rest, ...[0, 1, 2, 3, 4, 5].map((i) => beat + i * 160)]);
    expect(describeFit(mixed)).toBe("1/8, bar 2 beat 4 in 1/16T");
    expect(mixed).toMatchObject({ name: "1/8", fit: 1, misfits: [] });
    // In 6/8 beats are dotted quarters.
    const bars = Array.from({ length: 24 }, (_, i) => i * 480);
    const six = [
      ...bars.filter((t) => t < 1440 || t >= 2880),
      ...Array.from({ length: 9 }, (_, i) => 1440 + i * 160),
    ];
    const fit = fitGrid(
      six.map((start) => n(start)),
      { beats: 6, unit: 8 },
    )!;
    expect(describeFit(fit)).toBe("1/8, bar 1 beat 2 in 1/16T");
  });

  it("counts the hits it explains, and says when none is clear", () => {
    const hits = [0, 240, 480, 720, 960, 1200, 1440, 1680, 1920, 2160 + 95];
    expect(fitOf(hits)).toMatchObject({ name: "1/16", fit: 0.9, misfits: ["h9"], clear: true });
    let clear = 0;
    for (let seed = 0; seed < 200; seed++) {
      const chance = seeded(seed);
      if (fitOf(Array.from({ length: 12 }, () => Math.floor(chance() * 7680))).clear) clear++;
    }
    expect(clear).toBeLessThan(20);
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
