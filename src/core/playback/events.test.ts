import * as edits from "../edits";
import { MAX_EARLY, grid } from "../time";
import { type Lane, type Note, type Project, createProject, makeTrack, partOf } from "../score";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { playbackEvents } from "./events";

const DRUMS = { pattern: "a", track: "drums" };
let made = 0;
const ids = () => () => `w${made++}`;
const BASS = { pattern: "a", track: "bass" };

const withNotes = (place: typeof DRUMS, notes: Note[], project = createProject({ bars: 1 })) =>
  edits.setNotes(project, place, notes);
const starts = (project: Project, from: number, to: number, options = {}) =>
  playbackEvents(project, from, to, options).map((event) => event.start);
const lane = (project: Project, pitch: number, change: Partial<Lane>) =>
  edits.changeLane(project, "drums", `lane-${pitch}`, change);

describe("playbackEvents", () => {
  it("repeats the pattern for as long as it is asked", () => {
    const project = withNotes(BASS, [n(0), n(960)]);
    expect(starts(project, 0, 3 * 3840)).toEqual([0, 960, 3840, 4800, 7680, 8640]);
    expect(starts(project, 0, 3 * 3840, { loop: false })).toEqual([0, 960]);
  });

  it("is half-open: an onset on the end belongs to the next window", () => {
    const project = withNotes(BASS, [n(960)]);
    expect(starts(project, 0, 960)).toEqual([]);
    expect(starts(project, 960, 961)).toEqual([960]);
  });

  it("sounds an early hit at the end of the loop before, at the very beginning at once", () => {
    const project = withNotes(DRUMS, [n(-20, { pitch: 36 })]);
    expect(starts(project, 0, 2 * 3840)).toEqual([0, 3820, 7660]);
    expect(starts(project, 0, 3840, { loop: false })).toEqual([0]);
  });

  it("repeats a short part, and a lane with its own steps, under the pattern", () => {
    let project = withNotes(
      DRUMS,
      [n(0, { pitch: 36 }), n(240, { pitch: 37 })],
      createProject({ bars: 2 }),
    );
    project = edits.setPartLength(project, DRUMS, 3840);
    project = lane(project, 37, { steps: 5, grid: grid(16) });
    const of = (pitch: number) =>
      playbackEvents(project, 0, 7680)
        .filter((e) => e.pitch === pitch)
        .map((e) => e.start);
    expect(of(36)).toEqual([0, 3840]);
    expect(of(37)).toEqual([240, 1440, 2640, 3840, 5040, 6240, 7440]);
  });

  it("leaves out what is muted or not on solo, unless all is asked for", () => {
    const base = withNotes(
      BASS,
      [n(5)],
      withNotes(DRUMS, [n(0, { pitch: 36 }), n(1, { pitch: 38 })]),
    );
    expect(starts(base, 0, 100)).toEqual([0, 1, 5]);
    expect(starts(edits.changeTrack(base, "bass", { mute: true }), 0, 100)).toEqual([0, 1]);
    expect(starts(edits.changeTrack(base, "bass", { solo: true }), 0, 100)).toEqual([5]);
    expect(starts(lane(base, 36, { mute: true }), 0, 100)).toEqual([1, 5]);
    expect(starts(lane(base, 36, { solo: true }), 0, 100)).toEqual([0, 5]);
    const muted = edits.changeTrack(lane(base, 36, { mute: true }), "bass", { mute: true });
    expect(starts(muted, 0, 100, { all: true })).toEqual([0, 1, 5]);
  });

  it("plays the song in order, one pattern when asked, else all patterns", () => {
    let project = edits.addPattern(withNotes(BASS, [n(0)]), "b", "a", "empty");
    project = edits.setNotes(project, { pattern: "b", track: "bass" }, [n(480)]);
    expect(starts(project, 0, 2 * 3840)).toEqual([0, 4320]);
    expect(starts(project, 0, 3840, { pattern: "b" })).toEqual([480]);
    const song = [
      { id: "s1", pattern: "b", times: 2 },
      { id: "s2", pattern: "a", times: 1 },
    ];
    expect(starts({ ...project, song }, 0, 3 * 3840)).toEqual([480, 4320, 7680]);
    expect(() => playbackEvents(project, 0, 1, { pattern: "zz" })).toThrow(/zz/);
  });

  it("plays what the chain makes of the notes", () => {
    const step = { id: "s", transform: "roll", on: true, params: { count: 4 }, scope: null };
    const project = edits.addStep(withNotes(BASS, [n(0, { length: 960 })]), BASS, step);
    expect(starts(project, 0, 3840)).toEqual([0, 240, 480, 720]);
    expect(starts(edits.changeStep(project, BASS, "s", { on: false }), 0, 3840)).toEqual([0]);
    const written = edits.writeChain(project, BASS, ids());
    expect(starts(written, 0, 3840)).toEqual([0, 240, 480, 720]);
    expect(partOf(written, BASS).chain).toEqual([]);
  });

  it("gives the same events, each once, however time is cut into windows", () => {
    const cuts = fc.array(fc.integer({ min: 0, max: 20_000 }), { maxLength: 12 });
    const lanes = fc.record({
      steps: fc.option(fc.integer({ min: 1, max: 40 })),
      value: fc.constantFrom(4, 8, 16, 32),
    });
    const length = fc.integer({ min: 100, max: 7680 });
    fc.assert(
      fc.property(
        anyNotes,
        anyNotes,
        cuts,
        lanes,
        length,
        fc.boolean(),
        (hits, line, at, own, ticks, song) => {
          let project = createProject({ bars: 2 });
          const onPads = hits.map((note) => ({
            ...note,
            // Earlier than MAX_EARLY is outside the model.
            start: Math.max(-MAX_EARLY, (note.start % 4000) - 100),
            pitch: [36, 38, 42][note.pitch % 3]!,
          }));
          project = edits.setNotes(project, DRUMS, onPads);
          project = edits.setNotes(
            project,
            BASS,
            line.map((note) => ({ ...note, start: note.start % 8000 })),
          );
          project = edits.setPartLength(project, BASS, ticks);
          project = lane(project, 42, { steps: own.steps, grid: grid(own.value) });
          project = edits.addPattern(project, "b", "a", "copy");
          if (song)
            project = {
              ...project,
              song: [
                { id: "s3", pattern: "b", times: 2 },
                { id: "s4", pattern: "a", times: 1 },
              ],
            };
          const edges = [0, ...at.sort((a, b) => a - b), 20_000];
          const whole = playbackEvents(project, 0, 20_000);
          const pieces = edges.slice(1).flatMap((to, i) => playbackEvents(project, edges[i]!, to));
          expect(pieces).toEqual(whole);
          for (let i = 1; i < whole.length; i++)
            expect(whole[i]!.start).toBeGreaterThanOrEqual(whole[i - 1]!.start);
        },
      ),
      { numRuns: 150 },
    );
  });

  it("says what a slide goes into: the nearest pitch of the next onset, round the loop", () => {
    const slide = { slide: true, length: 200 };
    const notes = [
      n(0, { pitch: 40, ...slide }),
      n(960, { pitch: 52 }),
      n(960, { pitch: 43 }),
      n(2880, { pitch: 45, ...slide }),
    ];
    const glides = (project: Project, to = 3840) =>
      playbackEvents(project, 0, to).map((event) => event.glide ?? null);
    expect(glides(withNotes(BASS, notes))).toEqual([
      { pitch: 43, after: 960 },
      null,
      null,
      { pitch: 40, after: 960 },
    ]);
    // A line of one note slides into itself a loop later; on drums nothing slides.
    expect(glides(withNotes(BASS, [n(0, slide)]))).toEqual([{ pitch: 60, after: 3840 }]);
    expect(glides(withNotes(DRUMS, [n(0, { pitch: 36, ...slide })]))).toEqual([null]);
    const own = withNotes(BASS, [n(0, { channel: 7 }), n(5)]);
    expect(playbackEvents(own, 0, 10).map((event) => event.channel)).toEqual([7, undefined]);
  });

  it("is silent for a project without tracks", () => {
    expect(playbackEvents(createProject({ tracks: [] }), 0, 4000)).toEqual([]);
    const one = makeTrack({ id: "x", kind: "melody", name: "X", sound: "reed-bass" });
    expect(playbackEvents(createProject({ tracks: [one] }), 0, 4000)).toEqual([]);
  });
});
