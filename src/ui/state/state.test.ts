import * as edits from "@/core/edits";
import type { Params } from "@/core/params";
import { LIMITS, type Project, createProject, makeNote, makeTrack, partOf } from "@/core/score";
import { describe, expect, it } from "vitest";
import { currentPlace, currentStretch, effectiveCurrent, effectiveProject } from "./current";
import { createSession } from "./store";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
const note = (start: number) => makeNote({ id: `n${start}`, start });
const ids = (project: Project, at = BASS) => partOf(project, at).notes.map((n) => n.id);

function setUp(project = createProject()) {
  const store = createSession("x", project);
  const state = store.getState;
  return { store, state, edit: state().edit };
}

/** How many times watchers are told while something is done. */
function told(store: ReturnType<typeof createSession>, work: () => void): number {
  let times = 0;
  const stop = store.subscribe(() => times++);
  work();
  stop();
  return times;
}

describe("an edit", () => {
  it("is done, undone and redone, without limit", () => {
    const { state, edit } = setUp();
    for (let i = 0; i < 300; i++) edit(`Add ${i}`, (p) => edits.addNotes(p, BASS, [note(i)]));
    for (let i = 0; i < 300; i++) state().undo();
    expect(state().project).toEqual(createProject());
    expect(state().announcement).toBe("Undone: Add 0");
    state().redo();
    expect(ids(state().project)).toEqual(["n0"]);
    expect(state().announcement).toBe("Redone: Add 0");
    // A message goes with the next edit, which may say nothing itself.
    state().edit("Tempo", (project) => ({ ...project, tempo: 77 }));
    expect(state().announcement).toBe("");
    edit("Add", (p) => edits.addNotes(p, BASS, [note(7)]));
    expect(state().history.future).toEqual([]);
  });

  it("that changes no value is none: nothing is recorded", () => {
    const { state, edit } = setUp();
    edit("Add", (p) => edits.addNotes(p, BASS, [note(0)]));
    const alike = (n: { start: number }) => ({ ...n }) as never;
    const done = edit("Quantize", (p) => edits.changeNotes(p, BASS, new Set(["n0"]), alike), {
      message: "All notes already stood there",
    });
    expect([done, state().history.past.length]).toEqual([false, 1]);
    expect(state().announcement).toBe("All notes already stood there");
  });

  it("leaves no two notes at one place, and says which one went", () => {
    const { state, edit } = setUp();
    state().setTrack("bass");
    edit("Add", (p) => edits.addNotes(p, BASS, [note(0), note(240)]), { selection: ["n240"] });
    const later = (n: { start: number }) => ({ ...n, start: 240 }) as never;
    edit("Move", (p) => edits.changeNotes(p, BASS, new Set(["n0"]), later), {
      selection: ["n0", "n240"],
      message: "Moved",
    });
    expect(ids(state().project)).toEqual(["n0"]);
    expect(state().selection).toEqual(new Set(["n0"]));
    expect(state().announcement).toBe("Moved; 1 note at the same place replaced");
    state().undo();
    expect(ids(state().project)).toEqual(["n0", "n240"]);
  });

  it("is one notification, with all that goes along with it", () => {
    const { store, state, edit } = setUp();
    state().setHearing({ hearingBefore: true });
    const times = told(store, () =>
      edit(
        "Add",
        (p) => edits.addNotes(p, BASS, [note(0)]),
        () => ({
          selection: ["n0"],
          caret: { tick: 480 },
          touched: { velocity: 20 },
          message: "1 note added",
        }),
      ),
    );
    expect(times).toBe(1);
    expect(state()).toMatchObject({ announcement: "1 note added", hearingBefore: false });
    expect([state().selection, state().caret.tick, state().touched.velocity]).toEqual([
      new Set(["n0"]),
      480,
      20,
    ]);
  });

  it("that changes nothing records nothing, and still says what it has to say", () => {
    const { state, edit } = setUp();
    expect(edit("Nothing", (p) => p, { message: "None cut" })).toBe(false);
    expect([state().history.past, state().announcement]).toEqual([[], "None cut"]);
  });

  it("leaves no selection of notes that are gone, by whatever way they went", () => {
    const { state, edit } = setUp(edits.addNotes(createProject(), BASS, [note(0), note(480)]));
    state().setTrack("bass");
    state().select(["n0", "n480"]);
    edit("Delete", (p) => edits.deleteNotes(p, BASS, new Set(["n0"])));
    expect(state().selection).toEqual(new Set(["n480"]));
    state().replace(edits.deleteNotes(state().project, BASS, new Set(["n480"])));
    expect(state().selection.size).toBe(0);
    edit("Add", (p) => edits.addNotes(p, BASS, [note(960)]), { selection: ["n960"] });
    state().undo();
    expect(state().selection.size).toBe(0);
  });

  it("keeps pieces of a chain selected, and a stretch with its selection", () => {
    const { state, edit } = setUp(edits.addNotes(createProject(), BASS, [note(0)]));
    state().setTrack("bass");
    state().select(["n0", "n0~1"], { stretch: { kind: "bar", from: 0, to: 3840 } });
    expect(currentStretch(state())).toMatchObject({ from: 0, to: 3840 });
    edit("Tempo", (p) => edits.setTempo(p, 90));
    edit("Add", (p) => edits.addNotes(p, BASS, [note(960)]));
    expect(state().selection).toEqual(new Set(["n0", "n0~1"]));
    expect(currentStretch(state())).not.toBeNull();
    state().select(["n0"]);
    expect(currentStretch(state())).toBeNull();
  });

  it("leaves a current pattern, track and row that exist", () => {
    const { state, edit } = setUp();
    edit("Add pattern", (p) => edits.addPattern(p, "b", "a", "copy"));
    state().setPattern("b");
    state().undo();
    expect(state().pattern).toBe("a");
    state().setTrack("drums", 42);
    edit("Delete", (p) => edits.deleteTrack(p, "drums"));
    expect([state().track, state().caret.pitch]).toEqual(["bass", 36]);
    edit("Delete", (p) => edits.deleteTrack(p, "bass"));
    expect(state().track).toBe("");
    expect(() => effectiveProject(state())).not.toThrow();
    state().undo();
    expect(state().track).toBe("bass");
    state().undo();
    expect(state().project.tracks).toHaveLength(2);
  });

  it("refuses a card whose chain could not be written, when it is set", () => {
    const { state, edit } = setUp(
      edits.setNotes(
        createProject(),
        BASS,
        Array.from({ length: 60 }, (_, i) => ({ ...note(i * 240), length: 4096 })),
      ),
    );
    const card = (id: string, transform: string, params: Params) =>
      edit("Add card", (p) =>
        edits.addStep(p, BASS, { id, transform, on: true, params, scope: null }),
      );
    expect(card("a", "roll", { count: 64 })).toBe(true);
    expect(card("b", "roll", { count: 64 })).toBe(false);
    expect(state().notice?.text).toBe(
      "Add card: not done. The part of “Reed bass” with its chain would hold far more than 100,000 notes, which is the limit. Nothing was changed.",
    );
    expect(partOf(state().project, BASS).chain.map((step) => step.id)).toEqual(["a"]);
    // A card that is off does nothing; switched on it would be too much.
    const off = { id: "c", transform: "roll", on: false, params: { count: 64 }, scope: null };
    expect(edit("Add", (p) => edits.addStep(p, BASS, off))).toBe(true);
    expect(edit("On", (p) => edits.changeStep(p, BASS, "c", { on: true }))).toBe(false);
    edit("Delete", (p) => edits.deleteStep(edits.deleteStep(p, BASS, "a"), BASS, "c"));
    for (let i = 0; i < 4; i++) expect(card(`s${i}`, "stretch", { factor: 8 })).toBe(true);
    expect(card("s4", "stretch", { factor: 8 })).toBe(false);
    expect(state().announcement).toContain("would put a note beyond 100,000,000 ticks");
  });

  it("beyond a limit of the model is refused with its numbers, and nothing changes", () => {
    const { state, edit } = setUp();
    const before = state().project;
    const many = Array.from({ length: LIMITS.notesPerPart + 1 }, (_, i) => note(i));
    expect(edit("Roll", (p) => edits.setNotes(p, BASS, many))).toBe(false);
    expect(state().project).toBe(before);
    expect(state().notice?.text).toBe(
      "Roll: not done. The part of “Reed bass” would hold 100,001 notes; the limit is 100,000. Nothing was changed.",
    );
    const step = { transform: "reverse", on: true, params: {}, scope: null };
    for (let i = 0; i < LIMITS.chain; i++) {
      expect(edit("Card", (p) => edits.addStep(p, DRUMS, { ...step, id: `s${i}` }))).toBe(true);
    }
    expect(edit("Card", (p) => edits.addStep(p, DRUMS, { ...step, id: "more" }))).toBe(false);
    expect(state().announcement).toContain("33 cards; the limit is 32");
    expect(state().history.past).toHaveLength(LIMITS.chain);
  });
});

