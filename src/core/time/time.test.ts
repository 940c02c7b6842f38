import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  GRID_KINDS,
  GRID_VALUES,
  driftOf,
  grid,
  gridLines,
  gridName,
  gridTicks,
  lineAt,
  nearestLine,
  stepGrid,
} from "./grid";
import { formatLength, formatPosition, parseLength, parsePosition } from "./position";
import { nearestNoteValue, tempoTable } from "./tempo-table";
import { PPQ, barTicks, boundary, msPerTick, msToTicks, ticksToMs } from "./ticks";

const anyGrid = fc
  .tuple(
    fc.constantFrom(...GRID_VALUES),
    fc.constantFrom(...GRID_KINDS),
    fc.integer({ min: 50, max: 75 }),
  )
  .map(([value, kind, swing]) => grid(value, kind, swing));

describe("ticks", () => {
  it("gives the worked values: 1/32 at 160 BPM is 46.875 ms, 1/8 is 187.5 ms", () => {
    // Source: tempo arithmetic, a quarter lasts 60 000 / BPM ms.
    expect(ticksToMs(PPQ / 8, 160)).toBeCloseTo(46.875, 10);
    expect(ticksToMs(PPQ / 2, 160)).toBeCloseTo(187.5, 10);
    expect(msPerTick(120) * PPQ).toBeCloseTo(500, 10);
    expect(msToTicks(500, 120)).toBeCloseTo(PPQ, 10);
  });

  it("measures bars of any metre", () => {
    expect(barTicks({ beats: 4, unit: 4 })).toBe(3840);
    expect(barTicks({ beats: 7, unit: 8 })).toBe(3360);
    expect(barTicks({ beats: 12, unit: 8 })).toBe(5760);
  });

  it("divides without errors adding up: 7 in a beat ends on the beat", () => {
    const lines = Array.from({ length: 8 }, (_, i) => boundary(i, 7, PPQ));
    expect(lines[0]).toBe(0);
    expect(lines[7]).toBe(PPQ);
    lines.forEach((line, i) => expect(Math.abs(line - (i * PPQ) / 7)).toBeLessThanOrEqual(0.5));
  });
});

describe("grid", () => {
  it("has the cells the model names", () => {
    expect(gridTicks(grid(16))).toBe(240);
    expect(gridTicks(grid(16, "triplet"))).toBe(160);
    expect(gridTicks(grid(128, "triplet"))).toBe(20);
    expect(gridTicks(grid(8, "dotted"))).toBe(720);
    expect(gridTicks(grid(16, "off"))).toBe(1);
  });

  it("puts swung lines at the share of the pair: 66.67 % is exactly the triplet", () => {
    const swung = gridLines(grid(16, "straight", 66.67), 0, PPQ);
    const triplets = gridLines(grid(8, "triplet"), 0, PPQ);
    expect(swung).toEqual([0, 320, 480, 800]);
    // Every second swung line is the last triplet of its half beat (1/16T counted from each 1/8).
    expect(swung[1]).toBe(triplets[1]);
    expect(gridLines(grid(16, "straight", 57), 0, 480)).toEqual([0, 274]);
  });

  it("names grids as the trade writes them", () => {
    expect(gridName(grid(16, "triplet"))).toBe("1/16T");
    expect(gridName(grid(8, "dotted"))).toBe("1/8.");
    expect(gridName(grid(8, "off"))).toBe("off");
    expect(gridName(grid(16, "straight", 57))).toBe("1/16 57%");
  });

  it("sends a tick half way between two lines to the later one", () => {
    expect(nearestLine(grid(16), 120)).toBe(1);
    expect(nearestLine(grid(16), 119)).toBe(0);
    expect(nearestLine(grid(16), -120)).toBe(0);
  });

  it("finds a line that no other line is nearer than, for any grid and tick", () => {
    fc.assert(
      fc.property(anyGrid, fc.integer({ min: -480, max: 100_000 }), (g, tick) => {
        const i = nearestLine(g, tick);
        const distance = Math.abs(lineAt(g, i) - tick);
        expect(distance).toBeLessThanOrEqual(Math.abs(lineAt(g, i - 1) - tick));
        expect(distance).toBeLessThanOrEqual(Math.abs(lineAt(g, i + 1) - tick));
        expect(lineAt(g, i) + driftOf(g, tick)).toBe(tick);
      }),
    );
  });

  it("lists each line once, however a stretch of time is cut", () => {
    const at = fc.integer({ min: 0, max: 8000 });
    fc.assert(
      fc.property(
        anyGrid.filter((g) => g.kind !== "off"),
        at,
        at,
        at,
        (g, a, b, c) => {
          const [from, middle, to] = [a, b, c].sort((x, y) => x - y) as [number, number, number];
          const cut = [...gridLines(g, from, middle), ...gridLines(g, middle, to)];
          expect(cut).toEqual(gridLines(g, from, to));
        },
      ),
    );
  });

  it("steps finer and coarser and stays at the ends", () => {
    expect(stepGrid(grid(16), 1).value).toBe(32);
    expect(stepGrid(grid(128), 1).value).toBe(128);
    expect(stepGrid(grid(1), -1).value).toBe(1);
    expect(stepGrid(grid(8, "off"), 1).kind).toBe("straight");
  });
});

