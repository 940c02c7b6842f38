import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { grid } from "@/core/time";
import { type Project, createProject, makeNote } from "@/core/score";
import { cellOf } from "./cells";
import { hitTest, notesInBox } from "./hit";
import { layOut, type Row } from "./layout";
import { tickOf, xOf, type View } from "./view";

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