describe("what is heard", () => {
  it("is a preview in place of the notes, or the notes without their chain while it is bypassed", () => {
    const { state, edit } = setUp(edits.addNotes(createProject(), BASS, [note(0)]));
    state().setTrack("bass");
    state().setHearing({ preview: { place: BASS, notes: [note(480)], label: "idea" } });
    expect(ids(effectiveProject(state()))).toEqual(["n480"]);
    expect(ids(state().project)).toEqual(["n0"]);
    expect(effectiveProject(state())).toBe(effectiveProject(state()));
    state().setHearing({ preview: null });
    const roll = { id: "s", transform: "roll", on: true, params: { count: 3 }, scope: null };
    edit("Add", (p) => edits.addStep(p, currentPlace(state()), roll));
    expect(effectiveCurrent(state()).notes).toHaveLength(3);
    state().setHearing({ bypassed: true });
    expect(effectiveCurrent(state()).notes).toHaveLength(1);
  });

  it("is Before in the shape of the project, whatever was added or deleted since", () => {
    const { state, edit } = setUp(edits.addNotes(createProject(), BASS, [note(0)]));
    state().keepAsBefore(state().project);
    const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
    edit("Add track", (p) => edits.addTrack(p, lead));
    edit("Add", (p) => edits.addNotes(p, { pattern: "a", track: "lead" }, [note(5)]));
    edit("Delete", (p) => edits.deleteTrack(p, "drums"));
    state().setTrack("lead");
    state().setHearing({ hearingBefore: true });
    const heard = effectiveProject(state());
    expect(heard.tracks.map((t) => t.id)).toEqual(["bass", "lead"]);
    expect(ids(heard)).toEqual(["n0"]);
    expect(effectiveCurrent(state()).notes).toEqual([]);
    // What A had of a deleted track is there again when the track is.
    state().undo();
    state().setHearing({ hearingBefore: true });
    expect(effectiveProject(state()).tracks).toHaveLength(3);
    // A pattern that A does not have is heard as it is.
    edit("Add pattern", (p) => edits.addPattern(p, "b", "a", "copy"));
    state().setPattern("b");
    state().setHearing({ hearingBefore: true });
    expect(effectiveProject(state())).toBe(state().project);
  });
});

describe("a jump in the history", () => {
  it("goes to any state in one notification", () => {
    const { store, state, edit } = setUp();
    for (let i = 0; i < 5; i++) edit(`Add ${i}`, (p) => edits.addNotes(p, BASS, [note(i)]));
    expect(told(store, () => state().jump(2))).toBe(1);
    expect(ids(state().project)).toEqual(["n0", "n1"]);
    state().jump(5);
    expect(ids(state().project)).toHaveLength(5);
  });
});
