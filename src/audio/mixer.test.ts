import { beforeEach, describe, expect, it, vi } from "vitest";
import { createProject, edits, makeTrack, type Track } from "@/core";
import { gainOf, type Trigger } from "./instrument";
import { fakeContext } from "./nodes.test-helper";
import type { PlayerOrder } from "./synth/track-sound";
import { fakeThread, type FakePart } from "./thread.test-helper";
import type { Way } from "./worklet/thread-port";

/** Meters of the audio library, and whether they are let go. */
const meters: { disposed: boolean }[] = [];
vi.mock("tone", () => ({
  Meter: class {
    disposed = false;
    constructor() {
      meters.push(this);
    }
    getValue() {
      return -12;
    }
    dispose() {
      this.disposed = true;
    }
  },
  connect: () => undefined,
}));

/** Instruments that write down what is asked of them. */
const instruments: { sound: string; log: string[] }[] = [];
vi.mock("./sounds", () => ({
  soundOf: (track: Track) => ({
    player: track.kind === "drums" ? "hits" : "voices",
    make: (_: unknown, { way }: { way: Way<PlayerOrder> }) => {
      const own = { sound: track.sound, log: [] as string[] };
      instruments.push(own);
      return {
        trigger: (note: Trigger) => {
          own.log.push(`play ${note.pitch}`);
          const { time, pan } = note;
          way.order({ say: "begin", id: note.pitch, time, pan, held: false, plan: SILENT });
        },
        update: (now: Track) => own.log.push(`update ${now.sound}`),
        hold: (note: Trigger) => {
          own.log.push(`hold ${note.pitch}`);
          const { time, pan } = note;
          way.order({ say: "begin", id: note.pitch, time, pan, held: true, plan: SILENT });
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
let audio = fakeContext();
let thread = fakeThread();
const mixer = (metering = false) =>
  new Mixer({} as never, audio.context, metering, () => Promise.resolve([]));
const note = { time: 0, seconds: 1, pitch: 60, velocity: 90, pan: 0, tune: 0 };
/** The parts of the audio thread that make the tracks, in their order. */
const tracks = () => thread.of("track");
const said = (part: FakePart | undefined, say: string) =>
  part!.orders.filter((order) => order.say === say);
const levels = (part: FakePart | undefined) => said(part, "levels").at(-1)!.levels;
const shapes = (part: FakePart | undefined) => said(part, "shape").map(({ order }) => order);
const gains = () => audio.of("Gain").map((node) => node.param("gain"));

beforeEach(() => {
  audio = fakeContext();
  thread = fakeThread();
  meters.length = 0;
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
    expect(tracks().map(levels)).toEqual([
      { gain: 0, pan: 0, sends },
      { gain: gainOf(-6), pan: 0.5, sends },
    ]);
    expect(tracks().map((part) => said(part, "make").map(({ player }) => player))).toEqual([
      ["hits"],
      ["voices"],
    ]);
    mix.trigger("bass", note);
    mix.trigger("nobody", note);
    expect(instruments.map(({ log }) => log.filter((line) => line.startsWith("play")))).toEqual([
      [],
      ["play 60"],
    ]);
    await mix.arrived();
    expect(tracks().map((part) => said(part, "tell").length)).toEqual([0, 1]);
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
    const [, bass] = tracks();
    mix.update(edits.changeTrack(project, "bass", { sound: "glass-keys" }));
    await mix.arrived();
    expect(said(bass, "make").map(({ id }) => id)).toEqual([1, 2]);
    expect(said(bass, "drop")).toEqual([]);
    audio.clock.currentTime = 30;
    mix.update(edits.changeTrack(project, "bass", { sound: "wire-lead" }));
    await mix.arrived();
    // The second still rings, until the track goes.
    expect(said(bass, "drop").map(({ id }) => id)).toEqual([1]);
    mix.dispose();
    expect(said(bass, "drop").map(({ id }) => id)).toEqual([1, 2, 3]);
    expect(bass!.orders.at(-1)).toEqual({ say: "end" });
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
    expect(tracks().map((one) => one.disconnected)).toEqual([0, 0, 1]);
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
    expect([mix.levelOf("bass"), mix.levelOf("nobody"), mix.masterLevel()]).toEqual([
      -12,
      -Infinity,
      -12,
    ]);
    expect(mixer().masterLevel()).toBe(-Infinity);
    mix.dispose();
    expect(tracks().every((one) => one.disconnected > 0)).toBe(true);
    expect(meters.length).toBeGreaterThan(2);
    expect(meters.every((one) => one.disposed)).toBe(true);
  });

  it("makes a reverb and an echo when something is first sent there, and none for what is straight", async () => {
    const mix = mixer();
    let project = createProject();
    mix.update(project);
    const plain = audio.nodes.length;
    expect(audio.of("Convolver")).toEqual([]);
    project = edits.changeMix(project, "bass", { reverb: -9 });
    project = edits.changeRoom(project, { decay: 2500 });
    mix.update(project);
    await mix.ready();
    expect(audio.of("Convolver")).toHaveLength(1);
    const [lines] = thread.of("lines");
    expect(lines!.options.processorOptions.lengths).toHaveLength(8);
    // What comes before the room goes into the lines, and out of them through what dulls it.
    expect(audio.of("Convolver")[0]!.to).toEqual([lines]);
    expect(lines!.to).toEqual([audio.of("BiquadFilter")[0]]);
    expect(levels(tracks()[1])).toMatchObject({ sends: { reverb: gainOf(-9), echo: 0 } });
    // The second output, of one channel, leads to the reverb.
    expect(tracks()[1]!.options.outputChannelCount).toEqual([2, 1, 2]);
    expect(tracks().map((part) => part.outputs)).toEqual([[0], [0, 1]]);
    mix.update(edits.changeMix(project, "bass", { echo: -3 }));
    await mix.arrived();
    const [echoes] = thread.of("echoes");
    // Dotted eighths at 120 BPM, in samples.
    expect(echoes!.orders[0]).toMatchObject({ say: "set", values: { frames: 16_538 } });
    expect(echoes!.orders.at(-1)!.say).toBe("answer");
    expect(audio.nodes.length).toBeGreaterThan(plain);
    mix.dispose();
    expect(lines!.orders).toEqual([{ say: "end" }]);
  });

  it("tells tracks of shelves, drive and compressor, plain or not", async () => {
    const mix = mixer();
    const project = createProject();
    mix.update(project);
    await mix.ready();
    const plain = { low: 0, high: 0, drive: 0, compress: 0 };
    expect(shapes(tracks()[1])).toEqual([{ say: "set", values: plain }]);
    const change = { low: 6, high: -4, compress: 50 };
    mix.update(edits.changeMix(project, "bass", change));
    await mix.arrived();
    expect(shapes(tracks()[1]).at(-1)).toEqual({ say: "set", values: { ...plain, ...change } });
    expect(shapes(tracks()[0])).toHaveLength(1);
    mix.dispose();
    expect(tracks()[1]!.orders.at(-1)).toEqual({ say: "end" });
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
    const told = async () => {
      await Promise.resolve();
      return shapes(tracks()[1]).filter((order) => (order as { say: string }).say !== "set");
    };
    mix.trigger("drums", { ...note, pitch: 38, time: 1 });
    mix.trigger("bass", { ...note, pitch: 36, time: 1 });
    expect(await told()).toEqual([]);
    mix.trigger("drums", { ...note, pitch: 36, time: 2, velocity: 127 });
    mix.hold("drums", { ...note, pitch: 36, time: 3, velocity: 64 });
    const hit = { say: "duck", depth: 12, release: 230 };
    expect(await told()).toEqual([
      { ...hit, time: 2, velocity: 127 },
      { ...hit, time: 3, velocity: 64 },
    ]);
    // Nothing ducks any longer.
    mix.update(edits.changeMix(project, "bass", { duckBy: "" }));
    mix.trigger("drums", { ...note, pitch: 36, time: 4 });
    expect((await told()).slice(2)).toEqual([{ say: "rest" }]);
    // And stopping forgets the hits that are to come.
    mix.update(project);
    mix.trigger("drums", { ...note, pitch: 36, time: 5 });
    mix.silence();
    expect((await told()).slice(3)).toMatchObject([{ say: "duck" }, { say: "rest" }]);
  });

  it("says what cannot be had only when all else is there, and asks for it again", async () => {
    let there = false;
    // A program that was fetched before stays.
    vi.resetModules();
    const fresh = await import("./mixer");
    thread = fakeThread(() => Promise.resolve(new Response("", { status: there ? 200 : 503 })));
    const mix = new fresh.Mixer({} as never, audio.context, false, () => Promise.resolve([]));
    const project = edits.changeMix(createProject(), "bass", { drive: 20 });
    mix.update(project);
    await expect(mix.ready()).rejects.toThrow("503");
    expect(thread.parts).toEqual([]);
    there = true;
    await mix.ready();
    expect(shapes(tracks()[1])).toMatchObject([{ values: { drive: 20 } }]);
  });

  it("keeps what is asked for until the audio thread is there, but not what is due by then", async () => {
    vi.resetModules();
    const fresh = await import("./mixer");
    let come: (answer: Response) => void = () => undefined;
    thread = fakeThread(() => new Promise((resolve) => (come = resolve)));
    const mix = new fresh.Mixer({} as never, audio.context, false, () => Promise.resolve([]));
    const project = edits.changeMix(createProject(), "bass", { duckBy: "drums" });
    mix.update(project);
    mix.trigger("bass", { ...note, pitch: 50, time: 1 });
    mix.hold("bass", { ...note, pitch: 51, time: 1 });
    mix.trigger("drums", { ...note, pitch: 36, time: 1 });
    mix.trigger("bass", { ...note, pitch: 52, time: 3 });
    mix.trigger("drums", { ...note, pitch: 36, time: 3 });
    // Of more than are kept the oldest are not; what holds from now on is not among them.
    for (let i = 0; i < 2000; i++) mix.trigger("drums", { ...note, pitch: 38, time: 3 + i });
    audio.clock.currentTime = 2;
    come(new Response(""));
    await mix.ready();
    const begun = (part: FakePart | undefined) =>
      said(part, "tell").map(({ order }) => (order as Extract<PlayerOrder, { say: "begin" }>).id);
    expect(begun(tracks()[1])).toEqual([51, 52]);
    expect(shapes(tracks()[1])).toMatchObject([{ say: "set" }, { say: "duck", time: 3 }]);
    expect(said(tracks()[0], "make")).toHaveLength(1);
    expect(levels(tracks()[0])).toMatchObject({ gain: 1 });
    expect(begun(tracks()[0]).length).toBeGreaterThan(900);
    expect(begun(tracks()[0]).length).toBeLessThanOrEqual(1000);
  });

  it("turns the whole up and down, and takes new values slowly once there is sound", () => {
    const mix = mixer();
    mix.update(edits.changeRoom(createProject(), { level: -3 }));
    expect(gains()[0]!.value).toBeCloseTo(gainOf(-8), 9);
    // At once, where nothing sounds yet: an offline render begins as it is to be.
    expect(gains()[0]!.asked).toEqual([]);
    audio.clock.currentTime = 5;
    mix.update(edits.changeRoom(createProject(), { level: 2 }));
    expect(gains()[0]!.asked.at(-1)).toEqual({ how: "target", value: gainOf(-3), time: 5 });
  });
});
