import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote, partOf } from "@/core/score";
import { createSession } from "../../state/store";
import {
  DYNAMICS,
  leaveEntry,
  moveEntryCaret,
  placeEntry,
  press,
  rest,
  setMode,
  settle,
  startEntry,
  stepBack,
  tie,
  undoEdit,
} from "./entry";
import { endTap, givePitch, tapAt, tapped } from "./taps";

const BASS = { pattern: "a", track: "bass" };

function setUp() {
  const store = createSession("x", createProject({ bars: 2 }));
  store.getState().setTrack("bass");
  startEntry(store);
  const notes = () => partOf(store.getState().project, BASS).notes;
  const line = () => notes().map((n) => [n.start, n.length, n.pitch]);
  const key = (...pitches: number[]) => {
    for (const pitch of pitches) press(store, pitch);
    settle(store);
  };
  return { store, notes, line, key, caret: () => store.getState().caret.tick };
}

describe("step entry", () => {
  it("holds a rest on, not the note before it", () => {
    const { store, line, key, caret } = setUp();
    key(48);
    rest(store);
    tie(store);
    expect(line()).toEqual([[0, 480, 48]]);
    expect(caret()).toBe(1440);
    key(50);
    tie(store);
    expect(line()).toEqual([
      [0, 480, 48],
      [1440, 960, 50],
    ]);
  });

  it("goes back with an undo: the step is gone and the caret stands where it was", () => {
    const { store, line, key, caret } = setUp();
    key(48);
    key(50);
    undoEdit(store);
    expect([line().length, caret()]).toEqual([1, 480]);
    key(52);
    expect(line()).toEqual([
      [0, 480, 48],
      [480, 480, 52],
    ]);
    undoEdit(store);
    undoEdit(store);
    expect([line().length, caret()]).toEqual([0, 0]);
  });

  it("opens in the triplets of its row", () => {
    const project = createProject({ bars: 2 });
    const [drums, bass] = project.patterns[0]!.parts;
    const triplets = { value: 8, kind: "triplet" as const, swing: 50 };
    const pattern = { ...project.patterns[0]!, parts: [drums!, { ...bass!, grid: triplets }] };
    const store = createSession("x", { ...project, patterns: [pattern] });
    store.getState().setTrack("bass");
    startEntry(store);
    expect(store.getState().entry).toMatchObject({ value: 8, kind: "triplet" });
  });

  it("takes the keys of a chord that is being built back one by one", () => {
    const { store, line, caret } = setUp();
    store.getState().setEntry({ gather: true });
    for (const pitch of [48, 52, 55]) press(store, pitch);
    stepBack(store);
    expect(line().map(([, , pitch]) => pitch)).toEqual([48, 52]);
    press(store, 53);
    stepBack(store);
    stepBack(store);
    stepBack(store);
    expect([line(), caret()]).toEqual([[], 0]);
  });

  it("begins as it was left: value, kind, dynamics", () => {
    const { store } = setUp();
    store.getState().setEntry({ value: 16, kind: "dotted", velocity: 112, insert: true });
    leaveEntry(store);
    startEntry(store);
    expect(store.getState().entry).toMatchObject({
      value: 16,
      kind: "dotted",
      velocity: 112,
      insert: true,
    });
  });

  it("moves on what follows when inserting, and lengthens the loop so that nothing vanishes", () => {
    const { store, line } = setUp();
    const last = makeNote({ id: "last", start: 7200, pitch: 60 });
    store.getState().edit("Put", (p) => edits.addNotes(p, BASS, [last]));
    store.getState().setEntry({ value: 4, insert: true });
    press(store, 48);
    settle(store);
    expect(line().map(([start]) => start)).toEqual([0, 8160]);
    expect(store.getState().project.patterns[0]!.bars).toBe(3);
    expect(store.getState().announcement).toBe("C3 entered; the loop is now 3 bars");
  });

  it("enters hits on a kit: each pad on its lane, the others of the step left alone", () => {
    const store = createSession("y", createProject({ bars: 1 }));
    startEntry(store);
    store.getState().setEntry({ value: 16 });
    const hits = () =>
      partOf(store.getState().project, { pattern: "a", track: "drums" }).notes.map((n) => [
        n.start,
        n.pitch,
      ]);
    const key = (...pads: number[]) => {
      for (const pad of pads) press(store, pad);
      settle(store);
    };
    key(36, 42);
    rest(store);
    key(42);
    expect(hits()).toEqual([
      [0, 36],
      [0, 42],
      [480, 42],
    ]);
    expect(store.getState().announcement).toBe("Closed hat entered");
    placeEntry(store, { pitch: 38, tick: 0 });
    key(38);
    rest(store);
    rest(store);
    expect(hits()).toEqual([
      [0, 36],
      [0, 38],
      [0, 42],
      [480, 42],
    ]);
    setMode(store, "pitches");
    expect(store.getState().entry!.mode).toBe("notes");
  });

  it("enters a step for each key or chord and goes on by the value set", () => {
    const { store, line, key, caret } = setUp();
    key(48);
    store.getState().setEntry({ value: 8, kind: "triplet" });
    key(50, 53);
    store.getState().setEntry({ value: 4, kind: "dotted" });
    key(55);
    expect(line()).toEqual([
      [0, 480, 48],
      [480, 320, 50],
      [480, 320, 53],
      [800, 1440, 55],
    ]);
    expect(caret()).toBe(2240);
    // A chord is one step of the history.
    store.getState().undo();
    store.getState().undo();
    expect(line()).toEqual([[0, 480, 48]]);
  });

  it("rests, ties over rests of its own, and takes steps back one by one", () => {
    const { store, line, key, caret } = setUp();
    key(48);
    tie(store);
    rest(store);
    key(50);
    expect(line()).toEqual([
      [0, 960, 48],
      [1440, 480, 50],
    ]);
    stepBack(store);
    stepBack(store);
    expect([line(), caret()]).toEqual([[[0, 960, 48]], 960]);
    stepBack(store);
    expect([line(), caret()]).toEqual([[[0, 480, 48]], 480]);
    stepBack(store);
    expect([line(), caret()]).toEqual([[], 0]);
    // Before the first step there is only the caret to move, and it stays inside.
    stepBack(store);
    expect(caret()).toBe(0);
  });

  it("writes over what is there, or moves it on", () => {
    const { store, line, key } = setUp();
    key(48);
    key(50);
    moveEntryCaret(store, -1);
    key(60);
    expect(line()).toEqual([
      [0, 480, 48],
      [480, 480, 60],
    ]);
    moveEntryCaret(store, -1);
    store.getState().setEntry({ insert: true });
    key(62);
    expect(line()).toEqual([
      [0, 480, 48],
      [480, 480, 62],
      [960, 480, 60],
    ]);
    stepBack(store);
    expect(line()).toEqual([
      [0, 480, 48],
      [480, 480, 60],
    ]);
  });

  it("stops at the end of the pattern and says so", () => {
    const { store, line, key } = setUp();
    store.getState().setEntry({ value: 1 });
    for (let i = 0; i < 4; i++) key(48);
    expect(line()).toHaveLength(2);
    expect(store.getState().announcement).toContain("The pattern ends here");
  });

  it("has dynamics from ppp to fff that rise (common practice)", () => {
    const of = Object.fromEntries(DYNAMICS);
    expect([of.ppp, of.mf, of.fff]).toEqual([16, 80, 127]);
    const velocities = DYNAMICS.map(([, velocity]) => velocity);
    expect(velocities).toEqual([...velocities].sort((a, b) => a - b));
  });
});

