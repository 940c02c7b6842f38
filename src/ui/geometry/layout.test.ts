import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { grid, stepTicks } from "@/core/time";
import { type Project, createProject, makeNote } from "@/core/score";
import { cellOf } from "./cells";
import { hitTest, notesInBox } from "./hit";
import { layOut, type Row } from "./layout";
import { tickOf, timeView, xOf, type View } from "./view";

const DRUMS = { pattern: "a", track: "drums" };
const view: View = { width: 800, height: 600, zoom: 0.1, scroll: 0, top: 0 };
const rowOf = (project: Project, pitch: number, track = "drums") =>
  layOut(project, "a", { open: new Set(["drums", "bass"]) })
    .blocks.find((b) => b.track.id === track)!
    .rows.find((r) => r.pitch === pitch)!;

describe("the layout", () => {
  it("places tracks and rows one under another, without overlap", () => {
    const { blocks, height } = layOut(createProject(), "a", { open: new Set(["drums", "bass"]) });
    for (const block of blocks) {
      for (const row of block.rows) {
        expect(row.y).toBeGreaterThanOrEqual(block.y);
        expect(row.y + row.height).toBeLessThanOrEqual(block.y + block.height);
      }
    }
    expect(blocks[1]!.y).toBeGreaterThanOrEqual(blocks[0]!.y + blocks[0]!.height);
    expect(height).toBeGreaterThan(blocks[1]!.y);
  });

  it("shows the key's degrees, others only where they are used, and pads without a lane", () => {
    let project = createProject({ key: { root: 2, scale: "dorian" } });
    const bass = { pattern: "a", track: "bass" };
    project = edits.setNotes(project, bass, [
      makeNote({ id: "a", start: 0, pitch: 38 }),
      makeNote({ id: "b", start: 0, pitch: 39 }),
    ]);
    project = edits.setNotes(project, DRUMS, [makeNote({ id: "c", start: 0, pitch: 81 })]);
    expect(rowOf(project, 39, "bass")).toMatchObject({ inKey: false });
    expect(rowOf(project, 38, "bass")).toMatchObject({ inKey: true, root: true });
    expect(rowOf(project, 42, "bass")).toBeUndefined();
    expect(rowOf(project, 81)).toMatchObject({ name: "Open triangle", lane: null });
  });

  it("finds under the pointer what it has placed there", () => {
    const project = edits.setNotes(createProject(), DRUMS, [
      makeNote({ id: "x", start: 960, pitch: 38 }),
    ]);
    const layout = layOut(project, "a", { open: new Set(["drums", "bass"]) });
    const row = rowOf(project, 38);
    const hit = hitTest(layout, view, { x: xOf(view, 970), y: row.y + 3 })!;
    expect([hit.row.pitch, hit.note?.id]).toEqual([38, "x"]);
    expect(hitTest(layout, view, { x: xOf(view, 2000), y: row.y + 3 })!.note).toBeNull();
    expect(tickOf(view, xOf(view, 777))).toBeCloseTo(777, 9);
    expect(notesInBox(layout.blocks[0]!, view, { x0: 0, y0: 0, x1: 800, y1: 600 })).toEqual(["x"]);
  });

  it.each([0.02, 0.025, 0.04, 0.08, 0.2])(
    "finds on each step the hit of that step and no neighbour's, at %s px a tick",
    (zoom) => {
      const near = { ...view, zoom };
      const step = stepTicks(rowOf(createProject(), 42).grid);
      const project = edits.setNotes(createProject(), DRUMS, [
        makeNote({ id: "x", start: 4 * step, pitch: 42, velocity: 127 }),
        makeNote({ id: "late", start: 6.4 * step, pitch: 42, velocity: 127 }),
      ]);
      const layout = layOut(project, "a", { open: new Set(["drums"]) });
      const { y } = rowOf(project, 42);
      const at = (steps: number) =>
        hitTest(layout, near, { x: xOf(near, steps * step), y: y + 3 })!.note?.id;
      expect([3, 4, 5].map(at)).toEqual([undefined, "x", undefined]);
      // One that is late is met where it lies, and on its own step where it reaches that.
      expect([5, 6.4, 7].map(at)).toEqual([undefined, "late", undefined]);
    },
  );

  it("has room before the first bar for hits that are earlier than what is in view", () => {
    const metre = { beats: 4, unit: 4 } as const;
    const shown = (early: number, zoom: number | null, scroll = 0) => {
      const time = timeView({ zoom, scroll }, { width: 800, total: 7680, early, metre });
      return { ...view, ...time };
    };
    expect(shown(0, null).scroll).toBe(0);
    for (const early of [240, 480]) {
      for (const zoom of [null, 0.05, 0.2, 2]) {
        const seen = shown(early, zoom);
        expect(xOf(seen, -early)).toBeGreaterThanOrEqual(7 - 1e-9);
        // All of what is shown by itself is still in view.
        if (zoom === null) expect(xOf(seen, 7680)).toBeLessThanOrEqual(801);
      }
    }
    expect(shown(480, 0.2, 960).scroll).toBe(960);
  });

  it("finds the cell of a tick in a row's own loop", () => {
    const row = { period: 1200, grid: grid(16) } as Row;
    expect(cellOf(row, 1210)).toBe(0);
    // Right of the last line is its cell still; left of the first, an early hit, the first.
    expect(cellOf(row, 1150)).toBe(960);
    expect(cellOf(row, -50)).toBe(0);
    expect(cellOf({ ...row, period: 1250 } as Row, 1240)).toBe(1200);
    expect(cellOf(row, 1000)).toBe(960);
  });
});
