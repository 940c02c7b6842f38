import { describe, expect, it } from "vitest";
import { setPatternMetre } from "@/core/edits";
import { createProject, partOf } from "@/core/score";
import { currentPlace } from "../../state/current";
import { createSession } from "../../state/store";
import { describeCaret, moveCaret, toggleAtCaret } from "./caret";
import { nudgeSelected } from "./selected";
import { transformNow } from "../tracks/transforming";
import { walk } from "./walking";

const DRUMS = { pattern: "a", track: "drums" };

function setUp(project = createProject({ bars: 2 })) {
  const store = createSession("x", project);
  return { store, notes: () => partOf(store.getState().project, DRUMS).notes };
}

describe("the keyboard", () => {
  it("moves the caret along the lane's own grid, puts hits, rolls and nudges them, and says so", () => {
    const { store, notes } = setUp();
    store.getState().setTrack("drums", 42);
    moveCaret(store, 1, 0);
    moveCaret(store, 1, 0);
    expect(store.getState().caret.tick).toBe(480);
    toggleAtCaret(store);
    expect(store.getState().announcement).toBe("Closed hat, 1.1.3, velocity 96");
    transformNow(store, "roll", { count: 3 }, { label: "Roll" });
    expect(notes().map((n) => [n.start, n.length])).toEqual([
      [480, 80],
      [560, 80],
      [640, 80],
    ]);
    nudgeSelected(store, { ticks: -1 });
    expect(notes().map((n) => n.start)).toEqual([479, 559, 639]);
    walk(store, 1);
    transformNow(store, "roll", { count: 2 }, { label: "Roll" });
    expect(notes()).toHaveLength(4);
    expect(new Set(notes().map((n) => n.id)).size).toBe(4);
    moveCaret(store, 0, -99);
    expect(describeCaret(store.getState())).toMatch(/^Kick, /);
  });

  it("counts bars in the metre of the pattern", () => {
    const project = createProject({ bars: 2 });
    const { store } = setUp(setPatternMetre(project, "a", { beats: 3, unit: 4 }, "times"));
    store.getState().setTrack("drums", 36);
    store.getState().setCaret({ pitch: 36, tick: 2880 });
    expect(describeCaret(store.getState())).toMatch(/, 2\.1\.1, empty$/);
  });

  it("does not leave the pattern", () => {
    const { store } = setUp(createProject({ bars: 1 }));
    for (let i = 0; i < 40; i++) moveCaret(store, 1, 0);
    expect(store.getState().caret.tick).toBeLessThan(3840);
    for (let i = 0; i < 80; i++) moveCaret(store, -1, 0);
    expect(store.getState().caret.tick).toBe(0);
    expect(currentPlace(store.getState())).toEqual(DRUMS);
  });
});
