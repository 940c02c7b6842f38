import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { changePart, createProject, makeNote, partOf } from "@/core/score";
import { createSession } from "../../state/store";
import { PROFILES } from "../../geometry/profiles";
import { addToChain, applyTo } from "../tracks/chain";
import { selectionScope } from "../tracks/scopes";
import { transformNow } from "../tracks/transforming";
import { copy, cut, duplicate, paste } from "./clipboard";
import { selectedByPart } from "./by-part";
import {
  changeVelocity,
  deleteSelected,
  joinSelected,
  moveSelected,
  shiftPitches,
} from "./selected";
import { changeSelected, changeValues } from "./values";

const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };
const note = (id: string, start: number, pitch: number, velocity = 96) =>
  makeNote({ id, start, pitch, velocity, length: 240 });

/** Two kicks and a hat of a kit, three notes of a bass on quarters, all selected but the last of each. */
function setUp(bars = 2) {
  let project = createProject({ bars });
  project = edits.setNotes(project, DRUMS, [
    note("k0", 0, 36, 100),
    note("k1", 960, 36, 60),
    note("h0", 1920, 42),
  ]);
  // Ids of another track may be the same.
  project = edits.setNotes(project, BASS, [
    note("k0", 0, 40, 120),
    note("b1", 480, 43, 90),
    note("b2", 2400, 45),
  ]);
  project = changePart(project, BASS, (part) => ({ ...part, grid: { ...part.grid, value: 4 } }));
  const store = createSession("x", project);
  store.getState().setTrack("drums", 36);
  store.getState().select(["k0", "k1"], { beside: new Map([["bass", new Set(["k0", "b1"])]]) });
  const at = (place: typeof DRUMS) =>
    partOf(store.getState().project, place).notes.map((one) => [one.start, one.pitch]);
  const velocities = (place: typeof DRUMS) =>
    partOf(store.getState().project, place).notes.map((one) => one.velocity);
  return { store, state: store.getState, drums: () => at(DRUMS), bass: () => at(BASS), velocities };
}

