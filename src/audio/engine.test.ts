import * as edits from "@/core/edits";
import { type Project, changePart, createProject, makeNote } from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Strike, NoteOn } from "./instrument";

const played: { track: string; note: NoteOn }[] = [];
const calls: string[] = [];
const followed: { track: string; points: { time: number; by: number }[] }[] = [];
let ready: () => Promise<void> = () => Promise.resolve();

vi.mock("./worklet/mix-port", () => ({
  TOO_LATE: 0.1,
  MixPort: class {
    lead() {}
  },
}));
vi.mock("./mixer", () => ({
  Mixer: class {
    constructor(_: unknown, makePort: () => unknown) {
      makePort();
    }
    update() {}
    ready = () => ready();
    arrived() {
      calls.push("arrived");
      return Promise.resolve();
    }
    noteOn(track: string, note: NoteOn) {
      played.push({ track, note });
    }
    follow(track: string, points: { time: number; by: number }[]) {
      if (points.length > 0) followed.push({ track, points });
    }
    hold(track: string, note: Strike) {
      calls.push(`hold ${track} ${note.pitch} at ${note.time.toFixed(3)}`);
      return {
        release: (time: number) => calls.push(`release ${note.pitch} at ${time.toFixed(3)}`),
      };
    }
    setShare() {}
    silence() {
      calls.push("silence");
    }
    dispose() {
      calls.push("dispose");
    }
  },
}));
vi.mock("./pads/renderers", () => ({
  renderHere: () => Promise.resolve([]),
  WorkerRenderer: class {
    open() {}
    close() {}
    render = () => Promise.resolve([]);
  },
}));

/** The clock of the audio, moved by the test, and the worker that wakes the engine. */
const audio = {
  heard: {} as AudioTimestamp,
  currentTime: 0,
  state: "running",
  baseLatency: 0,
  closed: false,
  clicks: 0,
};
let wake = () => {};
let broken = () => {};
const node: () => object = () => ({
  context: { createOscillator: node, createGain: node },
  connect: () => node(),
  start: () => audio.clicks++,
  stop() {},
  disconnect() {},
  frequency: {},
  gain: {
    value: 1,
    setValueAtTime() {},
    setTargetAtTime() {},
    linearRampToValueAtTime() {},
    exponentialRampToValueAtTime() {},
  },
});

beforeEach(() => {
  played.length = 0;
  calls.length = 0;
  followed.length = 0;
  ready = () => Promise.resolve();
  Object.assign(audio, { heard: {}, currentTime: 0, closed: false, clicks: 0 });
  vi.stubGlobal(
    "AudioContext",
    class {
      get currentTime() {
        return audio.currentTime;
      }
      state = "running";
      baseLatency = 0;
      audioWorklet = { addModule: () => Promise.resolve() };
      getOutputTimestamp = () => audio.heard;
      createOscillator = node;
      createGain = node;
      destination = node();
      close() {
        audio.closed = true;
        return Promise.resolve();
      }
    },
  );
  vi.stubGlobal(
    "Worker",
    class {
      onmessage: (() => void) | null = null;
      onerror: (() => void) | null = null;
      constructor() {
        wake = () => this.onmessage?.();
        broken = () => this.onerror?.();
      }
      postMessage(message: { ms: number | null }) {
        calls.push(`clock ${message.ms}`);
      }
      terminate() {
        calls.push("terminate");
      }
    },
  );
});
afterEach(() => vi.unstubAllGlobals());

const { Engine } = await import("./engine");
const { pieceSeconds } = await import("./render/pieces");
const BASS = { pattern: "a", track: "bass" };
const line = (): Project =>
  edits.setNotes(
    createProject(),
    BASS,
    Array.from({ length: 8 }, (_, i) => makeNote({ id: `n${i}`, start: i * 480, length: 240 })),
  );

/** Lets the audio clock run, waking the engine as its worker does. */
function run(seconds: number): void {
  for (const end = audio.currentTime + seconds; audio.currentTime < end;) {
    audio.currentTime += 0.025;
    wake();
  }
}

