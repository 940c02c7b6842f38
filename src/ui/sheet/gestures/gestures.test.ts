import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, partOf } from "@/core/score";
import { layOut, type Row } from "../../geometry/layout";
import { xOf, type View } from "../../geometry/view";
import { startEntry } from "../../commands/perform/entry";
import { scrollRows } from "../../commands/notes/rows";
import { rateLine } from "../../geometry/rate-line";
import { createSession } from "../../state/store";
import { Gestures, type Point } from "./gestures";

const DRUMS = { pattern: "a", track: "drums" };
const view: View = { width: 800, height: 600, zoom: 0.1, scroll: 0, top: 0 };
const rowOf = (project: Project, pitch: number, track = "drums") =>
  layOut(project, "a", { open: new Set(["drums", "bass"]) })
    .blocks.find((b) => b.track.id === track)!
    .rows.find((r) => r.pitch === pitch)!;

function setUp(project = createProject({ bars: 2 })) {
  const store = createSession("x", project);
  const layout = () => {
    const { project: now, pattern, open, windows } = store.getState();
    return layOut(now, pattern, { open, windows });
  };
  const heard: number[] = [];
  const scrolls: number[] = [];
  const readouts: string[] = [];
  const gestures = new Gestures({
    store,
    layout,
    view: () => view,
    hear: (pitch) => heard.push(pitch),
    scrollRows: (way) => way !== 0 && scrolls.push(way),
    readout: (text) => text !== null && readouts.push(text),
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
  return { store, gestures, point, notes, heard, scrolls, readouts, layout };
}

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

  it("leave no gap however fast: events 90 pixels apart paint and erase 32 of 32 steps", () => {
    const { store, gestures, point, notes } = setUp(createProject({ bars: 2 }));
    const hat = rowOf(store.getState().project, 42);
    const stroke = (erase: boolean) => {
      gestures.down(point(hat, 0, { erase }));
      for (let tick = 0; tick < 7440; tick += 900) gestures.move(point(hat, tick, { erase }));
      gestures.move(point(hat, 7440, { erase }));
      gestures.up();
    };
    stroke(false);
    expect(notes()).toHaveLength(32);
    stroke(true);
    expect(notes()).toEqual([]);
    expect(store.getState().history.past).toHaveLength(2);
  });

  it("that are cancelled in the middle leave nothing, not in the history either", () => {
    const { store, gestures, point, notes } = setUp();
    const hat = rowOf(store.getState().project, 42);
    gestures.down(point(hat, 0));
    gestures.move(point(hat, 960));
    expect(notes().length).toBeGreaterThan(2);
    gestures.cancel();
    expect([notes(), store.getState().history.past]).toEqual([[], []]);
    expect(gestures.active).toBe(false);
  });

  it("move a group that stops at the edges as one and comes back in its shape", () => {
    const hits = [0, 240, 720].map((start) => makeNote({ id: `h${start}`, start, pitch: 42 }));
    const { store, gestures, point, notes } = setUp(
      edits.setNotes(createProject({ bars: 1 }), DRUMS, hits),
    );
    const hat = rowOf(store.getState().project, 42);
    store.getState().setTrack("drums", 42);
    store.getState().select(hits.map((hit) => hit.id));
    const starts = () => notes().map((note) => note.start);
    gestures.down(point(hat, 240));
    gestures.move(point(hat, 9000));
    expect(starts()).toEqual([2880, 3120, 3600]);
    gestures.move(point(hat, -5000));
    expect(starts()).toEqual([-480, -240, 240]);
    gestures.move(point(hat, 240));
    gestures.up();
    expect(starts()).toEqual([0, 240, 720]);
  });

  it("select in a box over two tracks what lies in both, and drag all of it as one", () => {
    let project = createProject({ bars: 2 });
    const at = (id: string, start: number, pitch: number) => makeNote({ id, start, pitch });
    project = edits.setNotes(project, DRUMS, [at("d1", 480, 42), at("d2", 4800, 42)]);
    const bass = { pattern: "a", track: "bass" };
    project = edits.setNotes(project, bass, [at("b1", 960, 40), at("b2", 4800, 40)]);
    const { store, gestures, point, notes, layout, readouts } = setUp(project);
    store.getState().setOpen("bass", true);
    const rows = (track: string) => layout().blocks.find((one) => one.track.id === track)!.rows;
    const hat = rows("drums").find((row) => row.pitch === 42)!;
    const low = rows("bass").find((row) => row.pitch === 40)!;
    const [upper, lower] = hat.y < low.y ? [hat, low] : [low, hat];
    gestures.down(point(upper, 240, { shift: true }));
    gestures.move(point(lower, 1440, { shift: true }));
    gestures.up();
    const held = () => {
      const { track, selection, beside } = store.getState();
      return new Map([
        [track, [...selection]],
        ...[...beside].map(([id, ids]) => [id, [...ids]] as const),
      ]);
    };
    expect([held().get("drums"), held().get("bass")]).toEqual([["d1"], ["b1"]]);
    expect(store.getState().announcement).toBe("2 notes in 2 tracks selected");
    // By a note of the other track: all go, the hit keeps its lane.
    gestures.down(point(low, 960));
    gestures.move(point(low, 1200));
    gestures.up();
    expect(notes("drums").map((one) => [one.start, one.pitch])).toEqual([
      [720, 42],
      [4800, 42],
    ]);
    // 40 is none of the key: dragged along, it stays between its neighbours.
    expect(notes("bass").map((one) => [one.start, one.pitch])).toEqual([
      [1200, 40],
      [4800, 40],
    ]);
    expect(readouts.at(-1)).toMatch(/hits keep their lanes/);
    // With toggle one more; with alt and shift a box takes away again, on every track.
    gestures.down(point(hat, 4800, { toggle: true }));
    gestures.up();
    expect(held().get("drums")).toEqual(["d1", "d2"]);
    gestures.down(point(upper, 240, { shift: true, alt: true }));
    gestures.move(point(lower, 1440, { shift: true, alt: true }));
    gestures.up();
    expect([held().get("drums"), held().get("bass") ?? []]).toEqual([["d2"], []]);
  });

  it("select in a box only of the current track while tracks are locked", () => {
    let project = createProject({ bars: 2 });
    const at = (id: string, start: number, pitch: number) => makeNote({ id, start, pitch });
    project = edits.setNotes(project, DRUMS, [at("d1", 480, 42)]);
    project = edits.setNotes(project, { pattern: "a", track: "bass" }, [at("b1", 960, 40)]);
    const { store, gestures, point, layout } = setUp(project);
    store.getState().setOpen("bass", true);
    store.getState().setTools({ locked: true });
    const rows = layout().blocks.flatMap((block) => block.rows);
    gestures.down(
      point(
        rows.find((row) => row.pitch === 42 && row.lane)!,
        0,
        { shift: true },
      ),
    );
    gestures.move({ ...point(rows.at(-1)!, 1440, { shift: true }) });
    gestures.up();
    expect([...store.getState().selection]).toEqual(["d1"]);
    expect(store.getState().beside.size).toBe(0);
  });

  it("put one hit in the place of another, say so, and leave it when dragged on", () => {
    const hits = [0, 480].map((start) => makeNote({ id: `h${start}`, start, pitch: 42 }));
    const { store, gestures, point, notes } = setUp(
      edits.setNotes(createProject({ bars: 1 }), DRUMS, hits),
    );
    const hat = rowOf(store.getState().project, 42);
    gestures.down(point(hat, 0));
    gestures.move(point(hat, 480));
    expect(notes().map((note) => [note.id, note.start])).toEqual([["h0", 480]]);
    expect(store.getState().announcement).toBe("Move; 1 note at the same place replaced");
    gestures.move(point(hat, 960));
    expect(notes().map((note) => note.id)).toEqual(["h480", "h0"]);
    gestures.move(point(hat, 480));
    gestures.up();
    expect(notes().map((note) => note.id)).toEqual(["h0"]);
    store.getState().undo();
    expect(notes()).toEqual(hits);
  });

  it("delete a hit with a click, and erase by dragging", () => {
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
    const rows = layOut(store.getState().project, "a", store.getState()).blocks[1]!.rows;
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

  it("keep melodic rows where they are: three notes drawn at one height have one pitch", () => {
    const { gestures, point, notes, layout } = setUp();
    const heightOf = () => layout().blocks[1]!.rows.map((row) => `${row.pitch}@${row.y}`);
    const before = heightOf();
    const { y } = point(layout().blocks[1]!.rows[2]!, 0);
    for (const tick of [0, 960, 1920]) {
      gestures.down({ ...point(layout().blocks[1]!.rows[0]!, tick), y });
      gestures.up();
    }
    expect(new Set(notes("bass").map((note) => note.pitch)).size).toBe(1);
    expect(heightOf()).toEqual(before);
  });

  it("hold a note dragged over the rows at the highest, and ask for more to be scrolled in", () => {
    const { store, gestures, point, notes, layout, scrolls } = setUp();
    const { rows } = layout().blocks[1]!;
    gestures.down(point(rows[4]!, 0));
    gestures.up();
    gestures.down(point(rows[4]!, 0));
    gestures.move({ ...point(rows[0]!, 0), y: rows[0]!.y - 20 });
    expect(notes("bass")[0]!.pitch).toBe(rows[0]!.pitch);
    expect(scrolls).toEqual([1]);
    // A row is scrolled in under a pointer that rests: the note goes along.
    scrollRows(store, "bass", 1);
    gestures.again();
    const higher = layout().blocks[1]!.rows[0]!.pitch;
    expect(higher).toBeGreaterThan(rows[0]!.pitch);
    expect(notes("bass")[0]!.pitch).toBe(higher);
    gestures.up();
    expect(store.getState().history.past).toHaveLength(2);
  });

  it("put the caret of step entry where the sheet is clicked, and draw nothing", () => {
    const { store, gestures, point, notes, layout } = setUp();
    store.getState().setTrack("bass");
    startEntry(store);
    const row = layout().blocks[1]!.rows[3]!;
    gestures.down(point(row, 1920));
    gestures.up();
    expect(notes("bass")).toEqual([]);
    expect(store.getState().caret).toEqual({ pitch: row.pitch, tick: 1920 });
  });

  it("move hits to other lanes, as a group that stops at the first and the last", () => {
    const hits = [
      makeNote({ id: "k", start: 0, pitch: 36 }),
      makeNote({ id: "s", start: 480, pitch: 38 }),
    ];
    const { store, gestures, point, notes, readouts } = setUp(
      edits.setNotes(createProject({ bars: 1 }), DRUMS, hits),
    );
    const row = (pitch: number) => rowOf(store.getState().project, pitch);
    store.getState().setTrack("drums", 36);
    store.getState().select(["k", "s"]);
    const where = () => Object.fromEntries(notes().map((note) => [note.id, note.pitch]));
    const lanes = store.getState().project.tracks[0]!.lanes.map((lane) => lane.pitch);
    // Sideways first, then down a lane.
    gestures.down(point(row(36), 0));
    gestures.move(point(row(36), 240));
    gestures.move(point(row(lanes[1]!), 0));
    gestures.up();
    expect(where()).toEqual({ k: lanes[1], s: lanes[lanes.indexOf(38) + 1] });
    expect(readouts.at(-1)).toBe("Snare");
    // With alt straight up, past the first lane: the group stops as one.
    gestures.down(point(row(lanes[1]!), 0));
    gestures.move({ ...point(row(36), 0, { alt: true }), y: -400 });
    gestures.up();
    expect(where()).toEqual({ k: 36, s: 38 });
  });

  it("take a double click for one: it neither deletes and re-creates nor the other way round", () => {
    const { store, gestures, point, notes } = setUp();
    const kick = rowOf(store.getState().project, 36);
    const click = (more = {}) => {
      gestures.down(point(kick, 0, more));
      gestures.up();
    };
    click();
    click({ again: true });
    expect(notes()).toHaveLength(1);
    click();
    click({ again: true });
    expect(notes()).toEqual([]);
    // But a hit that was just put can be dragged at once.
    click();
    gestures.down(point(kick, 0, { again: true }));
    gestures.move(point(kick, 960));
    gestures.up();
    expect(notes().map((note) => note.start)).toEqual([960]);
    // And where a stroke was cancelled, or a hit deleted, the next stroke begins at once.
    gestures.down(point(kick, 0));
    gestures.move(point(kick, 480));
    gestures.cancel();
    gestures.down(point(kick, 0, { again: true }));
    gestures.up();
    expect(notes().map((note) => note.start)).toEqual([0, 960]);
    click();
    gestures.down(point(kick, 0, { again: true }));
    gestures.move(point(kick, 480));
    gestures.up();
    expect(notes().map((note) => note.start)).toEqual([0, 480, 960]);
  });

  it("tell beside the pointer what a drag does", () => {
    const { gestures, point, readouts, layout } = setUp();
    const rows = layout().blocks[1]!.rows;
    gestures.down(point(rows[4]!, 0));
    gestures.up();
    gestures.down(point(rows[4]!, 0));
    gestures.move(point(rows[3]!, 480));
    expect(readouts.at(-1)).toMatch(/^\+\d st · \S+ · 1\.1\.3 · \+1\/8$/);
    gestures.up();
  });

  it("pull the rate of a stutter over its notes, and its curve", () => {
    const note = makeNote({ id: "long", start: 0, length: 3840, pitch: 41 });
    const step = { id: "s", transform: "stutter", on: true, params: {}, scope: null };
    const bass = { pattern: "a", track: "bass" };
    const base = edits.addStep(
      edits.setNotes(createProject({ bars: 1 }), bass, [note]),
      bass,
      step,
    );
    const { store, gestures, layout, readouts } = setUp(base);
    store.getState().setTrack("bass");
    const line = () => rateLine(store.getState().project, layout().blocks[1], view)!;
    const params = () => partOf(store.getState().project, bass).chain[0]!.params;
    const pull = (handle: "first" | "middle" | "last", dy: number) => {
      const { x, y } = line().handles[handle];
      const at = { x, y, shift: false, alt: false, toggle: false, erase: false };
      gestures.down(at);
      gestures.move({ ...at, y: y + dy });
      gestures.up();
    };
    // From 1/32 to 1/8: faster is up.
    expect(line().handles.first.y).toBeLessThan(line().handles.last.y);
    pull("last", 40);
    expect(Number(params().last)).toBeLessThan(8);
    expect(readouts.at(-1)).toBe(`1/${String(params().last)}`);
    pull("middle", 40);
    expect(params().curve).toBe("early");
    pull("middle", -80);
    expect(params().curve).toBe("late");
    // One step of the history each, and no note was drawn.
    expect(store.getState().history.past).toHaveLength(3);
    expect(partOf(store.getState().project, bass).notes).toHaveLength(1);
    store
      .getState()
      .edit("ms", (p) =>
        edits.changeStep(p, bass, "s", { params: { unit: "ms", firstMs: 47, lastMs: 188 } }),
      );
    pull("first", 10);
    expect(Number(params().firstMs)).toBeGreaterThan(47);
  });

  it("select with a box, add and take out with the modifier", () => {
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
    store.getState().replace(theirs);
    gestures.move(point(hat, 720));
    gestures.up();
    expect(notes().map((n) => [n.id, n.start])).toEqual([
      ["mine", 720],
      ["theirs", 960],
    ]);
  });

  it("cut all that a stroke with the cut crosses, each once, as one step of the history", () => {
    const chord = [48, 51, 55].map((pitch) =>
      makeNote({ id: `c${pitch}`, start: 0, length: 1920, pitch }),
    );
    const { store, gestures, point, notes } = setUp(
      edits.addNotes(createProject({ bars: 2 }), { pattern: "a", track: "bass" }, chord),
    );
    store.getState().setTrack("bass", 51);
    store.getState().setTools({ tool: "cut" });
    const rows = () => [48, 51, 55].map((pitch) => rowOf(store.getState().project, pitch, "bass"));
    const [low, , high] = rows();
    // From above the chord to below it, in one fast movement.
    gestures.down(point(high!, 950, { y: high!.y - 1 }));
    gestures.move(point(low!, 970));
    gestures.move(point(low!, 970, { y: low!.y + low!.height + 4 }));
    gestures.up();
    expect(notes("bass").map(({ start, length, pitch }) => [start, length, pitch])).toEqual([
      ...[48, 51, 55].map((pitch) => [0, 960, pitch]),
      ...[48, 51, 55].map((pitch) => [960, 960, pitch]),
    ]);
    expect(store.getState().history.past).toHaveLength(1);
    expect(store.getState().announcement).toBe("3 notes cut in two");
    expect(store.getState().selection.size).toBe(6);
    store.getState().undo();
    expect(notes("bass")).toHaveLength(3);
    // A press on one that is selected cuts all that are, as before.
    store.getState().select(chord.map(({ id }) => id));
    gestures.down(point(low!, 1200));
    gestures.up();
    expect(notes("bass")).toHaveLength(6);
  });
});
