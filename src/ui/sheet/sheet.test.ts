import { describe, expect, it } from "vitest";
import { createProject, edits, grid, makeNote, partOf, type Project } from "@/core";
import { ACTIONS } from "../actions/actions";
import { createSession, place } from "../session/store";
import { cellOf, describeCaret, moveCaret, nudgeChosen, toggleAtCaret, walk } from "./editing";
import { transformNow } from "../commands/transforming";
import { Gestures, type Point } from "./gestures";
import { hitTest, notesInBox } from "../geometry/hit";
import { layOut, type Row } from "../geometry/layout";
import { tickOf, xOf, type View } from "../geometry/view";

const DRUMS = { pattern: "a", track: "drums" };
const view: View = { width: 800, height: 600, zoom: 0.1, scroll: 0, top: 0 };
const rowOf = (project: Project, pitch: number, track = "drums") =>
  layOut(project, "a", new Set(["drums", "bass"]))
    .blocks.find((b) => b.track.id === track)!
    .rows.find((r) => r.pitch === pitch)!;

function setUp(project = createProject({ bars: 2 })) {
  const store = createSession("x", project);
  const layout = () => {
    const { project: now, pattern, open } = store.getState();
    return layOut(now, pattern, open);
  };
  const heard: number[] = [];
  const gestures = new Gestures({
    store,
    layout,
    view: () => view,
    hear: (pitch) => heard.push(pitch),
    showBox: () => undefined,
  });
  const point = (row: Row, tick: number, more: Partial<Point> = {}): Point => ({
    x: xOf(view, tick),
    y: row.y + row.height / 2,
    shift: false,
    alt: false,
    toggle: false,
    erase: false,
    ...more,
  });
  const notes = (track = "drums") =>
    partOf(store.getState().project, { pattern: "a", track }).notes;
  return { store, gestures, point, notes, heard };
}

describe("the layout", () => {
  it("places tracks and rows one under another, without overlap", () => {
    const { blocks, height } = layOut(createProject(), "a", new Set(["drums", "bass"]));
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
    const layout = layOut(project, "a", new Set(["drums", "bass"]));
    const row = rowOf(project, 38);
    const hit = hitTest(layout, view, xOf(view, 970), row.y + 3)!;
    expect([hit.row.pitch, hit.note?.id]).toEqual([38, "x"]);
    expect(hitTest(layout, view, xOf(view, 2000), row.y + 3)!.note).toBeNull();
    expect(tickOf(view, xOf(view, 777))).toBeCloseTo(777, 9);
    expect(notesInBox(layout.blocks[0]!, view, { x0: 0, y0: 0, x1: 800, y1: 600 })).toEqual(["x"]);
  });

  it("finds the cell of a tick in a row's own loop", () => {
    const row = { period: 1200, grid: grid(16) } as Row;
    expect(cellOf(row, 1210)).toBe(0);
    expect(cellOf(row, 1150)).toBe(0);
    expect(cellOf(row, 1000)).toBe(960);
  });
});

