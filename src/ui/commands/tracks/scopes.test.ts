import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote, makeTrack, partOf } from "@/core/score";
import { currentPart, workOf } from "../../state/current";
import { createSession } from "../../state/store";
import { addToChain, applyTo, linkedPlaces, writeChain } from "./chain";
import { placesOfStep, scopesOf } from "./scopes";

const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };

function setUp() {
  let project = edits.addNotes(createProject(), DRUMS, [
    makeNote({ id: "k", start: 0, pitch: 36 }),
    makeNote({ id: "s", start: 960, pitch: 38 }),
  ]);
  project = edits.addNotes(project, BASS, [makeNote({ id: "b", start: 0, length: 960 })]);
  const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
  project = edits.addPattern(edits.addTrack(project, lead), "b", "a", "copy");
  const store = createSession("x", project);
  const scopes = () => scopesOf(workOf(store.getState()), currentPart(store.getState()));
  return { store, state: store.getState, scopes };
}

describe("what a transform can work on", () => {
  it("is the selection first, else the current lane, then ever more parts", () => {
    const { state, scopes } = setUp();
    expect(scopes().map((scope) => scope.kind)).toEqual([
      "lane",
      "part",
      "open",
      "melodic",
      "pattern",
      "melodic-project",
      "project",
    ]);
    expect(scopes()[0]).toMatchObject({ label: "Lane Kick, 1 hit", lane: 36, ids: null });
    state().select(["s"]);
    expect(scopes()[0]).toMatchObject({
      kind: "selection",
      ids: [["s"]],
      label: "Selection, 1 hit",
    });
    state().setTrack("bass");
    expect(scopes()[0]).toMatchObject({ kind: "part", label: "All of Reed bass, 1 note" });
  });

  it("counts the parts that have notes, over the pattern or the whole project", () => {
    const { scopes } = setUp();
    const of = (kind: string) => scopes().find((scope) => scope.kind === kind)!;
    expect(of("melodic").places).toHaveLength(2);
    expect(of("melodic").label).toContain("1 part");
    expect(of("project").places).toHaveLength(6);
    expect(of("project").label).toContain("4 parts");
  });
});

describe("the chain", () => {
  it("takes a card on what is likeliest, and one on several parts stays one card", () => {
    const { store, state, scopes } = setUp();
    addToChain(store, "swing");
    expect(partOf(state().project, DRUMS).chain).toMatchObject([{ transform: "swing", lane: 36 }]);
    state().setTrack("bass");
    addToChain(
      store,
      "roll",
      scopes().find((scope) => scope.kind === "melodic")!,
    );
    const { id } = partOf(state().project, BASS).chain[0]!;
    expect(placesOfStep(state().project, id)).toHaveLength(2);
    expect(linkedPlaces(state())).toEqual([BASS, { pattern: "a", track: "lead" }]);
    expect(state().bench).toBe("transform");
  });

  it("is written in all parts that share it, as one step, into notes of their own", () => {
    const { store, state, scopes } = setUp();
    state().setTrack("bass");
    addToChain(
      store,
      "roll",
      scopes().find((scope) => scope.kind === "melodic")!,
    );
    const before = state().history.past.length;
    writeChain(store);
    expect(state().history.past.length).toBe(before + 1);
    const { notes, chain } = partOf(state().project, BASS);
    expect([notes.length > 1, chain.length]).toEqual([true, 0]);
    expect(notes.some((note) => note.id.includes("~"))).toBe(false);
    expect(partOf(state().project, { pattern: "a", track: "lead" }).chain).toEqual([]);
    writeChain(store);
    expect(state().history.past.length).toBe(before + 1);
  });

  it("is not needed: a transform is applied now, and what it made is selected", () => {
    const { store, state, scopes } = setUp();
    state().select(["k"]);
    applyTo(store, { transform: "roll", params: { count: 3 } }, scopes()[0]!);
    expect(state().selection.size).toBe(3);
    expect(state().announcement).toContain("1 hit became 3");
    expect(partOf(state().project, DRUMS).notes).toHaveLength(4);
  });
});
