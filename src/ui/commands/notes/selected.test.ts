import * as edits from "@/core/edits";
import { selectedByPart } from "./by-part";
import { type Note, changePart, createProject, makeNote, partOf } from "@/core/score";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { PROFILES } from "../../geometry/profiles";
import { LENGTH, changeValues, wheelChance, wheelVelocity } from "./values";
import { createSession } from "../../state/store";
import { togglePlay } from "../transport/play";
import { changeVelocity, moveSelected, nudgeSelected } from "./selected";

const BASS = { pattern: "a", track: "bass" };

function setUp(notes: readonly Note[]) {
  const store = createSession("x", edits.setNotes(createProject({ bars: 1 }), BASS, notes));
  store.getState().setTrack("bass");
  store.getState().select(notes.map((note) => note.id));
  const now = () => partOf(store.getState().project, BASS).notes;
  return { store, state: store.getState, now };
}
const line = (...values: [start: number, pitch: number, velocity?: number][]) =>
  values.map(([start, pitch, velocity = 90], i) =>
    makeNote({ id: `n${i}`, start, pitch, velocity }),
  );

describe("a group pushed against an edge", () => {
  it("stops as one and keeps its shape: time, pitch and velocity", () => {
    const { store, now } = setUp(line([0, 120, 20], [240, 122, 60], [480, 127, 120]));
    const before = now();
    for (let i = 0; i < 5; i++) moveSelected(store, -1, 0);
    for (let i = 0; i < 20; i++) moveSelected(store, 1, 0);
    expect(now().map((note) => note.start)).toEqual([3360, 3600, 3360 + 480].map((t) => t - 240));
    moveSelected(store, 0, 3);
    expect(now().map((note) => note.pitch)).toEqual([120, 122, 127]);
    changeVelocity(store, 40);
    expect(now().map((note) => note.velocity)).toEqual([27, 67, 127]);
    changeVelocity(store, -100);
    expect(now().map((note) => note.velocity)).toEqual([1, 41, 101]);
    expect(before.map((note) => note.id)).toEqual(now().map((note) => note.id));
  });

  it("never leaves the loop, and says that nothing moved", () => {
    const { store, state, now } = setUp(line([3600, 60]));
    moveSelected(store, 1, 0);
    expect([now()[0]!.start, state().announcement]).toEqual([
      3600,
      "Nothing moved: a selected note is at the end",
    ]);
    expect(state().history.past).toEqual([]);
    nudgeSelected(store, { ticks: 5000 });
    expect(now()[0]!.start).toBe(3839);
  });

  it("comes back by the way it went: any moves and their inverse", () => {
    const moves = fc.array(
      fc.tuple(fc.integer({ min: -6, max: 6 }), fc.integer({ min: -4, max: 4 })),
      {
        maxLength: 6,
      },
    );
    const notes = fc
      .array(fc.tuple(fc.integer({ min: 0, max: 15 }), fc.constantFrom(36, 60, 64, 67, 120)), {
        minLength: 1,
        maxLength: 5,
      })
      .map((list) => line(...list.map(([step, pitch]): [number, number] => [step * 240, pitch])));
    const shape = (list: readonly Note[]) => {
      const byId = [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
      return byId.map((note) => note.start - byId[0]!.start);
    };
    fc.assert(
      fc.property(notes, moves, (group, steps) => {
        const { store, now } = setUp(group);
        store
          .getState()
          .edit("Grid", (p) =>
            changePart(p, BASS, (part) => ({ ...part, grid: { ...part.grid, value: 16 } })),
          );
        const was = shape(now());
        for (const [lines, degrees] of steps) {
          moveSelected(store, lines, degrees);
          expect(shape(now())).toEqual(was);
          for (const note of now()) {
            expect(note.start).toBeLessThan(3840);
            expect(note.start).toBeGreaterThanOrEqual(-480);
            expect(note.pitch).toBeGreaterThanOrEqual(0);
            expect(note.pitch).toBeLessThanOrEqual(127);
          }
        }
      }),
    );
  });
});

describe("one value of several notes", () => {
  const velocities = () => {
    const { store, state, now } = setUp(line([0, 60, 40], [240, 60, 64], [480, 60, 111]));
    return { store, state, now: () => now().map((note) => note.velocity) };
  };

  it("keeps their differences where it is changed, and is one value where it is set", () => {
    const { store, now } = velocities();
    changeValues(store, PROFILES.velocity, { how: "shift", by: 5 });
    expect(now()).toEqual([45, 69, 116]);
    changeValues(store, PROFILES.velocity, { how: "shift", by: 100 });
    expect(now()).toEqual([56, 80, 127]);
    changeValues(store, PROFILES.velocity, { how: "scale", by: 0.5 });
    expect(now()).toEqual([28, 40, 64]);
    changeValues(store, PROFILES.velocity, { how: "set", to: 90 });
    expect(now()).toEqual([90, 90, 90]);
  });

  it("multiplies lengths each by itself", () => {
    const { store, now } = setUp(
      line([0, 60], [240, 60], [480, 60]).map((note, i) => ({ ...note, length: 100 * (i + 1) })),
    );
    changeValues(store, LENGTH, { how: "scale", by: 1.5 });
    expect(now().map((note) => note.length)).toEqual([150, 300, 450]);
  });

  it("says when they stand at the end already", () => {
    const { store, state, now } = velocities();
    changeValues(store, PROFILES.velocity, { how: "shift", by: 16 });
    changeValues(store, PROFILES.velocity, { how: "shift", by: 1 });
    expect(now()).toEqual([56, 80, 127]);
    expect(state().announcement).toMatch(/at the end/);
    expect(state().history.past.length).toBe(1);
  });

  it("goes back by the way it went in one drag, from what it was before", () => {
    const { store, now } = velocities();
    const from = selectedByPart(store.getState());
    for (const by of [30, 60, 5, -50, 0]) {
      changeValues(store, PROFILES.velocity, { how: "shift", by }, { group: "drag", from });
    }
    expect(now()).toEqual([40, 64, 111]);
  });

  it("by the wheel over one of them: velocities and chances keep their differences", () => {
    const { store, now } = setUp(
      line([0, 60, 40], [240, 60, 64]).map((note, i) => ({ ...note, chance: 40 + 20 * i })),
    );
    wheelVelocity(store, now()[0]!, 3);
    wheelChance(store, now()[0]!, 2);
    expect(now().map(({ velocity, chance }) => [velocity, chance])).toEqual([
      [43, 50],
      [67, 70],
    ]);
  });
});

describe("steps of the history", () => {
  it("are one for the same notes moved on and on, and another for other notes", () => {
    const { store, state } = setUp(line([0, 60], [960, 62]));
    state().select(["n0"]);
    moveSelected(store, 1, 0);
    moveSelected(store, 1, 0);
    expect(state().history.past).toHaveLength(1);
    state().select(["n1"]);
    moveSelected(store, 1, 0);
    moveSelected(store, 1, 0);
    expect(state().history.past).toHaveLength(2);
    state().undo();
    expect(partOf(state().project, BASS).notes.map((note) => note.start)).not.toEqual([0, 960]);
  });
});

describe("play", () => {
  const engineOf = (play: () => Promise<void>) => {
    const log: string[] = [];
    let playing = false;
    return {
      log,
      engine: {
        get isPlaying() {
          return playing;
        },
        play: async () => {
          log.push("play");
          await play();
          playing = true;
        },
        stop: () => {
          log.push("stop");
          playing = false;
        },
      } as never,
    };
  };

  it("pressed twice quickly starts once and is stopped", async () => {
    const { store, state } = setUp(line([0, 60]));
    let go = () => {};
    const { engine, log } = engineOf(() => new Promise((resolve) => (go = resolve)));
    const first = togglePlay({ store, engine });
    await togglePlay({ store, engine });
    go();
    await first;
    expect(log.filter((entry) => entry === "play")).toHaveLength(1);
    expect(log.at(-1)).toBe("stop");
    expect(state().playing).toBe(false);
  });

  it("that fails says why, and can be tried again", async () => {
    const { store, state } = setUp(line([0, 60]));
    const { engine } = engineOf(() => Promise.reject(new Error("no sound here")));
    await togglePlay({ store, engine });
    expect([state().playing, state().announcement]).toEqual([
      false,
      "Not playing: no sound here. Press play to try again",
    ]);
  });
});
