import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import {
  type Note,
  type Project,
  type SongEntry,
  bendAt,
  createProject,
  patternOf,
  songBar,
} from "../score";
import { bendLine, lineTooLong, playbackEvents, unfoldedNotes } from "./index";

const BAR = 3840;
const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
const withNotes = (bars: number, ...notes: Note[]) =>
  edits.setNotes(createProject({ bars }), BASS, notes);
const withSong = (project: Project, ...song: Partial<SongEntry>[]): Project => ({
  ...project,
  song: song.map((entry, i) => ({ id: `s${i}`, pattern: "a", times: 1, ...entry })),
});

describe("a glide", () => {
  it("leads into the next note that sounds in its loop, not into a silent one", () => {
    const project = withNotes(
      1,
      n(0, { pitch: 40, slide: true }),
      n(960, { pitch: 50, when: "2/2" }),
      n(1920, { pitch: 60 }),
    );
    const glides = playbackEvents(project, 0, 2 * BAR, { pattern: "a" }).flatMap(
      ({ glide }) => glide ?? [],
    );
    expect(glides).toEqual([
      { pitch: 60, after: 1920 },
      { pitch: 50, after: 960 },
    ]);
  });

  it("goes round to the next loop, where what sounds there counts", () => {
    const project = withNotes(
      1,
      n(0, { pitch: 50, when: "2/2" }),
      n(960, { pitch: 40, slide: true }),
    );
    const glides = playbackEvents(project, 0, 3 * BAR, { pattern: "a" }).map(({ glide }) => glide);
    // In the first loop the next one has a first note; in the second the third has none.
    expect(glides[0]).toEqual({ pitch: 50, after: BAR - 960 });
  });
});

describe("an early hit", () => {
  it("of a stretch that begins in the middle of a part sounds where its loop begins there", () => {
    const project = edits.setPartLength(
      edits.setNotes(createProject({ bars: 2 }), DRUMS, [
        n(-20, { pitch: 36 }),
        n(0, { pitch: 38 }),
      ]),
      DRUMS,
      BAR,
    );
    const starts = (range: readonly [number, number]) =>
      playbackEvents(project, 0, 2 * BAR, { pattern: "a", range }).map((e) => [e.start, e.pitch]);
    // From the second bar on: its early hit has no time before it, and comes at once; then before each round.
    expect(starts([BAR, 2 * BAR])).toEqual([
      [0, 36],
      [0, 38],
      [BAR - 20, 36],
      [BAR, 38],
      [2 * BAR - 20, 36],
    ]);
    // From inside a loop on there is none that leads into it.
    expect(starts([1920, 2 * BAR])[0]).toEqual([BAR - 1920 - 20, 36]);
  });
});

describe("the last loop of a section", () => {
  it("is where “last” sounds and “not last” does not", () => {
    const project = withSong(
      withNotes(1, n(0, { pitch: 40, when: "last" }), n(960, { pitch: 41, when: "not-last" })),
      { times: 3 },
      { times: 1 },
    );
    const sounding = playbackEvents(project, 0, 4 * BAR).map((e) => [e.start / BAR, e.pitch]);
    expect(sounding).toEqual([
      [0.25, 41],
      [1.25, 41],
      [2, 40],
      [3, 40],
    ]);
  });
});

describe("a bar of the song", () => {
  it("is counted over sections of other metres and lengths, from 1", () => {
    let project = edits.addPattern(createProject({ bars: 2 }), "b", "a", "empty");
    project = edits.setPatternMetre(project, "b", { beats: 3, unit: 4 });
    const song = withSong(project, { times: 1 }, { pattern: "b", bars: 1 }, { bars: 1 });
    const at = (tick: number) => songBar(song, tick);
    expect([0, BAR - 1, BAR, 2 * BAR, 2 * BAR + 2879, 2 * BAR + 2880].map(at)).toEqual([
      1, 1, 2, 3, 3, 4,
    ]);
    expect(at(100 * BAR)).toBe(5);
  });
});

describe("a bend", () => {
  it("at a section's edge begins with the next one's curve, and holds the last tick of its own", () => {
    const curve = [
      { tick: 0, value: 0 },
      { tick: BAR - 1, value: 8000 },
    ];
    const project = withSong(
      edits.recordBend(withNotes(1, n(0, { pitch: 40 })), BASS, curve),
      { times: 1 },
      { times: 1 },
    );
    const line = bendLine(project, "bass", [0, 2 * BAR]);
    expect(bendAt(line, BAR - 1)).toBe(8000);
    expect(bendAt(line, BAR)).toBe(0);
    expect(bendAt(line, 2 * BAR - 1)).toBe(8000);
  });
});

describe("how many notes a pattern plays", () => {
  it("counts each loop of parts and lanes, whole and begun", () => {
    let project = edits.setNotes(createProject({ bars: 2 }), DRUMS, [
      n(0, { pitch: 36 }),
      n(480, { pitch: 36 }),
      n(5000, { pitch: 38 }),
    ]);
    const kick = project.tracks[0]!.lanes.find(({ pitch }) => pitch === 36)!;
    project = edits.changeLane(project, "drums", kick.id, {
      steps: 3,
      grid: { value: 8, kind: "straight", swing: 50 },
    });
    // Five loops of 1,440 ticks and one that is cut at 480 of its own: 5 · 2 + 1; and the snare once.
    const counted = unfoldedNotes(project, patternOf(project, "a"));
    expect(counted).toBe(12);
    expect(playbackEvents(project, 0, 2 * BAR, { pattern: "a" })).toHaveLength(counted);
    expect(lineTooLong(project, "a", 40_000)).toMatch(/can be written/);
    expect(lineTooLong(project, "a", 10)).toBeNull();
  });
});
