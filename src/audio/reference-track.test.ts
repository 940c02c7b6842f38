import { beforeEach, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject } from "@/core/score";
import { ReferenceTrack } from "./reference-track";
import type { PadJob } from "./pads/render";
import type { Stretch } from "./scheduler";

const BAR = 3840;
const TICK = 60 / 120 / 960;

/** What was started, with when and from where in the recording, and what was stopped when. */
const started: { at: number; from: number }[] = [];
const stopped: number[] = [];
const jobs: PadJob[] = [];
const listener: string[] = [];
const clock = { now: 1 };
let fails = 0;

const param = { value: 0, setValueAtTime() {}, linearRampToValueAtTime() {}, setTargetAtTime() {} };
const node = () => ({ connect: (to: unknown) => to, disconnect() {}, gain: { ...param } });
const context = {
  sampleRate: 1000,
  get currentTime() {
    return clock.now;
  },
  createGain: node,
  createBuffer: (channels: number, length: number) => ({
    duration: length / 1000,
    copyToChannel() {},
    channels,
  }),
  createBufferSource: () => ({
    ...node(),
    start: (at: number, from: number) => started.push({ at, from }),
    stop: (at: number) => stopped.push(at),
  }),
} as unknown as BaseAudioContext;

const behind = () =>
  new ReferenceTrack(
    context,
    node() as unknown as AudioNode,
    (job) => {
      jobs.push(job);
      if (fails-- > 0) return Promise.reject(new Error("the server is away"));
      // Two bars at 120, and a quarter of a second before them.
      return Promise.resolve([new Float32Array(Math.round(4250 * job.pad.stretch))]);
    },
    (text) => listener.push(text),
  );

const sample = { id: "0".repeat(32), name: "quay.wav" };
const withRecording = (tempo = 120): Project => {
  const project = createProject({ tempo: 120, bars: 4 });
  return edits.setRecording(project, project.patterns[0]!.id, { sample, tempo, first: 0.25 });
};
const stretch = (patternTick: number, ticks: number, time: number): Stretch => ({
  ...{ time, pattern: "a", patternTick, ticks, tickSeconds: TICK },
});

beforeEach(() => {
  for (const list of [started, stopped, jobs, listener]) list.length = 0;
  clock.now = 1;
  fails = 0;
});

describe("the recording behind a pattern", () => {
  it("sounds from where the pattern is, goes on through windows, and begins again with its own bars", async () => {
    const project = withRecording();
    const one = behind();
    await one.ready(project.patterns[0]!.recording!, 120);
    one.follow(project, [stretch(960, 480, 2), stretch(1440, 480, 2 + 480 * TICK)]);
    expect(started).toEqual([{ at: 2, from: 0.25 + 0.5 }]);
    // Two bars are over: it begins anew, though the pattern has four.
    one.follow(project, [stretch(1920, 2 * BAR - 1920 + 960, 2.5)]);
    expect(started).toHaveLength(2);
    expect(started[1]!.from).toBeCloseTo(0.25, 6);
    expect(started[1]!.at).toBeCloseTo(2.5 + (2 * BAR - 1920) * TICK, 6);
    expect(stopped).toHaveLength(1);
    expect(one.begun).toBe(2);
  });

  it("jumps with the playing, ends with it, and in patterns without a recording", async () => {
    const project = edits.addPattern(withRecording(), "b", "a", "empty");
    const without = edits.setRecording(project, "b", null);
    const one = behind();
    await one.ready(project.patterns[0]!.recording!, 120);
    one.follow(without, [stretch(0, 480, 2)]);
    one.follow(without, [stretch(BAR, 480, 2.25)]);
    expect(started.map(({ from }) => from)).toEqual([0.25, 2.25]);
    one.follow(without, [{ ...stretch(0, 480, 2.5), pattern: "b" }]);
    expect(stopped.at(-1)).toBeCloseTo(2.504, 6);
    one.stop();
    expect(stopped).toHaveLength(2);
  });

  it("is made longer for a slower tempo, its first bar with it", async () => {
    const project = withRecording(150);
    const one = behind();
    await one.ready(project.patterns[0]!.recording!, 120);
    expect(jobs[0]!.pad).toMatchObject({ stretch: 1.25, sample });
    one.follow(project, [stretch(0, 480, 2)]);
    expect(started[0]!.from).toBeCloseTo(0.25 * 1.25, 6);
  });

  it("tells what cannot be had, goes on without it, and tries again with the next start", async () => {
    fails = 1;
    const project = withRecording();
    const one = behind();
    await one.ready(project.patterns[0]!.recording!, 120);
    expect(listener).toEqual(["“quay.wav” is not heard: the server is away"]);
    one.follow(project, [stretch(0, 480, 2)]);
    expect(started).toEqual([]);
    expect(jobs).toHaveLength(1);
    await one.ready(project.patterns[0]!.recording!, 120);
    one.follow(project, [stretch(480, 480, 2.25)]);
    expect(started).toHaveLength(1);
  });

  it("begins late where the window is already past, at the right place", async () => {
    const project = withRecording();
    const one = behind();
    await one.ready(project.patterns[0]!.recording!, 120);
    clock.now = 3;
    one.follow(project, [stretch(0, 3840, 2.9)]);
    expect(started[0]!.at).toBe(3);
    expect(started[0]!.from).toBeCloseTo(0.25 + 0.1, 6);
  });
});
