import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type NumberChange, changedTogether, readNumber, readNumberChange } from "./number-change";

const read = (text: string) => readNumber(text, "ms");

describe("what is typed into a field of a number", () => {
  it.each<[string, NumberChange | null]>([
    ["+20", { how: "shift", by: 20 }],
    ["-20", { how: "shift", by: -20 }],
    [" - 20 ms ", { how: "shift", by: -20 }],
    ["+0,3 s", { how: "shift", by: 300 }],
    ["*1.5", { how: "scale", by: 1.5 }],
    ["x2", { how: "scale", by: 2 }],
    ["/4", { how: "scale", by: 0.25 }],
    ["/0", null],
    ["20", { how: "set", to: 20 }],
    ["=20", { how: "set", to: 20 }],
    ["=-20", { how: "set", to: -20 }],
    ["−20 ms", { how: "set", to: -20 }],
    ["20 %", null],
    ["+-20", null],
    ["--20", null],
    ["*", null],
    ["", null],
    ["=", null],
    ["a lot", null],
    ["1e3", null],
  ])("“%s”", (text, change) => {
    expect(readNumberChange(text, read)).toEqual(change);
  });

  it("is relative with a minus before it, whatever the field's range is", () => {
    const down = fc.double({ min: 0.01, max: 1000, noNaN: true });
    fc.assert(
      fc.property(down, (by) => {
        const text = `-${by.toFixed(2)}`;
        expect(readNumberChange(text, read)).toEqual({ how: "shift", by: Number(text) });
      }),
    );
  });
});

describe("several values changed at once", () => {
  const range = { min: 1, max: 127 };

  it("keep their differences, and stop together at the ends", () => {
    expect(changedTogether([60, 80, 100], { how: "shift", by: 5 }, range)).toEqual([65, 85, 105]);
    expect(changedTogether([60, 80, 120], { how: "shift", by: 20 }, range)).toEqual([67, 87, 127]);
    expect(changedTogether([5, 80], { how: "shift", by: -20 }, range)).toEqual([1, 76]);
  });

  it("keep their ratios, and stop together at the ends", () => {
    expect(changedTogether([60, 80, 100], { how: "scale", by: 0.5 }, range)).toEqual([30, 40, 50]);
    expect(changedTogether([60, 120], { how: "scale", by: 2 }, range)).toEqual([63.5, 127]);
    expect(changedTogether([2, 100], { how: "scale", by: 0 }, range)).toEqual([1, 50]);
    expect(changedTogether([-50, 20], { how: "scale", by: 4 }, { min: -100, max: 100 })).toEqual([
      -100, 40,
    ]);
  });

  it("are one value when it is set", () => {
    expect(changedTogether([60, 80], { how: "set", to: 200 }, range)).toEqual([127, 127]);
  });

  it("keep their order and the range at every change", () => {
    const values = fc.array(fc.integer({ min: 1, max: 127 }), { minLength: 1, maxLength: 20 });
    const change = fc.oneof(
      fc.record({ how: fc.constant("shift" as const), by: fc.integer({ min: -200, max: 200 }) }),
      fc.record({
        how: fc.constant("scale" as const),
        by: fc.double({ min: 0, max: 9, noNaN: true }),
      }),
    );
    fc.assert(
      fc.property(values, change, (before, by) => {
        const after = changedTogether(before, by, range);
        expect(Math.min(...after)).toBeGreaterThanOrEqual(1 - 1e-9);
        expect(Math.max(...after)).toBeLessThanOrEqual(127 + 1e-9);
        const kept =
          by.how === "shift" ? (a: number, b: number) => a - b : (a: number, b: number) => a / b;
        before.forEach((value, i) => {
          expect(kept(after[i]!, after[0]!)).toBeCloseTo(kept(value, before[0]!), 6);
        });
      }),
    );
  });
});