describe("notes of several tracks, selected together", () => {
  it("move in time as one, by the steps of the current track, and stop as one", () => {
    const { store, drums, bass } = setUp();
    moveSelected(store, 1, 0);
    expect([drums(), bass()]).toEqual([
      [
        [480, 36],
        [1440, 36],
        [1920, 42],
      ],
      [
        [480, 40],
        [960, 43],
        [2400, 45],
      ],
    ]);
    moveSelected(store, -99, 0);
    expect(drums()[0]).toEqual([-480, 36]);
    expect(bass()[0]).toEqual([-480, 40]);
    store.getState().undo();
    expect([drums()[0], bass()[0]]).toEqual([
      [0, 36],
      [0, 40],
    ]);
  });

  it("keep their lanes on a kit where pitches move, which is said", () => {
    const { store, state, drums, bass } = setUp();
    moveSelected(store, 0, 1);
    expect(drums().map(([, pitch]) => pitch)).toEqual([36, 36, 42]);
    expect(bass()[0]![1]).toBeGreaterThan(40);
    expect(state().announcement).toBe("Pitches moved; 2 hits kept in their lanes");
    shiftPitches(store, -2);
    expect(drums().map(([, pitch]) => pitch)).toEqual([36, 36, 42]);
    expect(state().announcement).toMatch(/2 hits kept/);
    // A channel is a melodic note's.
    changeSelected(store, "Channel", (one, { drums }) => (drums ? one : { ...one, channel: 3 }));
    const channels = [DRUMS, BASS].map((place) =>
      partOf(state().project, place).notes.map((one) => one.channel),
    );
    expect(channels).toEqual([
      [undefined, undefined, undefined],
      [3, 3, undefined],
    ]);
  });

  it("keep their differences of velocity and stop as one; a bare number sets all", () => {
    const { store, velocities } = setUp();
    changeVelocity(store, 20);
    expect([velocities(DRUMS), velocities(BASS)]).toEqual([
      [107, 67, 96],
      [127, 97, 96],
    ]);
    changeValues(store, PROFILES.velocity, { how: "set", to: 50 });
    expect([velocities(DRUMS), velocities(BASS)]).toEqual([
      [50, 50, 96],
      [50, 50, 96],
    ]);
    // Tune is a hit's.
    changeValues(store, PROFILES.tune, { how: "set", to: 3 });
    const tunes = partOf(store.getState().project, BASS).notes.map((one) => one.tune);
    expect(tunes).toEqual([0, 0, 0]);
  });

  it("are deleted together, said, and come back with one undo", () => {
    const { store, state, drums, bass } = setUp();
    deleteSelected(store);
    expect([drums(), bass()]).toEqual([[[1920, 42]], [[2400, 45]]]);
    expect(state().announcement).toBe("4 notes in 2 tracks deleted");
    expect([state().selection.size, state().beside.size]).toEqual([0, 0]);
    state().undo();
    expect([drums().length, bass().length]).toEqual([3, 3]);
  });

  it("are copied and pasted to their own tracks, as far from one another as they were", () => {
    const { store, state, drums, bass } = setUp();
    copy(store);
    expect(state().announcement).toBe("4 notes of 2 tracks copied");
    state().setCaret({ pitch: 42, tick: 3840 });
    paste(store);
    expect(drums().slice(3)).toEqual([
      [3840, 36],
      [4800, 36],
    ]);
    expect(bass().slice(3)).toEqual([
      [3840, 40],
      [4320, 43],
    ]);
    expect([state().selection.size, state().beside.get("bass")?.size]).toEqual([2, 2]);
    expect(state().history.past).toHaveLength(1);
  });

  it("go to the kits and lines of another project, and what has no track there is said", () => {
    const { store } = setUp();
    cut(store);
    expect(store.getState().announcement).toBe("4 notes in 2 tracks cut");
    const plain = createProject({ bars: 1 });
    const tracks = plain.tracks.filter(({ kind }) => kind === "drums");
    const parts = plain.patterns[0]!.parts.filter((part) => part.track === "drums");
    const other = createSession("y", {
      ...plain,
      tracks: tracks.map((one) => ({ ...one, id: "kit" })),
      patterns: plain.patterns.map((one) => ({
        ...one,
        parts: parts.map((part) => ({ ...part, track: "kit" })),
      })),
    });
    paste(other);
    const now = partOf(other.getState().project, { pattern: "a", track: "kit" }).notes;
    expect(now.map((one) => [one.start, one.pitch])).toEqual([
      [0, 36],
      [960, 36],
    ]);
    expect(other.getState().announcement).toMatch(/nothing for 1 track of it here/);
  });

  it("are duplicated after all of them", () => {
    const { store, drums, bass } = setUp();
    duplicate(store);
    // From 0 to 1200: two quarters hold them.
    expect(drums().map(([start]) => start)).toEqual([0, 960, 1920, 1920, 2880]);
    expect(bass().map(([start]) => start)).toEqual([0, 480, 1920, 2400, 2400]);
  });

  it("are transformed as one in time: now, as an asked one and as a card", () => {
    const { store, state, drums, bass } = setUp();
    transformNow(store, "reverse", {}, { label: "Reverse" });
    // The last end of all, 1200, is the first start then; what was not selected stays.
    const starts = (list: number[][]) => list.map(([start]) => start);
    expect(starts(drums())).toEqual([0, 960, 1920]);
    expect(starts(bass())).toEqual([480, 960, 2400]);
    expect(selectedByPart(state()).map(({ notes }) => notes.length)).toEqual([2, 2]);
    state().undo();
    const scope = selectionScope(selectedByPart(state()));
    expect(scope.label).toBe("Selection, 4 notes in 2 tracks");
    applyTo(store, { transform: "roll", params: { count: 2 } }, scope);
    expect([drums().length, bass().length]).toEqual([5, 5]);
    expect(selectedByPart(state()).map(({ notes }) => notes.length)).toEqual([4, 4]);
    state().undo();
    addToChain(store, "humanize", scope);
    const chains = [DRUMS, BASS].map((place) => partOf(state().project, place).chain);
    expect(chains.map(([step]) => step!.scope)).toEqual([
      ["k0", "k1"],
      ["k0", "b1"],
    ]);
    expect(chains[0]![0]!.id).toBe(chains[1]![0]!.id);
  });

  it("are joined each in its part", () => {
    const { store, state, bass } = setUp();
    state().select([], { beside: new Map([["bass", new Set(["k0", "b1"])]]) });
    shiftPitches(store, 0);
    edits.changeNotes(state().project, BASS, new Set(["b1"]), (one) => one);
    state().edit("Same pitch", (project) =>
      edits.changeNotes(project, BASS, new Set(["b1"]), (one) => ({ ...one, pitch: 40 })),
    );
    joinSelected(store);
    expect(bass()).toEqual([
      [0, 40],
      [2400, 45],
    ]);
  });

  it("stay where others come to lie with them, as on the current track", () => {
    const { state } = setUp();
    for (const id of ["b1", "b2"]) {
      state().edit(
        "Together",
        (project) =>
          edits.changeNotes(project, BASS, new Set(["b1", "b2"]), (one) => ({
            ...one,
            start: 960,
            pitch: 50,
          })),
        { selection: ["k0"], beside: new Map([["bass", new Set([id])]]) },
      );
      expect(partOf(state().project, BASS).notes.map((one) => one.id)).toEqual(["k0", id]);
      state().undo();
    }
  });

  it("stay selected where another of their tracks is taken in hand, and only those that are there", () => {
    const { state } = setUp();
    state().setTrack("bass", 40, { beside: true });
    expect([[...state().selection], [...state().beside.get("drums")!]]).toEqual([
      ["k0", "b1"],
      ["k0", "k1"],
    ]);
    state().edit("Clear the kit", (project) => edits.setNotes(project, DRUMS, []));
    expect([state().selection.size, state().beside.size]).toEqual([2, 0]);
    state().undo();
    state().setTrack("drums");
    expect([state().selection.size, state().beside.size]).toEqual([0, 0]);
  });
});
