import { describe, expect, it } from "vitest";
import { makeNote } from "../score";
import { FAMILIES } from "./kit";
import { TRANSFORMS, transformOf } from "./registry";
import { exampleOf, sketchOf } from "./sketch";

const IDS = Object.keys(TRANSFORMS);
const context = { tempo: 120 };

describe("what a transform does, in little", () => {
  it.each(IDS)("%s changes its own example, and all of it is seen", (id) => {
    const { notes, params, context } = exampleOf(id);
    const { effect } = transformOf(id).apply(notes, params, context);
    expect(effect.added + effect.removed + effect.moved + effect.changed).toBeGreaterThan(0);
    const { before, after } = sketchOf(id);
    for (const { x, end, y } of [...before, ...after]) {
      expect(x).toBeGreaterThanOrEqual(0);
      expect(end).toBeLessThanOrEqual(1);
      expect(end).toBeGreaterThan(x);
      expect(y).toBeGreaterThanOrEqual(0);
      expect(y).toBeLessThanOrEqual(1);
    }
  });

  it("every family has some, and each transform is of one", () => {
    const families = IDS.map((id) => transformOf(id).family);
    expect([...new Set(families)].sort()).toEqual([...FAMILIES].sort());
  });

  it("a roll is four hits for one, side by side", () => {
    const { before, after } = sketchOf("roll");
    expect(before).toHaveLength(4);
    expect(after).toHaveLength(16);
    expect(after.slice(0, 4).map(({ x }) => Math.round(x * 3360))).toEqual([0, 120, 240, 360]);
  });

  it("shows selected notes; where the values it begins with change nothing, those of its example", () => {
    const note = makeNote({ id: "a", start: 960, length: 960, pitch: 60 });
    const { defaults } = transformOf("transpose");
    const { before, after } = sketchOf("transpose", { notes: [note], context, params: defaults });
    expect(before).toMatchObject([{ x: 0, end: 1, y: 1 }]);
    expect(after).toMatchObject([{ x: 0, end: 1, y: 0 }]);
    const up = { ...defaults, octaves: -1 };
    expect(sketchOf("transpose", { notes: [note], context, params: up }).after[0]!.y).toBe(1);
  });

  it("left and right are seen as heights", () => {
    const heights = sketchOf("alternate-pan").after.map(({ y }) => y);
    expect(heights.slice(0, 4)).toEqual([1, 0, 1, 0]);
  });

  it("what cannot be shown on the notes is shown on the example", () => {
    const notes = Array.from({ length: 30 }, (_, i) =>
      makeNote({ id: `n${i}`, start: i * 960, length: 960, pitch: 60 }),
    );
    const params = { ...transformOf("echo").defaults, number: 99 };
    expect(sketchOf("echo", { notes, context, params })).toEqual(sketchOf("echo"));
  });
});
