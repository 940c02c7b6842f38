import { describe, expect, it } from "vitest";
import { columnRuns } from "./column-runs";

describe("runs of columns", () => {
  it("are the columns in which something stands, side by side ones together, none of them beyond the row", () => {
    expect(columnRuns([], 10)).toEqual([]);
    expect(columnRuns([-1, 10, 400], 10)).toEqual([]);
    expect(columnRuns([3.9, 0.2, 1, 3.1, 9.99], 10)).toEqual([
      [0, 2],
      [3, 4],
      [9, 10],
    ]);
    const all = Array.from({ length: 5000 }, (_, i) => (i * 960) / 5000);
    expect(columnRuns(all, 960)).toEqual([[0, 960]]);
  });
});