describe("the engine", () => {
  it("hands over each event of the score at its time, once, ahead of it", async () => {
    const project = line();
    const engine = new Engine(() => project);
    await engine.play("a");
    run(1.9);
    const expected = playbackEvents(project, 0, 3840, { pattern: "a" });
    const sent = engine.sent.list().slice(0, expected.length);
    expect(sent.map((note) => note.note)).toEqual(expected.map((event) => event.note));
    // At 120 BPM a quarter is half a second; a short start-up delay comes before the first.
    sent.forEach((note, i) => expect(note.due - sent[0]!.due).toBeCloseTo(i * 0.25, 6));
    expect(sent.every((note) => !note.late && note.asked <= note.due)).toBe(true);
    expect(played.every(({ note }) => note.time >= 0)).toBe(true);
  });

  it("plays on without what cannot be had, says so, and asks for it again at the next start", async () => {
    const problems: string[] = [];
    const engine = new Engine(line, (text) => problems.push(text));
    ready = () => Promise.reject(new Error("the server answered 503"));
    await engine.play("a");
    expect(engine.isPlaying).toBe(true);
    expect(problems).toEqual(["Sound cannot be had: the server answered 503"]);
    engine.stop();
    ready = () => Promise.resolve();
    await engine.play("a");
    expect(problems).toHaveLength(1);
  });

  it("counts a note that it was woken too late for, and plays it at once", async () => {
    const project = line();
    const engine = new Engine(() => project);
    await engine.play("a");
    // The first two notes are handed over; the third is due at 0.56 s.
    audio.currentTime = 0.6;
    wake();
    const late = engine.sent.list().filter((note) => note.late);
    expect(late).toHaveLength(1);
    expect(engine.sent.late).toBe(1);
    expect(played.map(({ note }) => note.time)).toContain(0.6);
  });

  it("leaves out what is more than 100 ms late after a stall, and counts it", async () => {
    const engine = new Engine(line);
    await engine.play("a");
    const before = played.length;
    audio.currentTime = 1.75;
    wake();
    // Due at 0.31, 0.56, 0.81, 1.06, 1.31 and 1.56 s; the one at 1.81 s is ahead.
    expect(engine.sent.dropped).toBe(6);
    expect(played.slice(before).map(({ note }) => note.time)).toEqual([expect.closeTo(1.81, 6)]);
  });

  it("plays on by a timer where the clock's worker breaks, and says so", async () => {
    vi.useFakeTimers();
    const said: string[] = [];
    const engine = new Engine(line, (text) => said.push(text));
    await engine.play("a");
    broken();
    expect(said).toEqual(["The clock's worker cannot be had: timing may be less steady"]);
    for (let i = 0; i < 40; i++) {
      audio.currentTime += 0.025;
      vi.advanceTimersByTime(25);
    }
    expect(played.length).toBeGreaterThan(3);
    engine.stop();
    const count = played.length;
    vi.advanceTimersByTime(1000);
    expect(played).toHaveLength(count);
    vi.useRealTimers();
  });

  it("hears an edit in its next window, and clicks while the metronome is on", async () => {
    let project = createProject();
    const engine = new Engine(() => project);
    engine.click = true;
    await engine.play("a");
    run(0.5);
    expect(engine.sent.sent).toBe(0);
    project = line();
    run(1.6);
    expect(engine.sent.sent).toBeGreaterThan(4);
    expect(engine.clicked).toBe(audio.clicks);
    expect(engine.clicked).toBeGreaterThanOrEqual(4);
  });

  it("stops the clock and what sounds, and says where it stands", async () => {
    const project = line();
    const engine = new Engine(() => project);
    expect(engine.position()).toBeNull();
    await engine.play("a", 960);
    run(0.3);
    const { pattern, tick } = engine.position()!;
    expect(pattern).toBe("a");
    // From tick 960 on: 0.3 s less the start-up delay, at 1920 ticks a second.
    expect(tick).toBeCloseTo(960 + (0.3 - 0.06) * 1920, 0);
    engine.stop();
    expect(engine.isPlaying).toBe(false);
    expect(calls.slice(-2)).toEqual(["clock null", "silence"]);
    const count = played.length;
    run(0.5);
    expect(played).toHaveLength(count);
  });

  it("stands where what is played now is written, however late sound is heard", async () => {
    const project = line();
    const engine = new Engine(() => project);
    vi.useFakeTimers({ toFake: ["performance"] });
    vi.advanceTimersByTime(5000);
    await engine.play("a");
    for (const latency of [0, 0.2, 1]) {
      run(1);
      audio.heard = {
        contextTime: audio.currentTime - latency,
        performanceTime: performance.now(),
      };
      const { tick } = engine.position()!;
      expect(tick).toBeCloseTo((audio.currentTime - latency - 0.06) * 1920, 3);
      expect(tick).toBe(engine.playedAt(performance.now())!.tick);
    }
    vi.useRealTimers();
    engine.dispose();
  });

  it("plays one note at once when something is touched, and lets go of everything at the end", async () => {
    const engine = new Engine(line);
    await engine.audition("bass", 48, 100);
    expect(played).toMatchObject([{ track: "bass", note: { pitch: 48, velocity: 100 } }]);
    expect(engine.isSounding).toBe(true);
    engine.dispose();
    for (const part of ["dispose", "terminate"]) expect(calls).toContain(part);
    expect(audio.closed).toBe(true);
  });

  it("counts in: clicks and nothing else, then the pattern from its first tick", async () => {
    const engine = new Engine(() => line());
    await engine.play("a", 0, 1);
    run(1.9);
    expect([played.length > 0, engine.clicks.every(({ countIn }) => countIn)]).toEqual([
      true,
      true,
    ]);
    // Four beats at 120 a minute, a bar of two seconds before the first note.
    expect(engine.clicks.map(({ tick }) => tick)).toEqual([-3840, -2880, -1920, -960]);
    expect(played[0]!.note.time - engine.clicks[0]!.due).toBeCloseTo(2, 6);
    expect(engine.sent.list()[0]).toMatchObject({ tick: 0, note: "n0" });
    run(2);
    expect(engine.clicks).toHaveLength(4);
    engine.dispose();
  });

  it("counts in to where it plays from, and nothing before that sounds", async () => {
    // Notes just before it too, which one window would take in with it.
    const before = [1, 2, 3, 4, 8, 15, 25, 40].map((ticks) =>
      makeNote({ id: `b${ticks}`, start: 1920 - ticks, length: 1 }),
    );
    const engine = new Engine(() => edits.addNotes(line(), BASS, before));
    await engine.play("a", 1920, 1);
    expect(engine.position()).toBeNull();
    run(3);
    expect(engine.sent.list()[0]).toMatchObject({ tick: 1920, note: "n4" });
    expect(engine.clicks[0]).toMatchObject({ tick: -1920, countIn: true });
    engine.dispose();
  });

  it("divides beats into parts, and clicks on none while it is off", async () => {
    const engine = new Engine(() => line());
    engine.click = true;
    engine.metronome = { sound: "block", level: -12, accent: false, parts: 3 };
    await engine.play("a");
    run(1);
    expect(engine.clicks.slice(0, 5).map(({ tick }) => tick)).toEqual([0, 320, 640, 960, 1280]);
    const clicked = engine.clicked;
    engine.click = false;
    run(1);
    expect(engine.clicked).toBe(clicked);
    engine.dispose();
  });

  it("begins a note by hand at once, and ends it once", async () => {
    const engine = new Engine(() => line());
    await engine.wakeUp();
    audio.currentTime = 3;
    const note = engine.hold("bass", 50, 90, performance.now());
    audio.currentTime = 3.4;
    note.release(0);
    expect(calls.filter((c) => /hold|release/.test(c))).toEqual([
      "hold bass 50 at 3.000",
      "release 50 at 3.400",
    ]);
    expect(engine.live.list()[0]!.delay).toBeLessThan(50);
    expect([engine.live.started, engine.live.ended]).toEqual([1, 1]);
    engine.dispose();
  });

  it("begins a note later where there was no sound yet, and none that was let go before", async () => {
    const engine = new Engine(() => line());
    const kept = engine.hold("bass", 50, 90, performance.now());
    const gone = new Engine(() => line());
    gone.hold("bass", 52, 90, performance.now()).release(0);
    await vi.waitFor(() => expect(engine.live.started).toBe(1));
    kept.release(0);
    expect(calls.filter((c) => /hold|release/.test(c)).map((c) => c.split(" at")[0])).toEqual([
      "hold bass 50",
      "release 50",
    ]);
    expect(gone.live.started).toBe(0);
    engine.dispose();
    gone.dispose();
  });

  it("knows where the loop was for the ear when a key was pressed, and for the hand", async () => {
    const engine = new Engine(() => line());
    await engine.play("a", 0, 1);
    audio.currentTime = 3;
    // What the clock calls 3.06 s (the pattern's first tick plus one second) is heard at 10 000 ms.
    audio.heard = { contextTime: 3.06, performanceTime: 10_000 };
    expect(engine.playedAt(10_000)!.tick).toBeCloseTo(1920, 3);
    expect(engine.playedAt(9_000)!.tick).toBeCloseTo(0, 3);
    expect(engine.playedAt(8_500)!.tick).toBeCloseTo(-960, 3);
    engine.inputLatency = 25;
    expect(engine.playedAt(10_025)!.tick).toBeCloseTo(1920, 3);
    engine.stop();
    expect(engine.playedAt(10_000)).toBeNull();
    engine.dispose();
  });

  it("bends along the curve of a part, window by window without a gap", async () => {
    const bent = changePart(line(), BASS, (part) => ({
      ...part,
      bend: [
        { tick: 0, value: 0 },
        { tick: 1920, value: 8191 },
      ],
    }));
    const engine = new Engine(() => bent);
    await engine.play("a");
    run(1);
    const points = followed.flatMap(({ points }) => points);
    expect(new Set(followed.map(({ track }) => track))).toEqual(new Set(["bass"]));
    for (const { time, by } of points) {
      // Two semitones in the first second, then held.
      const want = Math.min(2, 2 * ((time - 0.06) * 1));
      expect(Math.abs(by - want)).toBeLessThan(0.01);
    }
    expect(points.length).toBeGreaterThan(40);
    engine.dispose();
  });
});

describe("pieces", () => {
  it("are as many as are made beside each other, and neither too short nor too long", () => {
    expect(pieceSeconds(100, 1, 2)).toBe(50);
    expect(pieceSeconds(100, 1, 1)).toBe(100);
    expect(pieceSeconds(1800, 1, 2)).toBe(120);
    expect(pieceSeconds(1800, 6, 4)).toBe(40);
    expect(pieceSeconds(1800, 30, 4)).toBe(30);
    expect(pieceSeconds(24, 1, 4)).toBe(20);
  });
});
