import { afterEach, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, partOf } from "@/core/score";
import { type KeyLayout, PIANO_PLACES, keyPlaces } from "@/core/perform";
import { leaveEntry, setMode, startEntry } from "../commands/perform/entry";
import { releaseKeys } from "../commands/perform/keys";
import { Player } from "../session/player";
import { createSession } from "../state/store";
import { KEYS, commandOf, surfaceDown, surfaceUp } from "./entry-keys";
import { resetSettings, setSettings } from "../person/settings";

const BASS = { pattern: "a", track: "bass" };
afterEach(resetSettings);

/** A sound engine that writes down which notes are held, and a loop that stands where the test says. */
function setUp(mode: "play" | "notes" = "notes", { inKey = false, track = "bass" } = {}) {
  const store = createSession("x", createProject({ key: { root: 0, scale: "major" } }));
  store.getState().setTrack(track);
  store.getState().setTools({ inScale: inKey });
  startEntry(store, mode);
  store.getState().setEntry({ low: 48 });
  const held: string[] = [];
  const heard: { track: string; pitch: number; velocity: number }[] = [];
  const bends: number[] = [];
  let tick: number | null = null;
  const engine = {
    isPlaying: false,
    runs: 1,
    hold: (on: string, pitch: number, velocity: number) => {
      const name = `${on} ${pitch}`;
      held.push(name);
      heard.push({ track: on, pitch, velocity });
      return { release: () => held.splice(held.indexOf(name), 1) };
    },
    bend: (_: string, by: number) => bends.push(by),
    play: () => Promise.resolve(),
    position: () => (tick === null ? null : { pattern: "a", tick }),
    playedAt: () => (tick === null ? null : { pattern: "a", tick }),
  };
  const player = new Player(store, engine as never);
  const desk = { store, engine: engine as never, player };
  const down = (code: string, { shiftKey = false, repeat = false } = {}) =>
    surfaceDown(desk, { code, shiftKey, repeat, timeStamp: performance.now() });
  const up = (code: string) => surfaceUp(desk, code, performance.now());
  const tap = (code: string) => (down(code), up(code));
  const notes = () => partOf(store.getState().project, BASS).notes;
  return {
    store,
    desk,
    player,
    held,
    heard,
    bends,
    down,
    up,
    tap,
    notes,
    at: (t: number) => (tick = t),
  };
}

describe("the keys of step entry", () => {
  it("are places on the keyboard: a white row and the black keys above it", () => {
    const white = ["KeyA", "KeyS", "KeyD", "KeyF", "KeyG", "KeyH", "KeyJ", "KeyK"];
    expect(white.map((code) => PIANO_PLACES.indexOf(code))).toEqual([0, 2, 4, 5, 7, 9, 11, 12]);
    expect(["KeyW", "KeyE", "KeyT"].map((code) => PIANO_PLACES.indexOf(code))).toEqual([1, 3, 6]);
    // No command lies on a key of the piano.
    expect(PIANO_PLACES.filter((code) => commandOf(code, "notes"))).toEqual([]);
  });

  it("enter and sound a pitch, held to the scale where that is asked", () => {
    const { down, heard, notes } = setUp();
    down("KeyW");
    expect([heard.map((h) => h.pitch), notes().map((note) => note.pitch)]).toEqual([[49], [49]]);
    const inScale = setUp("notes", { inKey: true });
    inScale.down("KeyW");
    expect(inScale.notes().map((note) => note.pitch)).toEqual([48]);
  });

  it("enter a chord while they are held, and go on when all are up", () => {
    const { down, up, notes, store } = setUp();
    down("KeyA");
    down("KeyD");
    up("KeyA");
    down("KeyG");
    up("KeyD");
    up("KeyG");
    expect(notes().map(({ start, pitch }) => [start, pitch])).toEqual([
      [0, 48],
      [0, 52],
      [0, 55],
    ]);
    expect(store.getState().caret.tick).toBe(480);
  });

  it("set value, kind, octave, dynamics and mode", () => {
    const { store, tap } = setUp();
    const entry = () => store.getState().entry!;
    tap("Digit5");
    tap("Digit9");
    expect([entry().value, entry().kind]).toEqual([16, "triplet"]);
    tap("Digit9");
    tap("Digit0");
    expect(entry().kind).toBe("dotted");
    tap("KeyX");
    tap("KeyX");
    tap("KeyZ");
    expect(entry().low).toBe(60);
    tap("KeyV");
    expect(entry().velocity).toBe(96);
    for (let i = 0; i < 12; i++) tap("KeyC");
    expect(entry().velocity).toBe(16);
    for (const mode of ["tap", "pitches", "notes"]) {
      tap("KeyB");
      expect(entry().mode).toBe(mode);
    }
    tap("KeyI");
    expect(store.getState().entry).toBeNull();
  });

  it("tap against the loop: the first starts it with the metronome, the next are hits", () => {
    const { store, down, up, notes, at } = setUp();
    setMode(store, "tap");
    down("KeyA");
    up("KeyA");
    expect([store.getState().click, store.getState().playing]).toEqual([true, true]);
    expect(notes()).toEqual([]);
    at(485);
    down("KeyA");
    at(970);
    up("KeyA");
    expect(notes()).toMatchObject([{ start: 480, length: 480, unpitched: true }]);
    // A tap is one step of the history.
    expect(store.getState().history.past).toHaveLength(1);
  });
});