describe("positions and lengths", () => {
  it("are counted from 1", () => {
    expect(formatPosition(0, { beats: 4, unit: 4 })).toBe("1.1.1");
    expect(formatPosition(3840 + 2 * 960 + 14, { beats: 4, unit: 4 })).toBe("2.3.1+14");
    expect(formatPosition(3360, { beats: 7, unit: 8 })).toBe("2.1.1");
  });

  it("are read back as they are written", () => {
    const metres = fc.constantFrom(
      { beats: 4, unit: 4 },
      { beats: 7, unit: 8 },
      { beats: 5, unit: 4 },
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), metres, (tick, metre) => {
        expect(parsePosition(formatPosition(tick, metre), metre)).toBe(tick);
      }),
    );
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), (ticks) => {
        expect(parseLength(formatLength(ticks))).toBe(ticks);
      }),
    );
  });

  it("refuse what is none", () => {
    for (const text of ["", "x", "1..2", "1.2.3+x"]) {
      expect(parsePosition(text, { beats: 4, unit: 4 })).toBeNull();
    }
    for (const text of ["", "1/0", "1/7", "0", "-3"]) expect(parseLength(text)).toBeNull();
    expect(parsePosition("2", { beats: 4, unit: 4 })).toBe(3840);
    expect(formatLength(160)).toBe("1/16T");
    expect(formatLength(720)).toBe("1/8.");
  });
});

describe("tempo table", () => {
  it("agrees with the arithmetic for every row", () => {
    // Source: tempo arithmetic; straight 1/n lasts 4/n quarters, triplet two thirds, dotted 3/2.
    const factor = { straight: 1, triplet: 2 / 3, dotted: 3 / 2 };
    for (const bpm of [60, 84, 120, 140, 174.5]) {
      const rows = tempoTable(bpm);
      expect(rows).toHaveLength(24);
      for (const row of rows) {
        expect(row.ms).toBeCloseTo((60_000 / bpm) * (4 / row.value) * factor[row.kind], 8);
        expect(row.hz * row.ms).toBeCloseTo(1000, 8);
      }
    }
  });

  it("is read backwards: ms to the nearest value, with its error", () => {
    // At 120 BPM a quarter lasts 500 ms, a dotted eighth 375, an eighth triplet 166.7.
    expect(nearestNoteValue(500, 120)!.row.name).toBe("1/4");
    expect(nearestNoteValue(500, 120)!.error).toBeCloseTo(0, 9);
    expect(nearestNoteValue(380, 120)!.row.name).toBe("1/8.");
    expect(nearestNoteValue(380, 120)!.error).toBeCloseTo(1.333, 2);
    expect(nearestNoteValue(165, 120)!.row.name).toBe("1/8T");
    expect(nearestNoteValue(165, 120)!.error).toBeCloseTo(-1, 2);
    for (const row of tempoTable(97)) expect(nearestNoteValue(row.ms, 97)!.row.name).toBe(row.name);
    for (const wrong of [0, -5, NaN, Infinity, 1e9])
      expect(nearestNoteValue(wrong, 120)).toBeNull();
  });

  it("refuses a tempo that is none", () => {
    for (const bpm of [0, -1, NaN, Infinity]) expect(() => tempoTable(bpm)).toThrow(RangeError);
  });
});
