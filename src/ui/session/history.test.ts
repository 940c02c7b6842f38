import { describe, expect, it } from "vitest";
import { createProject, edits, makeNote, type Project } from "@/core";
import { EMPTY_HISTORY, record, step } from "./history";

const BASS = { pattern: "a", track: "bass" };
const note = (start: number) => makeNote({ id: `n${start}`, start });
const ids = (project: Project) => edits.partOf(project, BASS).notes.map((n) => n.id);

describe("history", () => {
  const base = createProject();
  const one = edits.addNotes(base, BASS, [note(0)]);
  const two = edits.addNotes(one, BASS, [note(240)]);

  it("makes one step of the edits of one gesture", () => {
    let history = record(EMPTY_HISTORY, { label: "Paint", before: base, after: one, group: "g" });
    history = record(history, { label: "Paint", before: one, after: two, group: "g" });
    expect(history.past).toHaveLength(1);
    expect(step(history, two, "back")!.project).toBe(base);
    history = record(history, { label: "Paint", before: two, after: base, group: "h" });
    expect(history.past).toHaveLength(2);
  });

  it("turns back only what the edit did, not what came in since", () => {
    const history = record(EMPTY_HISTORY, { label: "Put", before: base, after: one, group: null });
    const later = edits.addNotes(one, BASS, [note(999)]);
    const undone = step(history, later, "back")!;
    expect(ids(undone.project)).toEqual(["n999"]);
    expect(ids(step(undone.history, undone.project, "forward")!.project)).toEqual(["n0", "n999"]);
  });

  it("has nothing to do at its ends", () => {
    expect(step(EMPTY_HISTORY, base, "back")).toBeNull();
    expect(step(EMPTY_HISTORY, base, "forward")).toBeNull();
  });
});
