import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote, partOf } from "@/core/score";
import { createSession } from "../../state/store";
import { ghostAtCaret, toggleAtCaret } from "../notes/caret";
import { changeVelocity, deleteSelected } from "../notes/selected";
import { paintValues } from "../notes/values";
import { addToChain } from "./chain";
import { madeNotes, selectedMade, touchMade, writeMade } from "./made";

const DRUMS = { pattern: "a", track: "drums" };

/** A hat on the one, and a fill on its lane. */
function filled() {
  const hat = makeNote({ id: "own", start: 0, pitch: 42, length: 240 });
  const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), DRUMS, [hat]));
  store.getState().setTrack("drums", 42);
  addToChain(store, "fill");
  const notes = () => partOf(store.getState().project, DRUMS).notes;
  return { store, notes, state: store.getState, steps: store.getState().history.past.length };
}

describe("hits that a card made", () => {
  it("are those that are none of the part's own, nor pieces of them", () => {
    const { store, state } = filled();
    const made = madeNotes(state());
    expect(made.length).toBeGreaterThan(4);
    expect(made.map(({ id }) => id)).not.toContain("own");
    addToChain(store, "roll");
    // What a roll makes of one's own hit is a piece of it.
    expect(madeNotes(state()).some(({ id }) => id.startsWith("own"))).toBe(false);
    expect(madeNotes({ ...state(), hearingBefore: true })).toEqual([]);
  });

  it("are touched and told by every hand, and nothing is written under them", () => {
    const { store, notes, state, steps } = filled();
    const [hit] = madeNotes(state());
    touchMade(store, hit!);
    expect(selectedMade(state())).toEqual([hit]);
    const told = "Made by Fill: write it to notes to change this hit";
    const hands: [string, () => void][] = [
      ["delete", () => deleteSelected(store)],
      ["velocity", () => changeVelocity(store, 5)],
      ["enter", () => void toggleAtCaret(store)],
      ["ghost", () => ghostAtCaret(store)],
      [
        "profile",
        () =>
          paintValues(store, new Set([hit!.id]), (note) => note, { label: "Velocity", group: "g" }),
      ],
    ];
    for (const [name, does] of hands) {
      state().select([hit!.id], { touch: true });
      state().setCaret({ pitch: 42, tick: hit!.start });
      state().announce("");
      does();
      expect(state().announcement, name).toBe(told);
      expect(notes(), name).toHaveLength(1);
    }
    expect(state().history.past).toHaveLength(steps);
  });

  it("are notes like any other once they are written, the touched ones selected", () => {
    const { store, notes, state } = filled();
    const [hit] = madeNotes(state());
    touchMade(store, hit!);
    writeMade(store);
    expect(notes().length).toBeGreaterThan(4);
    const chosen = notes().filter(({ id }) => state().selection.has(id));
    expect(chosen.map(({ start }) => start)).toEqual([hit!.start]);
    deleteSelected(store);
    expect(notes().some(({ start }) => start === hit!.start)).toBe(false);
  });
});
