import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { inKey } from "@/core/pitch";
import { createProject, makeNote } from "@/core/score";
import { hitTest, outsideAt } from "./hit";
import { layOut } from "./layout";
import {
  DEGREE,
  firstWindow,
  scrolledWindow,
  windowPitches,
  windowShowing,
  type PitchWindow,
} from "./pitch-window";
import { xOf } from "./view";

const C = { root: 0, scale: "major" };
const BASS = { pattern: "a", track: "bass" };
const VIEW = { width: 800, height: 600, zoom: 0.1, scroll: 0, top: 0 };
const anyWindow: fc.Arbitrary<PitchWindow> = fc.record({
  top: fc.integer({ min: 20, max: 127 }),
  height: fc.integer({ min: 5 * DEGREE, max: 30 * DEGREE }),
});
const noteAt = (pitch: number, start = 0) => makeNote({ id: `${pitch}-${start}`, start, pitch });
const withNotes = (...pitches: number[]) =>
  edits.setNotes(
    createProject({ key: C }),
    BASS,
    pitches.map((pitch) => noteAt(pitch)),
  );

describe("a window of rows", () => {
  it("holds what fits its height, of the key or of all twelve, and scrolls to both ends", () => {
    fc.assert(
      fc.property(anyWindow, fc.boolean(), (window, all) => {
        const pitches = windowPitches(window, C, all);
        const height = pitches.reduce((sum, p) => sum + (inKey(C, p) ? DEGREE : 13), 0);
        expect(height).toBeLessThanOrEqual(window.height);
        if (!all) expect(pitches.every((p) => inKey(C, p))).toBe(true);
        const highest = windowPitches(scrolledWindow(window, 200, C, all), C, all);
        const lowest = windowPitches(scrolledWindow(window, -200, C, all), C, all);
        expect([highest[0], lowest[lowest.length - 1]]).toEqual([127, 0]);
      }),
    );
  });

  it("moves as little as is needed to show a pitch, and not at all where it is seen", () => {
    fc.assert(
      fc.property(anyWindow, fc.integer({ min: 0, max: 127 }), (window, pitch) => {
        const shown = windowPitches(windowShowing(window, pitch, C, true), C, true);
        expect(shown).toContain(pitch);
        const before = windowPitches(window, C, true);
        if (before.includes(pitch)) expect(shown).toEqual(before);
        // At an end, or next to it, since rows are not all as high.
        else expect([...shown.slice(0, 1), ...shown.slice(-2)]).toContain(pitch);
      }),
    );
  });

  it("begins over the notes of all patterns, in whole octaves, about their middle where they are many", () => {
    const track = createProject().tracks[1]!;
    const seen = (...pitches: number[]) =>
      windowPitches(firstWindow(withNotes(...pitches), track), C, false);
    // B to D over C2–C3: an octave and a row more at either end, at least nine.
    expect(seen(36, 43)).toEqual([50, 48, 47, 45, 43, 41, 40, 38, 36, 35]);
    const wide = seen(24, 60, 96);
    expect(wide).toHaveLength(16);
    expect(wide).toContain(60);
    expect(seen().length).toBeGreaterThanOrEqual(9);
  });
});

describe("rows of a melodic track", () => {
  it("stay where they are when a pitch outside the key is used, which lies between them", () => {
    const rows = (project: ReturnType<typeof withNotes>) =>
      layOut(project, "a", { open: new Set(["bass"]), windows: { bass: { top: 50, height: 170 } } })
        .blocks[1]!;
    const plain = rows(withNotes(40));
    const other = rows(withNotes(40, 42));
    expect(other.rows.filter((row) => !row.between)).toEqual(plain.rows);
    expect(other.height).toBe(plain.height);
    const [f, fs, g] = [41, 42, 43].map((p) => other.rows.find((row) => row.pitch === p)!);
    const middle = (row: typeof f) => row!.y + row!.height / 2;
    expect(middle(fs)).toBe((middle(f) + middle(g)) / 2);
    // The pointer finds the note between the rows, and beside it the row itself.
    const at = (x: number) =>
      hitTest(
        layOut(withNotes(40, 42), "a", {
          open: new Set(["bass"]),
          windows: { bass: { top: 50, height: 170 } },
        }),
        VIEW,
        { x, y: middle(fs) },
      )!;
    expect(at(xOf(VIEW, 0)).note?.pitch).toBe(42);
    expect(at(xOf(VIEW, 2000)).row.inKey).toBe(true);
  });

  it("mark what lies beyond them, so that a press there shows it", () => {
    const project = withNotes(40, 80, 20);
    const layout = layOut(project, "a", {
      open: new Set(["bass"]),
      windows: { bass: { top: 50, height: 170 } },
    });
    const block = layout.blocks[1]!;
    expect([block.above, block.below].map((list) => list.map((note) => note.pitch))).toEqual([
      [80],
      [20],
    ]);
    const [first, last] = [block.rows[0]!, block.rows[block.rows.length - 1]!];
    const bottom = last.y + last.height;
    expect(outsideAt(block, VIEW, xOf(VIEW, 0), first.y - 3)?.pitch).toBe(80);
    expect(outsideAt(block, VIEW, xOf(VIEW, 0), bottom + 3)?.pitch).toBe(20);
    expect(outsideAt(block, VIEW, xOf(VIEW, 2000), first.y - 3)).toBeNull();
    expect(outsideAt(block, VIEW, xOf(VIEW, 0), first.y + 3)).toBeNull();
  });
});
