import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote, partOf } from "@/core/score";
import { currentPart, workOf } from "../../state/current";
import { createSession } from "../../state/store";
import { moveCaret, toggleAtCaret } from "../notes/caret";
import { scopesOf } from "./scopes";
import { selectStretch } from "../notes/selectors";
import { transformNow } from "./transforming";

const DRUMS = { pattern: "a", track: "drums" };

/** Kicks on the beats, the hat empty; the caret on the kick. */
function setUp() {
  const kicks = [0, 960, 1920, 2880].map((start) =>
    makeNote({ id: `k${start}`, start, pitch: 36, velocity: 60 }),
  );
  const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), DRUMS, kicks));
  store.getState().setTrack("drums", 36);
  const hits = (pitch: number) =>
    partOf(store.getState().project, DRUMS).notes.filter((note) => note.pitch === pitch);
  const worksOn = () => scopesOf(workOf(store.getState()), currentPart(store.getState()))[0]!.label;
  return { store, hits, worksOn };
}

describe("what lane commands work on", () => {
  it("is the current lane after a hit was put, whose values are shown", () => {
    const { store, hits, worksOn } = setUp();
    store.getState().setCaret({ tick: 480 });
    toggleAtCaret(store);
    expect(store.getState().selection.size).toBe(1);
    expect(worksOn()).toBe("Lane Kick, 5 hits");
    transformNow(store, "velocity", { way: "set", value: 99 }, { label: "Set", on: "lane" });
    expect(hits(36).map((hit) => hit.velocity)).toEqual([99, 99, 99, 99, 99]);
  });

  it("is what was selected on purpose, until another lane or track is taken", () => {
    const { store, hits, worksOn } = setUp();
    selectStretch(store, "lane");
    expect(worksOn()).toBe("Selection, 4 hits");
    store.getState().setTrack("drums", 42);
    expect(worksOn()).toBe("Lane Closed hat, 0 hits");
    transformNow(store, "fill", { every: 4, value: "16" }, { label: "Fill", on: "lane" });
    expect(hits(42)).toHaveLength(4);
    expect(hits(36)).toHaveLength(4);
    store.getState().setTrack("drums", 36);
    selectStretch(store, "lane");
    store.getState().setTrack("bass");
    expect(worksOn()).toMatch(/^All of Reed bass/);
  });

  it("is another lane's when the caret goes there by key", () => {
    const { store, worksOn } = setUp();
    selectStretch(store, "lane");
    moveCaret(store, 1, 0);
    expect(worksOn()).toBe("Selection, 4 hits");
    moveCaret(store, 0, 1);
    expect(worksOn()).toMatch(/^Lane Snare/);
  });
});
