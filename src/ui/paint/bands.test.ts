import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { grid } from "@/core/time";
import { type Project, createProject, makeNote } from "@/core/score";
import { changedBands, touches } from "./bands";
import type { Colours } from "../controls/colours";
import { layOut } from "../geometry/layout";
import type { Scene } from "./scene";
import type { View } from "../geometry/view";

const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };
const view: View = { width: 800, height: 600, zoom: 0.1, scroll: 0, top: 0 };
const colours = {} as Colours;
const OPEN = new Set(["drums", "bass"]);

const scene = (project: Project, more: Partial<Scene> = {}): Scene => ({
  project,
  layout: layOut(project, "a", { open: OPEN }),
  view,
  colours,
  beside: new Map(),
  selection: new Set(),
  track: "drums",
  before: null,
  otherTracks: false,
  ...more,
});
const hit = (pitch: number, start = 0) => makeNote({ id: `${pitch}-${start}`, start, pitch });
const base = edits.setNotes(createProject(), DRUMS, [hit(36), hit(42)]);

/** Pitches of the drum lanes that would be drawn again. */
const lanesDrawn = (before: Scene, now: Scene) => {
  const bands = changedBands(before, now);
  return (
    bands &&
    now.layout.blocks[0]!.rows.filter((row) =>
      touches(bands, row.y + 2, row.y + row.height - 2),
    ).map((row) => row.pitch)
  );
};

describe("what is drawn again", () => {
  it("is nothing when nothing changed", () => {
    expect(changedBands(scene(base), scene(base))).toEqual([]);
  });

  it("is the one lane that was edited", () => {
    expect(lanesDrawn(scene(base), scene(edits.addNotes(base, DRUMS, [hit(38, 960)])))).toEqual([
      38,
    ]);
    expect(
      lanesDrawn(scene(base), scene(edits.deleteNotes(base, DRUMS, new Set(["42-0"])))),
    ).toEqual([42]);
    const other = edits.changeLane(base, "drums", "lane-46", { grid: grid(32) });
    expect(lanesDrawn(scene(base), scene(other))).toEqual([46]);
    const muted = edits.changeLane(base, "drums", "lane-36", { mute: true });
    expect(lanesDrawn(scene(base), scene(muted))).toEqual([36]);
  });

  it("is the lane of a hit that was selected, and of the one that is not any more", () => {
    const [a, b] = [new Set(["36-0"]), new Set(["42-0"])];
    expect(lanesDrawn(scene(base, { selection: a }), scene(base, { selection: b }))).toEqual([
      36, 42,
    ]);
  });

  it("is the whole of a melodic track when one of its notes changes, and no drum lane", () => {
    const inside = edits.setNotes(base, BASS, [hit(38), hit(40, 480)]);
    const after = edits.setNotes(inside, BASS, [hit(38), hit(41, 480)]);
    const [before, now] = [scene(inside), scene(after)];
    const bands = changedBands(before, now);
    const bass = now.layout.blocks[1]!;
    if (bands) {
      expect(bands).toHaveLength(1);
      expect(bands[0]!.top).toBeLessThanOrEqual(bass.y);
      expect(bands[0]!.bottom).toBeGreaterThanOrEqual(bass.y + bass.height);
    } else expect(bass.height).not.toBe(before.layout.blocks[1]!.height);
  });

  it("is everything for another view, theme, metre or layout, and for the first time", () => {
    expect(changedBands(null, scene(base))).toBeNull();
    expect(changedBands(scene(base), scene(base, { view: { ...view, scroll: 5 } }))).toBeNull();
    expect(changedBands(scene(base), scene(base, { colours: { ...colours } }))).toBeNull();
    expect(
      changedBands(scene(base), scene(edits.setMetre(base, { beats: 7, unit: 8 }))),
    ).toBeNull();
    const folded = { ...scene(base), layout: layOut(base, "a", { open: new Set(["drums"]) }) };
    expect(changedBands(scene(base), folded)).toBeNull();
  });
});
