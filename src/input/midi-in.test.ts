import * as edits from "@/core/edits";
import { changePart, createProject, makeNote } from "@/core/score";
import { type MidiMessage, midiBytes } from "@/core/perform";
import { writeSmf } from "@/core/formats";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { MidiIn, type MidiPort } from "./midi-in";
import { SimulatedController, fileMessages } from "./simulated";
import { NoMidi, openWebMidi } from "./web-midi";

/** A port that says what the test says. */
function fakePort(name: string) {
  let hear: ((bytes: Iterable<number>, time: number) => void) | null = null;
  const port: MidiPort = {
    id: `id ${name}`,
    name,
    simulated: false,
    listen: (listener) => {
      hear = listener;
      return () => (hear = null);
    },
  };
  return {
    port,
    say: (bytes: number[], time = 1) => hear?.(bytes, time),
    isHeard: () => hear !== null,
  };
}

function setUp() {
  const log: string[] = [];
  let changes = 0;
  const midi = new MidiIn({
    message: (message, port, time) =>
      log.push(`${port.name} ${message.type}${"pitch" in message ? message.pitch : ""}@${time}`),
    gone: (port) => log.push(`${port.name} gone`),
    changed: () => changes++,
  });
  return { midi, log, changes: () => changes };
}

describe("MIDI inputs", () => {
  it("are read each for itself, in whatever portions their bytes come", () => {
    const { midi, log } = setUp();
    const [a, b] = [fakePort("A"), fakePort("B")];
    midi.plug(a.port);
    midi.plug(b.port);
    midi.plug(a.port);
    a.say([0x90, 60]);
    b.say([0x80, 50, 0], 2);
    a.say([100], 3);
    expect(log).toEqual(["B off50@2", "A on60@3"]);
    expect(midi.ports.map((port) => port.name)).toEqual(["A", "B"]);
  });

  it("can be one, or one channel; what is no longer listened to lets go", () => {
    const { midi, log } = setUp();
    const [a, b] = [fakePort("A"), fakePort("B")];
    midi.plug(a.port);
    midi.plug(b.port);
    midi.choose({ input: "A", channel: 0 });
    expect(log).toEqual(["B gone"]);
    b.say([0x90, 60, 1]);
    expect([midi.isHeard(a.port), midi.isHeard(b.port), log.length]).toEqual([true, false, 1]);
    midi.choose({ input: "A", channel: 3 });
    a.say([0x90, 60, 1, 0x92, 61, 1, 0xff]);
    expect(log.slice(1)).toEqual(["A gone", "A on61@1", "A reset@1"]);
  });

  it("say that they are gone, once, and are heard no more", () => {
    const { midi, log } = setUp();
    const a = fakePort("A");
    midi.plug(a.port);
    midi.unplug("id A");
    midi.unplug("id A");
    expect([log, a.isHeard(), midi.ports]).toEqual([["A gone"], false, []]);
    midi.plug(a.port);
    a.say([0x90, 60, 1]);
    midi.close();
    expect(log).toEqual(["A gone", "A on60@1", "A gone"]);
  });

  it("show that they spoke, also what is not listened to", () => {
    const { midi, changes } = setUp();
    const a = fakePort("A");
    midi.plug(a.port);
    midi.choose({ input: "none", channel: 0 });
    const before = changes();
    a.say([0xf8], 1000);
    expect([midi.isActive(a.port, 1100), midi.isActive(a.port, 1500), changes() - before]).toEqual([
      true,
      false,
      1,
    ]);
  });
});

describe("the machine's MIDI", () => {
  afterEach(() => vi.unstubAllGlobals());

  it("where the browser has none is said", async () => {
    vi.stubGlobal("navigator", {});
    await expect(openWebMidi(setUp().midi)).rejects.toThrow(NoMidi);
    await expect(openWebMidi(setUp().midi)).rejects.toThrow("This browser has no Web MIDI");
  });
});

describe("the simulated controller", () => {
  beforeEach(() => vi.useFakeTimers({ toFake: ["setInterval", "clearInterval", "performance"] }));
  afterEach(() => vi.useRealTimers());

  const line = edits.setNotes(createProject({ tempo: 120 }), { pattern: "a", track: "bass" }, [
    makeNote({ id: "a", start: 0, length: 480, pitch: 50, velocity: 70 }),
    makeNote({ id: "b", start: 480, length: 480, pitch: 50, velocity: 80 }),
    makeNote({ id: "c", start: 960, length: 960, pitch: 55, velocity: 90 }),
  ]);

  /** What it sent, as messages with their times. */
  function listening() {
    const controller = new SimulatedController();
    const sent: [MidiMessage["type"], number][] = [];
    const { midi } = setUp();
    const stop = controller.listen((bytes, time) => {
      const [status] = [...bytes];
      sent.push([status! >> 4 === 9 ? "on" : status! >> 4 === 8 ? "off" : "bend", time]);
    });
    return { controller, sent, stop, midi };
  }

  it("plays a file in time, each message with the time it is meant for, ends before beginnings", () => {
    const { controller, sent } = listening();
    const begin = performance.now();
    let done = false;
    expect(controller.playFile(writeSmf(line), begin, () => (done = true))).toBe(3);
    vi.advanceTimersByTime(240);
    expect(sent).toEqual([["on", begin]]);
    vi.advanceTimersByTime(900);
    expect(sent.map(([type, time]) => [type, Math.round(time - begin)])).toEqual([
      ["on", 0],
      ["off", 250],
      ["on", 250],
      ["off", 500],
      ["on", 500],
      ["off", 1000],
    ]);
    expect([done, controller.playsFile]).toEqual([true, false]);
  });

  it("stopped in the middle, or unplugged, leaves nothing sounding", () => {
    const { controller, sent, stop } = listening();
    controller.playFile(writeSmf(line));
    vi.advanceTimersByTime(600);
    stop();
    const [on, off] = ["on", "off"].map((type) => sent.filter(([t]) => t === type).length);
    expect([on, off, controller.playsFile]).toEqual([3, 3, false]);
    controller.press(60, 90);
    expect(sent).toHaveLength(6);
  });

  it("sends the bends of a file as a wheel does, on the channel of their track", () => {
    const bent = changePart(line, { pattern: "a", track: "bass" }, (part) => ({
      ...part,
      bend: [
        { tick: 0, value: 0 },
        { tick: 960, value: 4000 },
      ],
    }));
    const bends = fileMessages(writeSmf(bent)).filter(({ message }) => message.type === "bend");
    expect(bends.length).toBeGreaterThan(20);
    expect(bends.at(-1)!.message).toMatchObject({ channel: 1 });
    expect(bends.every(({ at }, i) => i === 0 || at >= bends[i - 1]!.at)).toBe(true);
  });

  it("refuses what is no MIDI file, or holds no notes", () => {
    const { controller } = listening();
    expect(() => controller.playFile(new Uint8Array([1, 2, 3]))).toThrow("Not a MIDI file");
    expect(() => controller.playFile(writeSmf(createProject()))).toThrow();
    expect(midiBytes({ type: "on", channel: 10, pitch: 36, velocity: 1 })).toEqual([0x99, 36, 1]);
  });
});
