import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { playbackEvents } from "../playback";
import {
  LIMITS,
  type Project,
  type SongEntry,
  conditionOfCopy,
  createProject,
  holds,
  makeTrack,
  partOf,
  writtenOut,
} from "../score";
import { TRANSFORMS } from "../transforms";
import { mergeProjects, parseProject } from "../stored";
import * as edits from "./index";

const BAR = 3840;
const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };
let made = 0;
const idOf = () => `new${++made}`;
const onsets = (project: Project, loops: number, pattern: string | undefined = "a") =>
  playbackEvents(project, 0, loops * BAR, pattern ? { pattern } : {}).map((e) => [
    e.start,
    e.pitch,
  ]);
const lane = (project: Project, pitch: number, steps: number) => {
  const found = project.tracks[0]!.lanes.find((lane) => lane.pitch === pitch)!;
  return edits.changeLane(project, "drums", found.id, {
    steps,
    grid: { value: 16, kind: "straight", swing: 50 },
  });
};

describe("a loop written out", () => {
  it("lets each copy of a hit sound in the very loops it did", () => {
    const all = ["not-first", "1/2", "2/2", "3/4", "not-2/3", "5/6", "64/64"] as const;
    for (const condition of all)
      for (const copies of [1, 2, 3, 4, 8])
        for (let loop = 0; loop < 400; loop++) {
          const copy = loop % copies;
          const own = conditionOfCopy(condition, copy, copies);
          const long = Math.floor(loop / copies);
          const sounds = typeof own === "boolean" ? own : holds(own, long, false);
          expect(sounds, `${condition} copy ${copy} of ${copies}`).toBe(
            holds(condition, loop, false),
          );
        }
    // The last short loop is the last copy of the last long one.
    expect([0, 1].map((copy) => conditionOfCopy("last", copy, 2))).toEqual([false, "last"]);
    expect([0, 1].map((copy) => conditionOfCopy("not-last", copy, 2))).toEqual([true, "not-last"]);
  });

  it("keeps what lies past its end past the new one", () => {
    const out = writtenOut([n(0), n(5000)], { period: BAR, ticks: 3 * BAR }, idOf);
    expect(out.map(({ start }) => start)).toEqual([0, 2 * BAR + 5000, BAR, 2 * BAR]);
  });
});

describe("a loop that has to grow", () => {
  const repeating = edits.setNotes(
    edits.setPartLength(createProject({ bars: 4 }), BASS, BAR),
    BASS,
    [n(0, { pitch: 40 }), n(960, { pitch: 43, when: "2/2" })],
  );

  it("goes on with what it repeated, when a bar beyond it is copied on", () => {
    const copied = edits.copyBarOn(repeating, BASS, 2, idOf);
    expect(partOf(copied, BASS).length).toBe(4 * BAR);
    // The fourth bar is the third one's copy: there the second hit did not sound.
    expect(onsets(copied, 3)).toEqual(onsets(repeating, 3));
    expect(onsets(copied, 4).filter(([start]) => start! >= 3 * BAR)).toEqual([[3 * BAR, 40]]);
  });

  it("goes on with it when a note is put beyond it, and that takes a repeat's place", () => {
    const put = edits.addNotes(repeating, BASS, [n(2 * BAR, { pitch: 40, velocity: 9 })]);
    const { project, message } = edits.growLoops(put, BASS, idOf);
    expect(message).toBe("the loop is now 3 bars");
    expect(onsets(project, 4)).toEqual(onsets(repeating, 4));
    const there = partOf(project, BASS).notes.filter(({ start }) => start === 2 * BAR);
    expect(there.map(({ velocity }) => velocity)).toEqual([9]);
  });

  it("of a lane goes on in every pattern", () => {
    let kit = lane(createProject({ bars: 1 }), 36, 4);
    kit = edits.setNotes(kit, DRUMS, [n(0, { pitch: 36 })]);
    kit = edits.addPattern(kit, "b", "a", "copy");
    const put = edits.addNotes(kit, DRUMS, [n(1920, { pitch: 36, velocity: 9 })]);
    const { project } = edits.growLoops(put, DRUMS, idOf);
    expect(onsets(project, 1)).toEqual(onsets(kit, 1));
    expect(onsets(project, 1, "b")).toEqual(onsets(kit, 1, "b"));
  });
});