describe("the keys of playing", () => {
  it("sound as long as they are held, at the velocity set, with shift as an accent", () => {
    const { down, up, held, heard, notes } = setUp("play");
    setSettings({ velocity: 70 });
    down("KeyA");
    down("KeyD", { shiftKey: true });
    down("KeyA", { repeat: true });
    expect(held).toEqual(["bass 48", "bass 52"]);
    expect(heard.map((h) => h.velocity)).toEqual([70, 98]);
    up("KeyA");
    expect(held).toEqual(["bass 52"]);
    up("KeyD");
    expect([held, notes()]).toEqual([[], []]);
  });

  it("end on the track and at the pitch they began with, whatever changes meanwhile", () => {
    const { store, down, up, held } = setUp("play");
    down("KeyA");
    store.getState().setTrack("drums");
    setSettings({ layout: "scale rows" });
    store.getState().setEntry({ low: 84 });
    expect(held).toEqual(["bass 48"]);
    down("KeyZ");
    expect(held).toHaveLength(2);
    up("KeyA");
    up("KeyZ");
    expect(held).toEqual([]);
  });

  it("are let go when the window loses them, and their bend and pedal", () => {
    const { desk, down, held, bends, player } = setUp("play");
    down("Slash");
    down("Comma");
    down("KeyA");
    down("KeyS");
    expect([held.length, bends]).toEqual([2, [-1.999755859375]]);
    releaseKeys(desk, KEYS);
    expect([held, bends.at(-1), player.isPedalled(KEYS)]).toEqual([[], 0, false]);
  });

  it("are let go when the surface is left with keys down", () => {
    const { store, desk, down, held } = setUp("play");
    down("KeyA");
    leaveEntry(store);
    // The surface closes: its keys are released.
    releaseKeys(desk, KEYS);
    expect(held).toEqual([]);
  });

  it("hold on with the pedal, and one pitch sounds once", () => {
    const { down, up, tap, held } = setUp("play");
    down("Slash");
    tap("KeyA");
    tap("KeyD");
    expect(held).toEqual(["bass 48", "bass 52"]);
    tap("KeyA");
    expect(held.filter((name) => name === "bass 48")).toHaveLength(1);
    up("Slash");
    expect(held).toEqual([]);
  });

  it("beside the layout are slips: they do nothing, and are no commands to the sheet", () => {
    const { down, heard } = setUp("play");
    expect(["KeyZ", "Digit4", "KeyM", "Semicolon"].map((code) => down(code))).toEqual([
      true,
      true,
      true,
      true,
    ]);
    // The semicolon is a key of the piano on one row.
    expect(heard).toHaveLength(1);
    expect(["Space", "Delete", "F2"].map((code) => down(code))).toEqual([false, false, false]);
  });

  it("lie where no command of playing lies, in every layout", () => {
    for (const layout of ["piano", "two-row piano", "pads", "scale rows"] as KeyLayout[]) {
      const codes = keyPlaces(layout).map(({ code }) => code);
      expect(new Set(codes).size).toBe(codes.length);
      expect(codes.filter((code) => commandOf(code, "play"))).toEqual([]);
      expect(codes).not.toContain("Comma");
      expect(codes).not.toContain("Slash");
    }
  });

  it("in rows of the scale are all right, and a chord has one shape everywhere", () => {
    const { store, down, heard } = setUp("play");
    store.getState().edit("Key", (p) => edits.setKey(p, { root: 2, scale: "dorian" }));
    setSettings({ layout: "scale rows", rowStep: 2 });
    for (const { code } of keyPlaces("scale rows")) down(code);
    const dorian = [2, 4, 5, 7, 9, 11, 0];
    expect(heard.every(({ pitch }) => dorian.includes(pitch % 12))).toBe(true);
    // With rows two degrees apart, the keys above one another are a chord in thirds.
    const pitchOf = (code: string) =>
      heard[keyPlaces("scale rows").findIndex((p) => p.code === code)]!.pitch;
    expect(["KeyZ", "KeyA", "KeyQ"].map(pitchOf)).toEqual([50, 53, 57]);
    expect(["KeyX", "KeyS", "KeyW"].map(pitchOf)).toEqual([52, 55, 59]);
  });

  it("as pads play the kit's lanes from the lower left", () => {
    const { store, down, heard } = setUp("play", { track: "drums" });
    setSettings({ layout: "pads" });
    const lanes = store.getState().project.tracks[0]!.lanes.map((lane) => lane.pitch);
    for (const code of ["KeyZ", "KeyX", "KeyA"]) down(code);
    expect(heard.map((h) => h.pitch)).toEqual([lanes[0], lanes[1], lanes[4]]);
  });
});
