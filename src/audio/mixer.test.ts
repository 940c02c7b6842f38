import { beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { PLAIN_SEND_EFFECTS } from "@/core/sound";
import { type Track, createProject, makeTrack } from "@/core/score";
import { gainOf, type NoteOn } from "./instrument";
import { fakeContext } from "./nodes.test-helper";
import type { MakePort } from "./mixer";
import { lineLengths } from "./synth/feedback-delays";
import type { MixCommand } from "./synth/mix-sound";
import type { RoomCommand } from "./synth/send-effects-sound";
import type { PlayerCommand, TrackCommand } from "./synth/track-sound";
import { fakeThread } from "./thread.test-helper";
import type { ThreadCommand } from "./worklet/mix-port";
import type { Port } from "./worklet/port";

/** Instruments that write down what is asked of them. */
const instruments: { sound: string; log: string[] }[] = [];
vi.mock("./sounds", () => ({
  soundOf: (track: Track) => ({
    player: track.kind === "drums" ? "hits" : "voices",
    make: (_: unknown, { port: fakePort }: { port: Port<PlayerCommand> }) => {
      const own = { sound: track.sound, log: [] as string[] };
      instruments.push(own);
      return {
        noteOn: (note: NoteOn) => {
          own.log.push(`play ${note.pitch}`);
          const { time, pan } = note;
          fakePort.send({ type: "begin", id: note.pitch, time, pan, held: false, plan: SILENT });
        },
        update: (now: Track) => own.log.push(`update ${now.sound}`),
        hold: (note: NoteOn) => {
          own.log.push(`hold ${note.pitch}`);
          const { time, pan } = note;
          fakePort.send({ type: "begin", id: note.pitch, time, pan, held: true, plan: SILENT });
          return { release: () => own.log.push(`release ${note.pitch}`) };
        },
        silence: (spareHeld?: boolean) => own.log.push(spareHeld ? "silence but held" : "silence"),
        ready: () => Promise.resolve(),
      };
    },
  }),
}));

const SILENT = { waves: [], level: 0 };

const { Mixer } = await import("./mixer");
const { MixPort } = await import("./worklet/mix-port");
let audio = fakeContext();
let thread = fakeThread();
const how = { metering: false, render: () => Promise.resolve([]) };
const live: MakePort = (options, listener) => new MixPort(audio.context, options, listener);
const mixer = (metering = false) => new Mixer(audio.context, live, { ...how, metering });
const note = { time: 0, seconds: 1, pitch: 60, velocity: 90, pan: 0, tune: 0 };
const commands = () =>
  (thread.parts[0]?.commands ?? []) as unknown as (MixCommand | ThreadCommand)[];
type Said<O, S> = Extract<O, { type: S }>;
const all = <S extends MixCommand["type"]>(type: S) =>
  commands().filter((command): command is Said<MixCommand, S> => command.type === type);
/** What is said to a track by its number, of a kind. */
const said = <S extends TrackCommand["type"]>(track: number, type: S) =>
  all("track").flatMap((one) =>
    one.track === track && one.command.type === type ? [one.command as Said<TrackCommand, S>] : [],
  );
const [DRUMS, BASS] = [1, 2];
const levels = (track: number) => said(track, "levels").at(-1)!.levels;
const shapes = (track: number) => said(track, "shape").map(({ command }) => command);
const toRoom = () => all("room").map(({ command }) => command);
const gains = () => all("gain").map(({ gain }) => gain);

/** A way whose program was not fetched before. */
async function freshWay(): Promise<MakePort> {
  const port = await import("./worklet/mix-port");
  return (options, listener) => new port.MixPort(audio.context, options, listener);
}

beforeEach(() => {
  audio = fakeContext();
  thread = fakeThread();
  instruments.length = 0;
});

describe("the mixer", () => {
  it("has a strip for each track, at its level and pan, and plays a note on its own", async () => {
    const mix = mixer();
    let project = edits.changeTrack(createProject(), "bass", { level: -6, pan: 0.5 });
    project = edits.changeTrack(project, "drums", { level: -60 });
    mix.update(project);
    await mix.ready();
    const sends = { reverb: 0, echo: 0 };
    // −60 dB is the bottom of a level and silent.
    expect([DRUMS, BASS].map(levels)).toEqual([
      { gain: 0, pan: 0, sends },
      { gain: gainOf(-6), pan: 0.5, sends },
    ]);
    expect([DRUMS, BASS].map((track) => said(track, "make").map(({ player }) => player))).toEqual([
      ["hits"],
      ["voices"],
    ]);
    mix.noteOn("bass", note);
    mix.noteOn("nobody", note);
    expect(instruments.map(({ log }) => log.filter((line) => line.startsWith("play")))).toEqual([
      [],
      ["play 60"],
    ]);
    await mix.arrived();
    expect([DRUMS, BASS].map((track) => said(track, "tell").length)).toEqual([0, 1]);
  });

  it("makes another instrument of another melodic sound, and lets a kit change its own", () => {
    const mix = mixer();
    const project = createProject();
    mix.update(project);
    mix.update(edits.changeTrack(project, "bass", { sound: "glass-keys" }));
    expect(instruments.map((one) => one.sound)).toEqual([
      project.tracks[0]!.sound,
      "reed-bass",
      "glass-keys",
    ]);
    // What was asked of the sound before still plays, and stopping reaches it.
    expect(instruments[1]!.log).not.toContain("silence");
    mix.silence();
    expect(instruments[1]!.log).toContain("silence but held");
    mix.update(edits.changeTrack(project, "drums", { sound: "signal" }));
    expect(instruments[0]!.log).toContain("update signal");
    expect(instruments[0]!.log).not.toContain("silence");
  });

  it("lets go of what a track sounded with before when it has rung out", async () => {
    const mix = mixer();
    const project = createProject();
    mix.update(project);
    await mix.ready();
    mix.update(edits.changeTrack(project, "bass", { sound: "glass-keys" }));
    await mix.arrived();
    expect(said(BASS, "make").map(({ id }) => id)).toEqual([1, 2]);
    expect(said(BASS, "drop")).toEqual([]);
    audio.clock.currentTime = 30;
    mix.update(edits.changeTrack(project, "bass", { sound: "wire-lead" }));
    await mix.arrived();
    // The second still rings, until the track goes.
    expect(said(BASS, "drop").map(({ id }) => id)).toEqual([1]);
    mix.dispose();
    expect(said(BASS, "drop").map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(commands().at(-1)).toEqual({ type: "end" });
  });

  it("leaves tracks that did not change alone, and lets go of those that are gone", async () => {
    const mix = mixer();
    const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
    const project = edits.addTrack(createProject(), lead);
    mix.update(project);
    await mix.ready();
    const before = instruments.map((one) => one.log.length);
    mix.update(edits.setTempo(project, 90));
    expect(instruments.map((one) => one.log.length)).toEqual(before);
    mix.update(edits.deleteTrack(project, "lead"));
    expect(instruments[2]!.log).toContain("silence");
    await mix.arrived();
    expect(all("remove").map(({ track }) => track)).toEqual([3]);
  });

  it("silences what is scheduled but not what is held, and reads meters where it has them", async () => {
    const mix = mixer(true);
    mix.update(createProject());
    await mix.ready();
    const held = mix.hold("bass", note)!;
    mix.silence();
    expect(instruments.every((one) => one.log.includes("silence but held"))).toBe(true);
    held.release(1);
    expect(instruments[1]!.log.slice(-3)).toEqual(["hold 60", "silence but held", "release 60"]);
    expect(mix.hold("nobody", note)).toBeNull();
    mix.dispose();
    expect(thread.parts[0]!.disconnected).toBe(1);
  });

  it("reads how strong everything is, as it was told last, and nothing when that is long ago", async () => {
    const clock = vi.spyOn(performance, "now").mockReturnValue(0);
    const mix = mixer(true);
    mix.update(createProject());
    await mix.ready();
    expect(thread.parts[0]!.options.processorOptions.metering).toBe(true);
    expect([mix.levelOf("bass"), mix.peakOf("bass"), mix.masterLevel()]).toEqual([
      -Infinity,
      -Infinity,
      -Infinity,
    ]);
    const tell = (rms: number, peak: number) => {
      const tracks = [[BASS, { rms, peak }]];
      thread.parts[0]!.tell({ tracks, whole: { rms: rms / 2, peak: peak / 2 } });
    };
    tell(0.1, 0.5);
    expect(mix.levelOf("bass")).toBeCloseTo(-20, 6);
    expect(mix.masterLevel()).toBeCloseTo(-26.02, 2);
    expect(mix.peakOf("bass")).toBeCloseTo(-6.02, 2);
    // The level falls slowly; the highest sample is that of the last two times.
    tell(0, 0.1);
    expect(mix.levelOf("bass")).toBeCloseTo(-20 - 3.1, 1);
    expect(mix.masterPeak()).toBeCloseTo(-12.04, 2);
    tell(0, 0);
    tell(0, 0);
    expect(mix.masterPeak()).toBe(-Infinity);
    expect(mix.levelOf("nobody")).toBe(-Infinity);
    tell(0.5, 0.5);
    clock.mockReturnValue(1000);
    expect([mix.levelOf("bass"), mix.masterPeak()]).toEqual([-Infinity, -Infinity]);
    clock.mockRestore();
  });

  it("passes on why a block could not be made", async () => {
    const why: string[] = [];
    const fakePort: MakePort = (options, listener) =>
      new MixPort(audio.context, options, listener, (problem) => why.push(problem));
    const mix = new Mixer(audio.context, fakePort, how);
    mix.update(createProject());
    await mix.ready();
    thread.parts[0]!.tell({ problem: "out of bounds" });
    expect(why).toEqual(["out of bounds"]);
    expect(mix.masterLevel()).toBe(-Infinity);
  });

  it("makes a reverb and an echo when something is first sent there, and none for what is straight", async () => {
    const mix = mixer();
    let project = createProject();
    mix.update(project);
    await mix.ready();
    expect(toRoom()).toEqual([]);
    project = edits.changeMix(project, "bass", { reverb: -9 });
    project = edits.changeRoom(project, { decay: 2500, preDelay: 10 });
    mix.update(project);
    await mix.arrived();
    const [reverb, hall] = toRoom();
    expect(toRoom()).toHaveLength(2);
    expect(reverb).toEqual({ type: "reverb", frames: 441, tone: PLAIN_SEND_EFFECTS.tone });
    const { values } = hall as Extract<RoomCommand, { type: "hall" }>;
    expect(values.lengths).toHaveLength(8);
    expect(values.left).toHaveLength(values.right.length);
    expect(levels(BASS)).toMatchObject({ sends: { reverb: gainOf(-9), echo: 0 } });
    project = edits.changeMix(project, "bass", { echo: -3 });
    mix.update(project);
    await mix.arrived();
    // Dotted eighths at 120 BPM, in samples.
    expect(toRoom().at(-1)).toMatchObject({ type: "echo", values: { frames: 16_538 } });
    expect(commands().at(-1)!.type).toBe("answer");
    mix.dispose();
    expect(commands().at(-1)).toEqual({ type: "end" });
  });

  it("makes another room when decay or size change, one at a time, the last of those asked for", async () => {
    vi.useFakeTimers();
    const mix = mixer();
    let project = edits.changeMix(createProject(), "bass", { reverb: -9 });
    mix.update(project);
    await mix.ready();
    const halls = async () => {
      await Promise.resolve();
      return toRoom().flatMap((command) =>
        command.type === "hall" ? [command.values.lengths[0]] : [],
      );
    };
    const first = await halls();
    expect(first).toHaveLength(1);
    project = edits.changeRoom(project, { tone: 3000 });
    mix.update(project);
    expect(await halls()).toEqual(first);
    expect(toRoom().at(-1)).toMatchObject({ type: "reverb", tone: 3000 });
    for (const size of [50, 60, 70, 90]) {
      project = edits.changeRoom(project, { size });
      mix.update(project);
    }
    expect(await halls()).toHaveLength(2);
    vi.advanceTimersByTime(300);
    const sizes = await halls();
    expect(sizes).toHaveLength(3);
    expect(sizes[2]).toBe(lineLengths(90, 44_100)[0]);
    vi.advanceTimersByTime(300);
    expect(await halls()).toHaveLength(3);
    mix.dispose();
    vi.useRealTimers();
  });

  it("tells tracks of shelves, drive and compressor, plain or not", async () => {
    const mix = mixer();
    const project = createProject();
    mix.update(project);
    await mix.ready();
    const plain = { low: 0, high: 0, drive: 0, compress: 0 };
    expect(shapes(BASS)).toEqual([{ type: "set", values: plain }]);
    const change = { low: 6, high: -4, compress: 50 };
    mix.update(edits.changeMix(project, "bass", change));
    await mix.arrived();
    expect(shapes(BASS).at(-1)).toEqual({ type: "set", values: { ...plain, ...change } });
    expect(shapes(DRUMS)).toHaveLength(1);
    mix.dispose();
    expect(commands().at(-1)).toEqual({ type: "end" });
  });

  it("ducks a track by the hits of one lane of another, by depth and velocity, and back by its release", async () => {
    const mix = mixer();
    const project = edits.changeMix(createProject(), "bass", {
      duckBy: "drums",
      duckDepth: 12,
      duckRelease: 230,
    });
    mix.update(project);
    await mix.ready();
    const listener = async () => {
      await Promise.resolve();
      return shapes(BASS).filter(({ type }) => type !== "set");
    };
    mix.noteOn("drums", { ...note, pitch: 38, time: 1 });
    mix.noteOn("bass", { ...note, pitch: 36, time: 1 });
    expect(await listener()).toEqual([]);
    mix.noteOn("drums", { ...note, pitch: 36, time: 2, velocity: 127 });
    mix.hold("drums", { ...note, pitch: 36, time: 3, velocity: 64 });
    const hit = { type: "duck", depth: 12, release: 230 };
    expect(await listener()).toEqual([
      { ...hit, time: 2, velocity: 127 },
      { ...hit, time: 3, velocity: 64 },
    ]);
    // Nothing ducks any longer.
    mix.update(edits.changeMix(project, "bass", { duckBy: "" }));
    mix.noteOn("drums", { ...note, pitch: 36, time: 4 });
    expect((await listener()).slice(2)).toEqual([{ type: "rest" }]);
    // And stopping forgets the hits that are to come.
    mix.update(project);
    mix.noteOn("drums", { ...note, pitch: 36, time: 5 });
    mix.silence();
    expect((await listener()).slice(3)).toMatchObject([{ type: "duck" }, { type: "rest" }]);
  });

  it("says what cannot be had only when all else is there, and asks for it again", async () => {
    let there = false;
    // A program that was fetched before stays.
    vi.resetModules();
    const fresh = await import("./mixer");
    thread = fakeThread(() => Promise.resolve(new Response("", { status: there ? 200 : 503 })));
    const mix = new fresh.Mixer(audio.context, await freshWay(), how);
    const project = edits.changeMix(createProject(), "bass", { drive: 20 });
    mix.update(project);
    await expect(mix.ready()).rejects.toThrow("503");
    expect(thread.parts).toEqual([]);
    there = true;
    await mix.ready();
    expect(shapes(BASS)).toMatchObject([{ values: { drive: 20 } }]);
  });

  it("keeps what is asked for until the audio thread is there, but not what is due by then", async () => {
    vi.resetModules();
    const fresh = await import("./mixer");
    let come: (answer: Response) => void = () => undefined;
    thread = fakeThread(() => new Promise((resolve) => (come = resolve)));
    const mix = new fresh.Mixer(audio.context, await freshWay(), how);
    const project = edits.changeMix(createProject(), "bass", { duckBy: "drums" });
    mix.update(project);
    // Of more than are kept the oldest are not; what holds from now on is not among them.
    for (let i = 0; i < 2000; i++) mix.noteOn("drums", { ...note, pitch: 38, time: 3 + i });
    mix.noteOn("bass", { ...note, pitch: 50, time: 1 });
    mix.hold("bass", { ...note, pitch: 51, time: 1 });
    mix.noteOn("drums", { ...note, pitch: 36, time: 1 });
    mix.noteOn("bass", { ...note, pitch: 52, time: 3 });
    mix.noteOn("drums", { ...note, pitch: 36, time: 3 });
    audio.clock.currentTime = 2;
    come(new Response(""));
    await mix.ready();
    const begun = (track: number) =>
      said(track, "tell").map(({ command }) => (command as Said<PlayerCommand, "begin">).id);
    expect(begun(BASS)).toEqual([51, 52]);
    expect(shapes(BASS)).toMatchObject([{ type: "set" }, { type: "duck", time: 3 }]);
    expect(said(DRUMS, "make")).toHaveLength(1);
    expect(levels(DRUMS)).toMatchObject({ gain: 1 });
    expect(begun(DRUMS).length).toBeGreaterThan(900);
    expect(begun(DRUMS).length).toBeLessThanOrEqual(1000);
  });

  it("turns the whole up and down", async () => {
    const mix = mixer();
    mix.update(edits.changeRoom(createProject(), { level: -3 }));
    await mix.ready();
    expect(gains()).toEqual([expect.closeTo(gainOf(-8), 9)]);
    mix.update(edits.changeRoom(createProject(), { level: 2 }));
    await mix.arrived();
    expect(gains().at(-1)).toBeCloseTo(gainOf(-3), 9);
  });
});