describe("a drum fill over a loop that it makes longer", () => {
  const context = {
    kind: "drums" as const,
    length: BAR,
    patternLength: 4 * BAR,
    laneGrids: {
      36: { value: 16, kind: "straight" as const, swing: 50 },
      38: { value: 16, kind: "straight" as const, swing: 50 },
    },
  };

  it("leaves hits with a condition in their loops, and unheard ones unheard", () => {
    const notes = [n(0, { pitch: 36, when: "2/2" }), n(5000, { pitch: 36 })];
    const result = TRANSFORMS["drum-fill"]!.apply(notes, { crash: false, every: 4 }, context);
    expect(result.length).toBe(4 * BAR);
    const kicks = result.notes.filter(({ pitch }) => pitch === 36);
    // In the second and fourth of four bars, always; what lay past the loop's end does so still.
    expect(kicks.map(({ start, when }) => [start, when])).toEqual([
      [3 * BAR + 5000, undefined],
      [BAR, undefined],
      [3 * BAR, undefined],
    ]);
  });
});

describe("an echo", () => {
  it("of a note past the loop's end is not heard either", () => {
    const result = TRANSFORMS.echo!.apply([n(0), n(4000)], { number: 2 }, { length: BAR });
    expect(result.notes.filter(({ start }) => start < BAR)).toHaveLength(3);
  });
});

describe("pieces of one hit with a chance", () => {
  it("sound together, or not at all, before and after the chain is written", () => {
    const step = {
      id: "k",
      transform: "echo",
      on: true,
      params: TRANSFORMS.echo!.defaults,
      scope: null,
    };
    let project = edits.setNotes(createProject({ bars: 1 }), DRUMS, [
      n(0, { pitch: 38, length: 960, chance: 50 }),
    ]);
    project = edits.addStep(project, DRUMS, step);
    const written = edits.writeChain(project, DRUMS, idOf);
    expect(partOf(written, DRUMS).notes.length).toBeGreaterThan(2);
    expect(onsets(written, 64)).toEqual(onsets(project, 64));
    // Some loops have them all and some none.
    const loops = new Set(
      Array.from(
        { length: 64 },
        (_, loop) => playbackEvents(written, loop * BAR, (loop + 1) * BAR, { pattern: "a" }).length,
      ),
    );
    expect([...loops].sort((a, b) => a - b)).toEqual([0, partOf(written, DRUMS).notes.length]);
    expect(parseProject(JSON.parse(JSON.stringify(written)))).toEqual(written);
  });
});

describe("a part copied onto another track", () => {
  it("brings its bend and leaves the other's, and lanes' own loops go round", () => {
    let project = edits.addTrack(
      createProject({ bars: 1 }),
      makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "reed-bass" }),
    );
    const LEAD = { pattern: "a", track: "lead" };
    project = edits.recordBend(project, BASS, [
      { tick: 0, value: 4000 },
      { tick: 900, value: 0 },
    ]);
    project = edits.recordBend(project, LEAD, [{ tick: 0, value: -8000 }]);
    project = edits.setNotes(project, BASS, [n(0, { pitch: 40 })]);
    const copied = edits.copyPart(project, BASS, "lead", idOf);
    expect(partOf(copied, LEAD).bend?.[0]).toEqual({ tick: 0, value: 4000 });
    const back = edits.copyPart(edits.deleteBend(copied, BASS), BASS, "lead", idOf);
    expect(partOf(back, LEAD).bend).toBeUndefined();

    const kit = edits.setNotes(lane(project, 36, 1), DRUMS, [n(0, { pitch: 36 })]);
    const out = edits.copyPart(kit, DRUMS, "lead", idOf);
    expect(partOf(out, LEAD).notes).toHaveLength(16);
  });
});

describe("patterns brought into a project without a song", () => {
  const theirs = edits.setNotes(createProject({ bars: 1 }), BASS, [n(0, { pitch: 50 })]);
  const song: SongEntry[] = [{ id: "s", pattern: "a", times: 2 }];

  it("are heard after what is there, not in its place", () => {
    const here = edits.setNotes(createProject({ bars: 1 }), BASS, [n(0, { pitch: 40 })]);
    const both = edits.bringPatterns(here, { ...theirs, song }, idOf);
    expect(onsets(both, 3, "")).toEqual([
      [0, 40],
      [BAR, 50],
      [2 * BAR, 50],
    ]);
    // Nothing is made of a project in which nothing is.
    const empty = edits.bringPatterns(createProject({ bars: 1 }), { ...theirs, song }, idOf);
    expect(empty.song).toHaveLength(1);
  });
});

