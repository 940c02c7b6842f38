import { describe, expect, it } from "vitest";
import { createProject, edits, makeNote, type Project } from "@/core";
import { EMPTY_HISTORY, record, step } from "./history";
import { createSession, heardInHand, heardProject, place } from "./store";

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

describe("a session", () => {
  it("does, undoes and does again, without limit", () => {
    const store = createSession("x", createProject());
    for (let i = 0; i < 300; i++) {
      store.getState().edit(`Put ${i}`, (p) => edits.addNotes(p, BASS, [note(i)]));
    }
    for (let i = 0; i < 300; i++) store.getState().undo();
    expect(store.getState().project).toEqual(createProject());
    expect(store.getState().said).toBe("Undone: Put 0");
    store.getState().redo();
    expect(ids(store.getState().project)).toEqual(["n0"]);
    store.getState().edit("Put", (p) => edits.addNotes(p, BASS, [note(7)]));
    expect(store.getState().history.future).toEqual([]);
  });

  it("records nothing for an edit that changes nothing", () => {
    const store = createSession("x", createProject());
    store.getState().edit("Nothing", (p) => p);
    expect(store.getState().history.past).toEqual([]);
  });

  it("hears a trial in place of the notes, and the notes without their chain while comparing", () => {
    const store = createSession("x", edits.addNotes(createProject(), BASS, [note(0)]));
    store.getState().takeTrack("bass");
    store.setState({ trial: { place: BASS, notes: [note(480)], label: "idea" } });
    expect(ids(heardProject(store.getState()))).toEqual(["n480"]);
    expect(ids(store.getState().project)).toEqual(["n0"]);
    expect(heardProject(store.getState())).toBe(heardProject(store.getState()));
    store.setState({ trial: null });
    const roll = { id: "s", transform: "roll", on: true, params: { count: 3 }, scope: null };
    store.getState().edit("Add", (p) => edits.addStep(p, place(store.getState()), roll));
    expect(heardInHand(store.getState()).notes).toHaveLength(3);
    store.setState({ comparing: true });
    expect(heardInHand(store.getState()).notes).toHaveLength(1);
  });

  it("keeps what is in hand pointing at something when it is undone away", () => {
    const store = createSession("x", createProject());
    store.getState().edit("Add a pattern", (p) => edits.addPattern(p, "b", "a", true));
    store.getState().takePattern("b");
    store.getState().undo();
    expect(store.getState().pattern).toBe("a");
    store.getState().edit("Remove", (p) => edits.removeTrack(p, "drums"));
    store.getState().undo();
    expect(store.getState().project.tracks).toHaveLength(2);
  });
});
