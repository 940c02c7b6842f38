import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote } from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { bounce, bounceHeld } from "../bounce";
import { renderHere } from "../pads/renderers";
import { Rendering, type RenderCommand } from "../worklet/render-thread";
import { renderPieces } from "./pieces";
import { stemsOf } from "./stems";
import { timelineOf } from "./timeline";

const RATE = 22_050;

/** Workers that were made, each of which renders here. */
const workers: FakeWorker[] = [];
let breaks = false;

class FakeWorker {
  onmessage: (event: { data: unknown }) => void = () => undefined;
  onerror: (event: { message: string }) => void = () => undefined;
  terminated = 0;
  begun = 0;
  private rendering: Rendering | null = null;
  constructor() {
    workers.push(this);
  }
  postMessage(command: RenderCommand) {
    if (command.type === "begin") {
      this.begun++;
      this.rendering = new Rendering(command.options, command.rate);
      return;
    }
    const { commands, blocks, kept: heard } = structuredClone(command);
    queueMicrotask(() => {
      if (breaks) return this.onerror({ message: "out of memory" });
      const channels = this.rendering!.render(commands, blocks);
      this.onmessage({ data: { channels: heard ? channels : [] } });
    });
  }
  terminate() {
    this.terminated++;
  }
}

class FakeBuffer {
  readonly sides: Float32Array[];
  constructor({ length }: { length: number }) {
    this.sides = [new Float32Array(length), new Float32Array(length)];
  }
  copyToChannel(side: Float32Array, channel: number, from = 0) {
    this.sides[channel]!.set(side, from);
  }
  getChannelData(channel: number) {
    return this.sides[channel]!;
  }
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  breaks = false;
  vi.stubGlobal("Worker", FakeWorker);
  vi.stubGlobal("AudioBuffer", FakeBuffer);
  vi.stubGlobal("fetch", () => Promise.resolve(new Response("")));
});
afterEach(() => {
  // Threads that nobody needs go after a while.
  vi.advanceTimersByTime(120_000);
  vi.useRealTimers();
  workers.length = 0;
});

/** Hats with some velocity, chords under them, all of it sent to the room. */
function music(): Project {
  let project = createProject({ tempo: 128 });
  const notes = [0, 240, 700, 960, 1999, 2880, 3360].map((start, i) =>
    makeNote({ id: `h${i}`, start, pitch: 42, velocity: 60 + 9 * i }),
  );
  project = edits.setNotes(project, { pattern: "a", track: "drums" }, notes);
  const chord = [48, 55, 64].map((pitch, i) =>
    makeNote({ id: `c${i}`, start: 480, length: 2600, pitch, velocity: 80 }),
  );
  project = edits.setNotes(project, { pattern: "a", track: "bass" }, chord);
  project = edits.changeTrack(project, "bass", { sound: "sail-strings" });
  project = edits.changeMix(project, "bass", {
    reverb: -12,
    drive: 20,
    duckBy: "drums",
    duckPad: 42,
  });
  return edits.changePad(project, "drums", 42, { echo: -9, reverb: -20 });
}

const sidesOf = (buffer: AudioBuffer) => (buffer as unknown as FakeBuffer).sides;