describe("rhythm first", () => {
  it("taps hits without a pitch, to the grid or as played, and gives them pitches in order", () => {
    const { store, notes } = setUp();
    store.getState().setEntry({ mode: "tap" });
    const first = tapAt(store, 130)!;
    endTap(store, first, 610);
    store.getState().setEntry({ snapTaps: false });
    const second = tapAt(store, 1003)!;
    endTap(store, second, 1300);
    expect(notes().map((n) => [n.start, n.length, n.unpitched])).toEqual([
      [240, 480, true],
      [1003, 297, true],
    ]);
    setMode(store, "pitches");
    givePitch(store, 51);
    givePitch(store, 53);
    expect(notes().map((n) => [n.pitch, n.unpitched])).toEqual([
      [51, undefined],
      [53, undefined],
    ]);
    expect(tapped(store.getState())).toEqual([]);
    givePitch(store, 55);
    expect(store.getState().announcement).toContain("Every note has a pitch");
  });

  it("taps into the part's own loop, also one that is held over its end", () => {
    const { store, notes } = setUp();
    store.getState().setEntry({ mode: "tap", snapTaps: false });
    const id = tapAt(store, 7680 + 7500)!;
    endTap(store, id, 7680 * 2 + 100);
    expect(notes().map((n) => [n.start, n.length])).toEqual([[7500, 280]]);
  });
});

describe("taps in a part shorter than its pattern", () => {
  it("land where the ear is, in every loop", () => {
    const project = edits.setPartLength(createProject({ bars: 4 }), BASS, 3 * 3840);
    const store = createSession("z", project);
    store.getState().setTrack("bass");
    startEntry(store, "tap");
    const starts = () => partOf(store.getState().project, BASS).notes.map((n) => n.start);
    // The fourth bar of the pattern is the first of the part again.
    tapAt(store, 3 * 3840 + 480);
    expect(starts()).toEqual([480]);
    // The second round of the pattern begins with the part's first bar.
    tapAt(store, 4 * 3840 + 960);
    tapAt(store, 5 * 3840 + 960);
    expect(starts()).toEqual([480, 960, 3840 + 960]);
  });
});
