import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, partOf } from "@/core/score";
import { createSession } from "../../state/store";
import { copy, cut, duplicate, paste, pasteAtPlayhead } from "./clipboard";
import { selectStretch } from "./selectors";
import { notesPastLoop } from "@/core/playback";

const DRUMS = { pattern: "a", track: "drums" };
const hit = (start: number, pitch = 36) => makeNote({ id: `h${start}-${pitch}`, start, pitch });

function setUp(hits = [hit(0), hit(480)], project: Project = createProject({ bars: 2 })) {
  const store = createSession("x", edits.addNotes(project, DRUMS, hits));
  const places = () =>
    partOf(store.getState().project, DRUMS).notes.map((note) => [note.start, note.pitch]);
  return { store, places, state: store.getState };
}

describe("the clipboard", () => {
  it("says when there is nothing to copy, and keeps what it had", () => {
    const { store, state, places } = setUp();
    state().select(["h0-36"]);
    expect(copy(store)).toBe(true);
    expect(state().announcement).toBe("1 note copied");
    state().select([]);
    state().setCaret({ pitch: 38, tick: 960 });
    expect(copy(store)).toBe(false);
    expect(state().announcement).toBe("Nothing selected to copy");
    paste(store);
    expect(places()).toEqual([
      [0, 36],
      [480, 36],
      [960, 38],
    ]);
  });

  it("pastes hits of one lane into the current lane, at the caret's step, and goes on after them", () => {
    const { store, state, places } = setUp();
    state().select(["h0-36", "h480-36"]);
    copy(store);
    state().setCaret({ pitch: 42, tick: 1930 });
    paste(store);
    expect(places().filter(([, pitch]) => pitch === 42)).toEqual([
      [1920, 42],
      [2400, 42],
    ]);
    expect(state().selection.size).toBe(2);
    expect(state().caret.tick).toBeGreaterThan(2400);
    expect(state().history.past).toHaveLength(1);
  });

  it("keeps the lanes of what spans them, and puts a bar on a bar", () => {
    const { store, state, places } = setUp([hit(0), hit(240, 42), hit(960, 38)]);
    state().setCaret({ pitch: 36, tick: 500 });
    selectStretch(store, "bar");
    copy(store);
    state().setCaret({ pitch: 36, tick: 3840 + 700 });
    paste(store);
    expect(places().slice(3)).toEqual([
      [3840, 36],
      [4080, 42],
      [4800, 38],
    ]);
  });

  it("cuts, pastes at the playhead and duplicates after itself; each is one step", () => {
    const { store, state, places } = setUp([hit(0)]);
    state().select(["h0-36"]);
    cut(store);
    expect([places(), state().announcement]).toEqual([[], "1 hit cut"]);
    const engine = { position: () => ({ pattern: "a", tick: 7680 + 985 }) };
    pasteAtPlayhead({ store, engine: engine as never });
    expect(places()).toEqual([[960, 36]]);
    duplicate(store);
    expect(places().length).toBe(2);
    expect(state().announcement).toBe("1 note duplicated");
    expect(state().history.past.map((entry) => entry.label)).toEqual(["Cut", "Paste", "Duplicate"]);
  });

  it("pastes into the loop itself where its repeat is seen", () => {
    const short = edits.setPartLength(createProject({ bars: 2 }), DRUMS, 1920);
    const { store, state, places } = setUp([hit(0)], short);
    state().select(["h0-36"]);
    copy(store);
    state().setCaret({ pitch: 42, tick: 1920 + 480 });
    paste(store);
    expect(places()).toEqual([
      [0, 36],
      [480, 42],
    ]);
    expect(partOf(state().project, DRUMS).length).toBe(1920);
  });

  it("grows the loop to hold what is put past its end, and says so", () => {
    const { store, state, places } = setUp([hit(7440)]);
    state().select(["h7440-36"]);
    duplicate(store);
    expect(places()).toEqual([
      [7440, 36],
      [8400, 36],
    ]);
    expect(state().announcement).toBe("1 note duplicated; the loop is now 3 bars");
    expect(state().project.patterns[0]!.bars).toBe(3);
    const short = setUp([hit(720)], edits.setPartLength(createProject({ bars: 2 }), DRUMS, 960));
    short.state().select(["h720-36"]);
    duplicate(short.store);
    expect(partOf(short.state().project, DRUMS).length).toBe(3840);
  });

  it("duplicates by the felt beats of a pattern of its own metre", () => {
    const mixed = edits.setPatternMetre(
      createProject({ bars: 2 }),
      "a",
      { beats: 6, unit: 8 },
      "times",
    );
    const { store, state, places } = setUp([hit(1440)], mixed);
    state().select(["h1440-36"]);
    duplicate(store);
    // The second felt beat of a bar of 2,880 ticks, then the first of the next bar.
    expect(places().map(([start]) => start)).toEqual([1440, 2880]);
  });

  it("duplicates by whole beats of the bar, so that a figure falls on the same beats again", () => {
    const { store, state, places } = setUp([hit(960), hit(1200), hit(1440)]);
    state().select(["h960-36", "h1200-36", "h1440-36"]);
    duplicate(store);
    expect(places().map(([start]) => start)).toEqual([960, 1200, 1440, 1920, 2160, 2400]);
  });

  it("leaves nothing past a loop's end unseen, whatever is pasted where", () => {
    const start = fc.integer({ min: 0, max: 31 }).map((i) => i * 240);
    fc.assert(
      fc.property(fc.uniqueArray(start, { minLength: 1, maxLength: 6 }), start, (starts, at) => {
        const { store, state } = setUp(starts.map((s) => hit(s)));
        state().select(starts.map((s) => `h${s}-36`));
        copy(store);
        state().setCaret({ tick: at });
        paste(store);
        duplicate(store);
        expect(notesPastLoop(state().project, DRUMS)).toEqual([]);
        expect(state().caret.tick).toBeLessThan(state().project.patterns[0]!.bars * 3840);
      }),
      { numRuns: 60 },
    );
  });
});