describe("gestures", () => {
  it("paint across steps and lanes as one step of the history", () => {
    const { store, gestures, point, notes } = setUp();
    const hat = rowOf(store.getState().project, 42);
    gestures.down(point(hat, 0));
    for (let tick = 0; tick <= 960; tick += 60) gestures.move(point(hat, tick));
    gestures.up();
    expect(notes().map((n) => n.start)).toEqual([0, 240, 480, 720, 960]);
    expect(store.getState().history.past).toHaveLength(1);
    store.getState().undo();
    expect(notes()).toEqual([]);
  });

  it("take a hit away with a click, and erase by dragging", () => {
    const { store, gestures, point, notes } = setUp();
    const kick = rowOf(store.getState().project, 36);
    gestures.down(point(kick, 0));
    gestures.up();
    expect(notes()).toHaveLength(1);
    gestures.down(point(kick, 0));
    gestures.up();
    expect(notes()).toHaveLength(0);
    store.getState().undo();
    gestures.down(point(kick, -20, { erase: true }));
    gestures.move(point(kick, 10, { erase: true }));
    gestures.up();
    expect(notes()).toHaveLength(0);
  });

  it("set velocity by dragging a hit up or down, and the next hit takes it over", () => {
    const { store, gestures, point, notes } = setUp();
    const kick = rowOf(store.getState().project, 36);
    gestures.down(point(kick, 0));
    gestures.up();
    const from = point(kick, 0);
    gestures.down(from);
    gestures.move({ ...from, y: from.y + 30 });
    gestures.up();
    expect(notes()[0]!.velocity).toBe(66);
    gestures.down(point(kick, 960));
    gestures.up();
    expect(notes()[1]!.velocity).toBe(66);
  });

  it("move hits by whole steps, keeping their drift", () => {
    const start = edits.setNotes(createProject(), DRUMS, [
      makeNote({ id: "late", start: 254, pitch: 42 }),
    ]);
    const { gestures, point, notes, store } = setUp(start);
    const hat = rowOf(store.getState().project, 42);
    gestures.down(point(hat, 254));
    gestures.move(point(hat, 254 + 500));
    gestures.up();
    expect(notes()[0]!.start).toBe(734);
  });

  it("draw, lengthen and move melodic notes, by degrees of the key", () => {
    const { store, gestures, point, notes } = setUp(
      createProject({ key: { root: 0, scale: "major" } }),
    );
    const rows = layOut(store.getState().project, "a", store.getState().open).blocks[1]!.rows;
    const [upper, lower] = [rows[3]!, rows[5]!];
    gestures.down(point(lower, 0));
    gestures.move(point(lower, 960));
    gestures.up();
    expect(notes("bass")[0]).toMatchObject({ start: 0, length: 960, pitch: lower.pitch });
    gestures.down(point(lower, 955));
    gestures.move(point(lower, 955 + 480));
    gestures.up();
    expect(notes("bass")[0]!.length).toBe(1440);
    gestures.down(point(lower, 0));
    gestures.move(point(upper, 480));
    gestures.up();
    expect(notes("bass")[0]).toMatchObject({ start: 480, pitch: upper.pitch });
    expect(store.getState().history.past).toHaveLength(3);
  });

  it("select with a box, add and take away with the modifier", () => {
    const { store, gestures, point, notes } = setUp();
    const kick = rowOf(store.getState().project, 36);
    for (const tick of [0, 960, 1920]) {
      gestures.down(point(kick, tick));
      gestures.up();
    }
    gestures.down({ ...point(kick, -90, { shift: true }), y: kick.y + 1 });
    gestures.move({ ...point(kick, 1200, { shift: true }), y: kick.y + kick.height - 1 });
    gestures.up();
    expect(store.getState().selection.size).toBe(2);
    gestures.down(point(kick, 0, { toggle: true }));
    expect(store.getState().selection).toEqual(new Set([notes()[1]!.id]));
  });

  it("keep what another tab changed during a drag", () => {
    const start = edits.setNotes(createProject(), DRUMS, [
      makeNote({ id: "mine", start: 240, pitch: 42 }),
    ]);
    const { store, gestures, point, notes } = setUp(start);
    const hat = rowOf(start, 42);
    gestures.down(point(hat, 240));
    gestures.move(point(hat, 480));
    const theirs = edits.addNotes(store.getState().project, DRUMS, [
      makeNote({ id: "theirs", start: 960, pitch: 36 }),
    ]);
    store.setState({ project: theirs });
    gestures.move(point(hat, 720));
    gestures.up();
    expect(notes().map((n) => [n.id, n.start])).toEqual([
      ["mine", 720],
      ["theirs", 960],
    ]);
  });
});

describe("the keyboard", () => {
  it("moves the caret along the lane's own grid, puts hits, rolls and nudges them, and says so", () => {
    const { store, notes } = setUp();
    store.getState().takeTrack("drums", 42);
    moveCaret(store, 1, 0);
    moveCaret(store, 1, 0);
    expect(store.getState().caret.tick).toBe(480);
    toggleAtCaret(store);
    expect(store.getState().said).toBe("Closed hat, 1.1.3, velocity 96");
    transformNow(store, "roll", { count: 3 }, "Roll");
    expect(notes().map((n) => [n.start, n.length])).toEqual([
      [480, 80],
      [560, 80],
      [640, 80],
    ]);
    nudgeChosen(store, { ticks: -1 });
    expect(notes().map((n) => n.start)).toEqual([479, 559, 639]);
    walk(store, 1);
    transformNow(store, "roll", { count: 2 }, "Roll");
    expect(notes()).toHaveLength(4);
    expect(new Set(notes().map((n) => n.id)).size).toBe(4);
    moveCaret(store, 0, -99);
    expect(describeCaret(store.getState())).toMatch(/^Kick, /);
  });

  it("does not leave the pattern", () => {
    const { store } = setUp(createProject({ bars: 1 }));
    for (let i = 0; i < 40; i++) moveCaret(store, 1, 0);
    expect(store.getState().caret.tick).toBeLessThan(3840);
    for (let i = 0; i < 80; i++) moveCaret(store, -1, 0);
    expect(store.getState().caret.tick).toBe(0);
    expect(place(store.getState())).toEqual(DRUMS);
  });
});

describe("a project without tracks", () => {
  it("can be opened, and every action leaves it whole", () => {
    const { store } = setUp(createProject({ tracks: [] }));
    const engine = { isPlaying: false, play: () => Promise.resolve(), stop: () => undefined };
    for (const { id, run } of ACTIONS) {
      if (id === "theme") continue;
      expect(() => run({ store, engine: engine as never }), id).not.toThrow();
    }
    expect(store.getState().project.tracks).toEqual([]);
  });
});

describe("the actions", () => {
  it("have names and keys of their own", () => {
    for (const field of ["id", "label"] as const) {
      expect(new Set(ACTIONS.map((action) => action[field])).size).toBe(ACTIONS.length);
    }
    const keys = ACTIONS.flatMap((action) => action.keys);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