describe("a bounce", () => {
  it("has each hit on its sample, and room for what rings", async () => {
    let project = music();
    project = edits.setNotes(project, { pattern: "a", track: "bass" }, []);
    project = edits.changePad(project, "drums", 42, { echo: -60, reverb: -60 });
    const ask = { pattern: "a", sampleRate: RATE, tail: 0.5 };
    const [left] = sidesOf(await bounce(project, 0, 3840, ask));
    expect(left).toHaveLength(Math.ceil((1.875 + 0.5) * RATE));
    const seconds = (tick: number) => (tick / 960) * (60 / 128);
    for (const { start } of playbackEvents(project, 0, 3840, { pattern: "a" })) {
      const at = Math.ceil(seconds(start) * RATE - 1e-6);
      const before = left!.subarray(Math.max(0, at - 40), at);
      const after = left!.subarray(at, at + 40);
      const power = (side: Float32Array) => side.reduce((sum, x) => sum + x * x, 0);
      expect(power(after), `at ${start}`).toBeGreaterThan(20 * power(before) + 1e-4);
    }
  });

  it("is the same again bit for bit, and in pieces but for what is forgotten of the room", async () => {
    const ask = { pattern: "a", loop: true, sampleRate: RATE, tail: 0.3 };
    const whole = sidesOf(await bounce(music(), 0, 15_360, { ...ask, piece: 100 }));
    expect(sidesOf(await bounce(music(), 0, 15_360, { ...ask, piece: 100 }))).toEqual(whole);
    const pieces = sidesOf(await bounce(music(), 0, 15_360, { ...ask, piece: 2 }));
    let apart = 0;
    whole.forEach((side, i) =>
      side.forEach((x, n) => (apart = Math.max(apart, Math.abs(x - pieces[i]![n]!)))),
    );
    // What was forgotten of the room is 100 dB down.
    expect(apart).toBeLessThan(1e-5);
    expect(whole[0]!.some((x) => Math.abs(x) > 0.05)).toBe(true);
    // One thread did it all, one after the other.
    expect(workers).toHaveLength(1);
    vi.advanceTimersByTime(120_000);
    expect(workers[0]!.terminated).toBe(1);
  });

  it("has what begins where two pieces meet once, in the one it belongs to", async () => {
    // At 120 to the minute a sixteenth is 0.125 s: pieces of two seconds meet on one.
    let project = createProject({ tempo: 120, bars: 2 });
    const hits = [0, 3839, 3840, 3841].map((start, i) =>
      makeNote({ id: `h${i}`, start, pitch: 42, velocity: 100 }),
    );
    for (const some of [hits.slice(0, 2), hits.slice(2, 3), hits.slice(3), hits]) {
      project = edits.setNotes(project, { pattern: "a", track: "drums" }, some);
      const ask = { pattern: "a", sampleRate: 32_000, tail: 0.2 };
      const whole = sidesOf(await bounce(project, 0, 7680, { ...ask, piece: 100 }));
      const pieces = sidesOf(await bounce(project, 0, 7680, { ...ask, piece: 2 }));
      expect(whole[0]!.some((x) => Math.abs(x) > 0.05)).toBe(true);
      whole.forEach((side, i) => {
        const apart = side.reduce((most, x, n) => Math.max(most, Math.abs(x - pieces[i]![n]!)), 0);
        expect(apart).toBeLessThan(1e-5);
      });
    }
  });

  it("takes an edit in the middle from its time on", async () => {
    const project = edits.changeTrack(music(), "bass", { sound: "sail-strings", pan: 0 });
    const notes = [{ pitch: 60, velocity: 100, from: 0, to: 2 }];
    const later = [{ at: 1, project: edits.changeTrack(project, "bass", { level: -60 }) }];
    const [left] = sidesOf(
      await bounceHeld(project, { track: "bass", notes, seconds: 2 }, { sampleRate: RATE, later }),
    );
    const peak = (from: number, to: number) =>
      left!.subarray(from * RATE, to * RATE).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    expect(peak(0.5, 1)).toBeGreaterThan(0.02);
    expect(peak(1.2, 2)).toBeLessThan(0.25 * peak(0.5, 1));
  });
});

describe("stems", () => {
  const render = async (sends: "apart" | "with" | "without") => {
    const project = music();
    const stems = stemsOf(project, { kind: "tracks", sends, limited: false }, ["drums", "bass"]);
    const timeline = timelineOf(project, 0, 3840, { pattern: "a" });
    const how = { rate: RATE, tail: 1, leadIn: false, beside: 1, render: renderHere };
    const outputs: Record<string, Float32Array> = {};
    for await (const piece of renderPieces({ project, timeline, stems, ...how }))
      piece.outputs.forEach(([left], i) => (outputs[stems.names[i]!] = left));
    return outputs;
  };
  const sum = (outputs: Record<string, Float32Array>) => {
    const all = Object.values(outputs);
    return all[0]!.map((_, i) => all.reduce((total, side) => total + side[i]!, 0));
  };
  const apart = (a: Float32Array, b: Float32Array) =>
    a.reduce((most, x, i) => Math.max(most, Math.abs(x - b[i]!)), 0);

  it("sum up to the same whether the room goes along with each track or by itself", async () => {
    const [along, alone, dry] = [
      await render("with"),
      await render("apart"),
      await render("without"),
    ];
    expect(Object.keys(alone)).toHaveLength(4);
    expect(Object.keys(along)).toHaveLength(2);
    expect(apart(sum(along), sum(alone))).toBeLessThan(1e-5);
    // What is heard without the room is what tracks are beside it.
    const [drums] = Object.keys(dry);
    expect(apart(dry[drums!]!, alone[drums!]!)).toBe(0);
    expect(apart(sum(dry), sum(alone))).toBeGreaterThan(0.005);
  });
});

describe("what renders", () => {
  const ask = { pattern: "a", sampleRate: RATE, tail: 0.1 };

  it("tells what broke, and the next time is another", async () => {
    breaks = true;
    await expect(bounce(music(), 0, 3840, ask)).rejects.toThrow("out of memory. Try again");
    expect(workers[0]!.terminated).toBeGreaterThan(0);
    breaks = false;
    await bounce(music(), 0, 3840, ask);
    expect(workers).toHaveLength(2);
  });

  it("stops when it is given up, and what it is then is of no use to others", async () => {
    const project = music();
    const giveUp = new AbortController();
    const timeline = timelineOf(project, 0, 38_400, { pattern: "a", loop: true });
    const how = { rate: RATE, tail: 1, leadIn: false, beside: 1, render: renderHere };
    let most = 0;
    const rendered = renderPieces({
      ...{ project, timeline, ...how, signal: giveUp.signal },
      onProgress: (done) => {
        most = done;
        if (done > 0.3) giveUp.abort(new Error("given up"));
      },
    });
    await expect(rendered.next()).rejects.toThrow("given up");
    expect(most).toBeLessThan(0.6);
    await bounce(music(), 0, 960, ask);
    expect(workers.filter(({ terminated }) => terminated === 0)).toHaveLength(1);
  });
});
