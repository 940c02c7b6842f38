import { describe, expect, it } from "vitest";
import { createProject, partOf } from "@/core";
import { setMode, startEntry } from "../commands/entry";
import { createSession } from "../session/store";
import { KEY_PLACES, commandOf, keyDown, tapUp } from "./entry-keys";

const BASS = { pattern: "a", track: "bass" };

function setUp(inKey = false) {
  const store = createSession("x", createProject({ key: { root: 0, scale: "major" } }));
  store.getState().setTrack("bass");
  store.getState().setTools({ inScale: inKey });
  startEntry(store);
  store.getState().setEntry({ low: 48 });
  const heard: number[] = [];
  let tick: number | null = null;
  const engine = {
    isPlaying: false,
    audition: (_: string, pitch: number) => Promise.resolve(void heard.push(pitch)),
    play: () => Promise.resolve(),
    position: () => (tick === null ? null : { pattern: "a", tick }),
  };
  const desk = { store, engine: engine as never };
  const press = (code: string) =>
    commandOf(code)!(store.getState(), store.getState().entry!, store);
  const notes = () => partOf(store.getState().project, BASS).notes;
  return { store, desk, heard, press, notes, at: (now: number | null) => (tick = now) };
}

describe("the keys of step entry", () => {
  it("are places on the keyboard: a white row and the black keys above it", () => {
    const white = ["KeyA", "KeyS", "KeyD", "KeyF", "KeyG", "KeyH", "KeyJ", "KeyK"];
    expect(white.map((code) => KEY_PLACES.indexOf(code))).toEqual([0, 2, 4, 5, 7, 9, 11, 12]);
    expect(["KeyW", "KeyE", "KeyT"].map((code) => KEY_PLACES.indexOf(code))).toEqual([1, 3, 6]);
    // No command lies on a key of the piano.
    expect(KEY_PLACES.filter((code) => commandOf(code))).toEqual([]);
  });

  it("enter and sound a pitch, held to the scale where that is asked", () => {
    const { desk, heard, notes } = setUp();
    keyDown(desk, 1);
    expect([heard, notes().map((note) => note.pitch)]).toEqual([[49], [49]]);
    const held = setUp(true);
    keyDown(held.desk, 1);
    expect(held.notes().map((note) => note.pitch)).toEqual([48]);
  });

  it("set value, kind, octave, dynamics and mode", () => {
    const { store, press } = setUp();
    const entry = () => store.getState().entry!;
    press("Digit5");
    press("Digit9");
    expect([entry().value, entry().kind]).toEqual([16, "triplet"]);
    press("Digit9");
    press("Digit0");
    expect(entry().kind).toBe("dotted");
    press("KeyX");
    press("KeyX");
    press("KeyZ");
    expect(entry().low).toBe(60);
    press("KeyV");
    expect(entry().velocity).toBe(96);
    for (let i = 0; i < 12; i++) press("KeyC");
    expect(entry().velocity).toBe(16);
    for (const mode of ["tap", "pitches", "notes"]) {
      press("KeyB");
      expect(entry().mode).toBe(mode);
    }
    press("KeyI");
    expect(store.getState().entry).toBeNull();
  });

  it("tap against the loop: the first starts it with the metronome, the next are hits", () => {
    const { store, desk, notes, at } = setUp();
    setMode(store, "tap");
    expect(keyDown(desk, 0)).toBeNull();
    expect([store.getState().click, store.getState().playing]).toEqual([true, true]);
    expect(notes()).toEqual([]);
    at(485);
    const id = keyDown(desk, 0)!;
    at(970);
    tapUp(desk, id);
    expect(notes()).toMatchObject([{ start: 480, length: 480, unpitched: true }]);
    // A tap is one step of the history.
    expect(store.getState().history.past).toHaveLength(1);
  });
});
