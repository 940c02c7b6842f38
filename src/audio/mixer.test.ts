import { beforeEach, describe, expect, it, vi } from "vitest";
import { createProject, edits, makeTrack, type Track } from "@/core";
import type { Trigger } from "./instrument";

/** Nodes of the audio library as far as the mixer sets them: values, and whether they are let go. */
const made: { kind: string; disposed: boolean; node: FakeNode }[] = [];
class FakeNode {
  volume = { value: 0 };
  pan = { value: 0 };
  curve: unknown = null;
  private readonly entry;
  constructor() {
    this.entry = { kind: this.constructor.name, disposed: false, node: this as FakeNode };
    made.push(this.entry);
  }
  chain() {}
  connect() {}
  getValue() {
    return -12;
  }
  dispose() {
    this.entry.disposed = true;
  }
}

vi.mock("tone", () => ({
  Volume: class Volume extends FakeNode {},
  Gain: class Gain extends FakeNode {},
  WaveShaper: class WaveShaper extends FakeNode {},
  Meter: class Meter extends FakeNode {},
  Channel: class Channel extends FakeNode {},
  connect: () => undefined,
}));

/** Instruments that write down what is asked of them. */
const instruments: { sound: string; log: string[] }[] = [];
vi.mock("./sounds", () => ({
  soundOf: (track: Track) => ({
    make: () => {
      const own = { sound: track.sound, log: [] as string[] };
      instruments.push(own);
      return {
        trigger: (note: Trigger) => own.log.push(`play ${note.pitch}`),
        update: (now: Track) => own.log.push(`update ${now.sound}`),
        hold: (note: Trigger) => {
          own.log.push(`hold ${note.pitch}`);
          return { release: () => own.log.push(`release ${note.pitch}`) };
        },
        silence: (spareHeld?: boolean) => own.log.push(spareHeld ? "silence but held" : "silence"),
        ready: () => Promise.resolve(),
      };
    },
  }),
}));

const { Mixer } = await import("./mixer");
const native = { destination: {}, createGain: () => ({ gain: {}, disconnect() {} }) } as never;
const mixer = (metering = false) =>
  new Mixer({} as never, native, metering, () => Promise.resolve([]));
const note = { time: 0, seconds: 1, pitch: 60, velocity: 90, pan: 0, tune: 0 };
const channels = () => made.filter((one) => one.kind === "Channel");

beforeEach(() => {
  made.length = 0;
  instruments.length = 0;
});

describe("the mixer", () => {
  it("has a strip for each track, at its level and pan, and plays a note on its own", () => {
    const mix = mixer();
    let project = edits.changeTrack(createProject(), "bass", { level: -6, pan: 0.5 });
    project = edits.changeTrack(project, "drums", { level: -60 });
    mix.update(project);
    expect(channels().map(({ node }) => [node.volume.value, node.pan.value])).toEqual([
      [-Infinity, 0],
      [-6, 0.5],
    ]);
    mix.trigger("bass", note);
    mix.trigger("nobody", note);
    expect(instruments.map(({ log }) => log.filter((line) => line.startsWith("play")))).toEqual([
      [],
      ["play 60"],
    ]);
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
    expect(instruments[1]!.log).toContain("silence");
    mix.update(edits.changeTrack(project, "drums", { sound: "signal" }));
    expect(instruments[0]!.log).toContain("update signal");
    expect(instruments[0]!.log).not.toContain("silence");
  });

  it("leaves tracks that did not change alone, and lets go of those that are gone", () => {
    const mix = mixer();
    const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
    const project = edits.addTrack(createProject(), lead);
    mix.update(project);
    const before = instruments.map((one) => one.log.length);
    mix.update(edits.setTempo(project, 90));
    expect(instruments.map((one) => one.log.length)).toEqual(before);
    mix.update(edits.deleteTrack(project, "lead"));
    expect(instruments[2]!.log).toContain("silence");
    expect(channels().map((one) => one.disposed)).toEqual([false, false, true]);
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
    expect(channels().every((one) => one.disposed)).toBe(true);
    const meters = made.filter((one) => one.kind === "Meter");
    expect(meters.length).toBeGreaterThan(2);
    expect(meters.every((one) => one.disposed)).toBe(true);
  });
});