describe("deleted here, changed there", () => {
  const base = edits.addPattern(
    edits.setNotes(createProject({ bars: 2 }), BASS, [n(0, { pitch: 40 })]),
    "b",
    "a",
    "copy",
  );
  const pad = makeTrack({ id: "pad", kind: "melody", name: "Pad", sound: "reed-bass" });

  it("a track whose level was changed comes back with what it plays, whoever deleted it", () => {
    const gone = edits.deleteTrack(base, "bass");
    const louder = edits.changeTrack(base, "bass", { level: 3 });
    for (const merged of [mergeProjects(base, gone, louder), mergeProjects(base, louder, gone)]) {
      expect(merged.tracks.map(({ id }) => id)).toContain("bass");
      expect(partOf(merged, BASS).notes).toHaveLength(1);
    }
  });

  it("a pattern stays deleted though a track came or went meanwhile, but not where that plays in it", () => {
    const gone = edits.deletePattern(base, "b");
    const more = edits.addTrack(base, pad);
    const played = edits.addNotes(more, { pattern: "b", track: "pad" }, [n(0, { pitch: 60 })]);
    for (const there of [
      more,
      edits.deleteTrack(base, "drums"),
      edits.moveTrack(base, "bass", 0),
    ]) {
      const ids = (project: Project) => project.patterns.map(({ id }) => id);
      expect(ids(mergeProjects(base, gone, there))).toEqual(["a"]);
      expect(ids(mergeProjects(base, there, gone))).toEqual(["a"]);
    }
    expect(mergeProjects(base, gone, played).patterns).toHaveLength(2);
  });

  it("a track that came while bars were changed has parts as long as these", () => {
    const longer = edits.setBars(base, "a", 4);
    const shorter = edits.setBars(base, "a", 1);
    const more = edits.addTrack(base, pad);
    for (const [bars, changed] of [
      [4, longer],
      [1, shorter],
    ] as const)
      for (const merged of [mergeProjects(base, changed, more), mergeProjects(base, more, changed)])
        expect(partOf(merged, { pattern: "a", track: "pad" }).length).toBe(bars * BAR);
  });

  it("a pattern that was added is undone after a track was moved and much else was done", () => {
    const before = base;
    const added = edits.addPattern(before, "c", "a", "copy");
    let now = edits.moveTrack(added, "bass", 0);
    for (let i = 0; i < 12; i++) now = edits.addNotes(now, BASS, [n(240 + i * 240, { pitch: 45 })]);
    const undone = mergeProjects(added, before, now);
    expect(undone.patterns.map(({ id }) => id)).toEqual(["a", "b"]);
    expect(partOf(undone, BASS).notes).toHaveLength(13);
  });
});

describe("the loops of a pattern written out", () => {
  it("sound as they did, each bar with notes of its own", () => {
    let project = edits.setNotes(createProject({ bars: 2 }), BASS, [
      n(0, { pitch: 40, when: "2/2" }),
    ]);
    project = edits.setBars(project, "a", 4);
    expect(partOf(project, BASS).length).toBe(2 * BAR);
    const out = edits.loopsWrittenOut(project, "a", idOf);
    expect(out.patterns[0]!.parts.map(({ length }) => length)).toEqual([4 * BAR, 4 * BAR]);
    expect(onsets(out, 8)).toEqual(onsets(project, 8));
    expect(edits.loopsWrittenOut(out, "a", idOf)).toBe(out);
  });
});

describe("what is written out", () => {
  it("holds no more points of a bend than a part may", () => {
    const bend = Array.from({ length: 15_000 }, (_, i) => ({
      tick: i,
      value: i % 2 ? 6000 : -6000,
    }));
    const project = edits.setNotes(createProject({ bars: 8 }), BASS, [n(0, { pitch: 40 })]);
    const place = edits.setPartLength(project, BASS, 4 * BAR);
    const bent = {
      ...place,
      patterns: place.patterns.map((pattern) => ({
        ...pattern,
        parts: pattern.parts.map((part) => (part.track === "bass" ? { ...part, bend } : part)),
      })),
    };
    const doubled = edits.doubleLoop(bent, BASS, idOf);
    expect(partOf(doubled, BASS).bend!.length).toBe(LIMITS.bend);
    expect(parseProject(JSON.parse(JSON.stringify(doubled)))).toEqual(doubled);
  });

  it("keeps what lies past the loop's end through a cut, its condition too", () => {
    const late = n(9000, { pitch: 40, when: "2/2" });
    const project = edits.setNotes(createProject({ bars: 2 }), BASS, [n(0, { pitch: 41 }), late]);
    const cut = edits.cutPattern(project, "a", 1, { pattern: idOf, section: idOf });
    const kept = cut.patterns.flatMap(({ parts }) => parts.flatMap(({ notes }) => notes));
    expect(kept.filter(({ pitch }) => pitch === 40).map(({ when }) => when)).toEqual(["2/2"]);
  });
});
