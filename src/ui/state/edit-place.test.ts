import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote } from "@/core/score";
import { placeOfEdit } from "./edit-place";
import { createSession } from "./store";

const DRUMS = { pattern: "a", track: "drums" };
const hit = (start: number, pitch: number) => makeNote({ id: `h${start}-${pitch}`, start, pitch });

describe("where an edit was", () => {
  it("is told by lane and place, of many lanes by the track, of other edits not at all", () => {
    const store = createSession("p", createProject({ bars: 2 }));
    const { edit } = store.getState();
    edit("Paint", (p) => edits.addNotes(p, DRUMS, [hit(960, 38), hit(1440, 38)]));
    edit("Paste", (p) => edits.addNotes(p, DRUMS, [hit(3840, 36), hit(3840, 42)]));
    edit("Delete", (p) => edits.deleteNotes(p, DRUMS, new Set(["h960-38"])));
    edit("Tempo", (p) => edits.setTempo(p, 90));
    edit("Add pattern", (p) => edits.addPattern(p, "b", "a", "copy"));
    edit("Paint", (p) => edits.addNotes(p, { pattern: "b", track: "bass" }, [hit(240, 40)]));
    const { history, project } = store.getState();
    expect(history.past.map((entry) => placeOfEdit(entry, project))).toEqual([
      "Snare, Main 1.2.1",
      "Harbour kit, Main 2.1.1",
      "Snare, Main 1.2.1",
      "",
      "",
      "Reed bass, Main 2 1.1.2",
    ]);
  });
});
