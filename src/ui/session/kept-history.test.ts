import "fake-indexeddb/auto";
import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, makeTrack, partOf } from "@/core/score";
import { keepHistory, keptHistory } from "../saving/kept-history";
import { fromKept, restoreHistory, toKept } from "./kept-history";
import { createSession } from "../state/store";

const BASS = { pattern: "a", track: "bass" };
const note = (start: number) => makeNote({ id: `n${start}`, start });
const starts = (project: Project) => partOf(project, BASS).notes.map((n) => n.start);
/** As the browser keeps it and gives it back. */
const copy = <T>(value: T): T => structuredClone(value);

/** A session with some edits, one of them undone. */
function worked() {
  const store = createSession("p", createProject());
  const { edit } = store.getState();
  const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
  edit("Add 0", (p) => edits.addNotes(p, BASS, [note(0)]));
  edit("Tempo", (p) => edits.setTempo(p, 90));
  edit("Add track", (p) => edits.addTrack(p, lead));
  edit("Add 480", (p) => edits.addNotes(p, BASS, [note(480)]));
  edit("Add 960", (p) => edits.addNotes(p, BASS, [note(960)]));
  store.getState().undo();
  return store;
}

describe("a history over a reload", () => {
  it("comes back with its names, to be undone and redone to the first edit and the last", () => {
    const before = worked().getState();
    const store = createSession("p", copy(before.project));
    store.getState().setHistory(fromKept(copy(toKept(before.history))));
    const { history } = store.getState();
    expect(history.past.map((entry) => entry.label)).toEqual([
      "Add 0",
      "Tempo",
      "Add track",
      "Add 480",
    ]);
    store.getState().redo();
    expect(starts(store.getState().project)).toEqual([0, 480, 960]);
    for (let i = 0; i < 5; i++) store.getState().undo();
    expect(store.getState().project).toEqual(createProject());
    for (let i = 0; i < 5; i++) store.getState().redo();
    expect(starts(store.getState().project)).toEqual([0, 480, 960]);
    expect(store.getState().project.tracks).toHaveLength(3);
  });

  it("turns back only its own edits where another tab's came in meanwhile", () => {
    const before = worked().getState();
    const theirs = edits.setTempo(
      edits.addNotes(copy(before.project), BASS, [note(240), note(720)]),
      133,
    );
    const store = createSession("p", theirs);
    store.getState().setHistory(fromKept(copy(toKept(before.history))));
    while (store.getState().history.past.length > 0) store.getState().undo();
    expect(starts(store.getState().project)).toEqual([240, 720]);
    // The tempo was theirs last, and goes back to what it was before the edit that is undone.
    expect(store.getState().project.tracks).toHaveLength(2);
  });

  it("is kept by project and tab, and comes back in another tab where that has none", async () => {
    const { history, project } = worked().getState();
    await keepHistory({ key: "p/1", project: "p", at: Date.now() - 5, ...toKept(history) });
    await keepHistory({ key: "q/1", project: "q", at: Date.now(), past: [], future: [] });
    await keepHistory({ key: "p/9", project: "p", at: 1, past: [], future: [] });
    expect((await keptHistory("p", "p/1"))!.past).toHaveLength(4);
    expect((await keptHistory("p", "p/2"))!.key).toBe("p/1");
    // One from long ago is forgotten.
    expect((await keptHistory("p", "p/9"))!.key).toBe("p/1");
    const store = createSession("p", project);
    store.getState().awaitHistory();
    await restoreHistory(store, "p", "p/1");
    expect(store.getState().history.past).toHaveLength(4);
    // It is looked for once.
    store.getState().undo();
    await restoreHistory(store, "p", "p/1");
    expect(store.getState().history.past).toHaveLength(3);
  });

  it("keeps the last edits where there are more than there is room for", () => {
    const store = createSession("p", createProject());
    const many = (by: number) =>
      Array.from({ length: 9000 }, (_, i) => makeNote({ id: `m${i}`, start: i + by }));
    for (let i = 0; i < 8; i++) {
      store.getState().edit(`Edit ${i}`, (p) => edits.setNotes(p, BASS, many(i)));
    }
    store.getState().edit("Hit", (p) => edits.addNotes(p, BASS, [note(20_000)]));
    const labels = toKept(store.getState().history).past.map((edit) => edit.label);
    expect(labels).toEqual(["Edit 5", "Edit 6", "Edit 7", "Hit"]);
  });

  it("waited for takes what was pressed and done meanwhile: undo of the page before, edits after it", async () => {
    const { history, project } = worked().getState();
    await keepHistory({ key: "w/1", project: "w", at: Date.now(), ...toKept(history) });
    const store = createSession("w", copy(project));
    const state = store.getState;
    state().awaitHistory();
    state().undo();
    state().undo();
    expect(starts(state().project)).toEqual([0, 480]);
    await restoreHistory(store, "w", "w/1");
    // “Add 480” and “Add track” are undone.
    expect(starts(state().project)).toEqual([0]);
    expect(state().project.tracks).toHaveLength(2);
    // Another page, in which something is done before it is there: that is undone at once, and the rest after it.
    const busy = createSession("w", copy(project));
    busy.getState().awaitHistory();
    busy.getState().edit("Add 1920", (p) => edits.addNotes(p, BASS, [note(1920)]));
    await restoreHistory(busy, "w", "w/1");
    expect(busy.getState().history.past).toHaveLength(5);
    busy.getState().undo();
    busy.getState().undo();
    expect(starts(busy.getState().project)).toEqual([0]);
    // Where none is found nothing waits any longer.
    const none = createSession("v", copy(project));
    none.getState().awaitHistory();
    none.getState().undo();
    await restoreHistory(none, "v", "v/1");
    expect(none.getState().awaited).toBeNull();
    expect(starts(none.getState().project)).toEqual([0, 480]);
  });
});
