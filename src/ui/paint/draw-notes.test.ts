import { beforeAll, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { type Note, createProject, makeNote } from "@/core/score";
import type { Colours } from "../controls/colours";
import { layOut } from "../geometry/layout";
import { drawSheet } from "./draw";
import type { Scene } from "./scene";

const BASS = { pattern: "a", track: "bass" };
const colours = {
  text: "TEXT",
  sheet: "SHEET",
  quiet: "QUIET",
  tracks: Array(8).fill("INK"),
} as unknown;

/** What is drawn, written down: fills and strokes with the ink and strength they are drawn in. */
class Pen {
  fillStyle = "";
  strokeStyle = "";
  globalAlpha = 1;
  readonly drawn: { what: string; ink: string; alpha: number; shapes: number }[] = [];
  readonly clips: number[][] = [];
  private rects: number[] = [];
  private note(what: string, ink: string, path?: FakePath) {
    this.drawn.push({ what, ink, alpha: this.globalAlpha, shapes: path?.shapes ?? 1 });
  }
  fill(path?: FakePath) {
    this.note("fill", this.fillStyle, path);
  }
  stroke(path?: FakePath) {
    this.note("stroke", this.strokeStyle, path);
  }
  fillRect() {
    this.note("rect", this.fillStyle);
  }
  rect(...box: number[]) {
    this.rects.push(...box);
  }
  clip() {
    this.clips.push(this.rects);
    this.rects = [];
  }
  beginPath() {
    this.rects = [];
  }
  save() {}
  restore() {}
  translate() {}
  fillText() {}
  setLineDash() {}
  roundRect() {}
  /** How many shapes were filled in an ink, or all. */
  shapes(what: string, ink?: string) {
    const found = this.drawn.filter((one) => one.what === what && (!ink || one.ink === ink));
    return found.reduce((sum, one) => sum + one.shapes, 0);
  }
}

class FakePath {
  shapes = 0;
  arc() {
    this.shapes++;
  }
  closePath() {
    this.shapes++;
  }
  moveTo() {}
  lineTo() {}
  rect() {}
  roundRect() {}
  quadraticCurveTo() {
    this.shapes++;
  }
  bezierCurveTo() {
    this.shapes++;
  }
}

beforeAll(() => vi.stubGlobal("Path2D", FakePath));

function draw(notes: readonly Note[], more: Partial<Scene> = {}, bands: never[] | null = null) {
  const project = edits.setNotes(createProject({ bars: 1 }), BASS, notes);
  const layout = layOut(project, "a", { open: new Set(["bass"]) });
  const scene: Scene = {
    project,
    layout,
    view: { width: 800, height: 2000, zoom: 0.2, scroll: 0, top: 0 },
    colours: colours as Colours,
    beside: new Map(),
    selection: new Set(),
    track: "bass",
    before: null,
    otherTracks: false,
    ...more,
  };
  const pen = new Pen();
  drawSheet(pen as never, scene, bands);
  return { pen, layout };
}

const line = (count: number) =>
  Array.from({ length: count }, (_, i) =>
    makeNote({ id: `n${i}`, start: Math.floor((i * 3800) / count), length: 2, pitch: 48 }),
  );

describe("painting notes", () => {
  it("draws a stone for each, in another ink outside the key, and a ring for what is selected", () => {
    const notes = [
      makeNote({ id: "in", start: 0, pitch: 48 }),
      makeNote({ id: "out", start: 960, pitch: 49 }),
    ];
    const key = { root: 0, scale: "major" };
    const project = edits.setNotes(createProject({ bars: 1, key }), BASS, notes);
    const layout = layOut(project, "a", { open: new Set(["bass"]) });
    const { pen } = draw(notes, { project, layout, selection: new Set(["out"]) });
    const stones = (ink: string) =>
      pen.drawn.filter((one) => one.what === "fill" && one.ink === ink && one.alpha === 1);
    expect(stones("INK").reduce((sum, one) => sum + one.shapes, 0)).toBe(1);
    expect(stones("TEXT").reduce((sum, one) => sum + one.shapes, 0)).toBe(1);
    expect(pen.shapes("stroke", "TEXT")).toBe(1);
  });

  it("draws repeats of a short loop paler than its first loop", () => {
    const notes = [makeNote({ id: "n", start: 0, pitch: 48 })];
    const project = edits.setPartLength(
      edits.setNotes(createProject({ bars: 1 }), BASS, notes),
      BASS,
      960,
    );
    const { pen } = draw(notes, {
      project,
      layout: layOut(project, "a", { open: new Set(["bass"]) }),
    });
    const stones = pen.drawn.filter((one) => one.what === "fill" && one.ink === "INK");
    const at = (alpha: number) =>
      stones.filter((one) => one.alpha === alpha).reduce((sum, one) => sum + one.shapes, 0);
    expect([at(1), at(0.36)]).toEqual([1, 3]);
  });

  it("draws hundreds of notes of a line as rectangles and thousands as bars, none left out", () => {
    const count = (n: number) => {
      const pen = draw(line(n)).pen;
      const empty = draw([makeNote({ id: "x", start: 0, pitch: 48 })]).pen;
      return { rects: pen.shapes("rect", "INK") - empty.shapes("rect", "INK"), pen };
    };
    expect(count(400).rects).toBe(0);
    // A stone of two rectangles and its tail.
    expect(count(600).rects).toBe(3 * 600);
    expect(count(3000).rects).toBe(3000);
    const some = draw(line(3000), { selection: new Set(["n5", "n6"]) }).pen;
    const none = draw(line(3000)).pen;
    expect(some.shapes("rect", "TEXT") - none.shapes("rect", "TEXT")).toBe(2);
  });

  it("shows where notes were in outline, of those alone that are not what they were", () => {
    const now = [
      makeNote({ id: "a", start: 0, pitch: 48 }),
      makeNote({ id: "b", start: 960, pitch: 48 }),
    ];
    const before = [now[0]!, { ...now[1]!, start: 1200 }];
    const outlines = (was: readonly Note[] | null) =>
      draw(now, { before: was }).pen.shapes("stroke", "INK");
    expect(outlines(before) - outlines(null)).toBe(1);
    expect(outlines(now) - outlines(null)).toBe(0);
  });

  it("draws nothing for no bands, and inside them alone where there are some", () => {
    expect(draw(line(3), {}, []).pen.drawn).toEqual([]);
    const bands = [{ top: 100, bottom: 130 }] as never[];
    const { pen } = draw(line(3), {}, bands);
    expect(pen.clips[0]).toEqual([0, 128, 800, 30]);
  });
});
