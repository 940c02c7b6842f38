import * as fc from "fast-check";
import { grid } from "../time";
import { playbackEvents } from "../playback";
import {
  LIMITS,
  type Note,
  type Project,
  createProject,
  makeLane,
  padShapeOf,
  partOf,
  plainPad,
} from "../score";
import { type ProjectError, mergeProjects, parseProject } from "../stored";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { makeClip, pasteClip } from "./clip";
import * as edits from "./";

const DRUMS = { pattern: "a", track: "drums" };
const HASH = "0123456789abcdef0123456789abcdef";
let count = 0;
const idOf = () => `new${count++}`;
const kick = (start: number, rest: Partial<Note> = {}) => n(start, { pitch: 36, ...rest });
const notesOf = (project: Project) => partOf(project, DRUMS).notes;
const starts = (project: Project) => notesOf(project).map((note) => note.start);
const withHits = (bars: number, ...notes: Note[]) =>
  edits.setNotes(createProject({ bars }), DRUMS, notes);

describe("shaping a kit", () => {
  it("keeps only what was changed, and forgets it when it is plain again", () => {
    const plain = createProject();
    const shaped = edits.changePad(plain, "drums", 38, { tune: 3, choke: 2 });
    expect(shaped.tracks[0]!.kit!.pads).toEqual([{ ...plainPad(38), tune: 3, choke: 2 }]);
    expect(padShapeOf(shaped.tracks[0]!.kit, 36)).toEqual(plainPad(36));
    expect(edits.changePad(shaped, "drums", 38, { tune: 0, choke: 0 })).toEqual(plain);
    expect(edits.changeKit(shaped, "drums", { time: 2 }).tracks[0]!.kit).toMatchObject({ time: 2 });
    // Melodic tracks have no kit.
    expect(edits.changePad(plain, "bass", 38, { tune: 3 })).toEqual(plain);
  });

  it("is checked field by field when it comes from outside", () => {
    const shaped = edits.changePad(createProject(), "drums", 42, {
      sample: { id: HASH, name: "gull.wav" },
    });
    expect(parseProject(structuredClone(shaped))).toEqual(shaped);
    const broken = structuredClone(shaped) as unknown as {
      tracks: { kit: { pads: Record<string, unknown>[] } }[];
    };
    Object.assign(broken.tracks[0]!.kit.pads[0]!, {
      cutoff: 5,
      filter: "comb",
      choke: 1.5,
      sample: { id: "../../etc", name: "x" },
      bend: 1,
    });
    const problems = () => {
      try {
        parseProject(broken);
        return [];
      } catch (error) {
        return (error as ProjectError).problems.map((p) => p.path);
      }
    };
    expect(problems().sort()).toEqual(
      ["", ".choke", ".cutoff", ".filter", ".sample.id"].map((f) => `tracks[0].kit.pads[0]${f}`),
    );
    const twice = structuredClone(shaped);
    (twice.tracks[0]!.kit!.pads as unknown[]).push(plainPad(42));
    expect(() => parseProject(twice)).toThrow(/shaped twice/);
  });

  it("merges pad by pad, so two pages that shape different pads lose nothing", () => {
    const base = createProject();
    const mine = edits.changePad(base, "drums", 38, { tune: 3 });
    const theirs = edits.changeKit(edits.changePad(base, "drums", 42, { drive: 20 }), "drums", {
      level: -3,
    });
    const both = mergeProjects(base, mine, theirs).tracks[0]!.kit!;
    expect(both.level).toBe(-3);
    expect(both.pads.map((pad) => [pad.pitch, pad.tune, pad.drive]).sort()).toEqual([
      [38, 3, 0],
      [42, 0, 20],
    ]);
    // Undo is a merge: it takes back one pad and leaves the other.
    const undone = mergeProjects(mine, base, mergeProjects(base, mine, theirs));
    expect(undone.tracks[0]!.kit!.pads.map((pad) => pad.pitch)).toEqual([42]);
    expect(mergeProjects(mine, base, mine)).toEqual(base);
  });
});

describe("order of lanes and tracks", () => {
  const ids = (project: Project) => project.tracks[0]!.lanes.map((lane) => lane.pitch);
  it("moves lanes and tracks, parts along with them, and stays at the ends", () => {
    const project = createProject();
    const [first, second, ...rest] = ids(project);
    const moved = edits.moveLane(project, "drums", `lane-${first}`, 1);
    expect(ids(moved)).toEqual([second, first, ...rest]);
    expect(ids(edits.moveLane(project, "drums", `lane-${first}`, 99)).at(-1)).toBe(first);
    expect(edits.moveLane(project, "drums", "none", 2).tracks[0]!.lanes).toBe(
      project.tracks[0]!.lanes,
    );
    const tracks = edits.moveTrack(project, "bass", 0);
    expect(tracks.tracks.map((t) => t.id)).toEqual(["bass", "drums"]);
    expect(tracks.patterns[0]!.parts.map((p) => p.track)).toEqual(["bass", "drums"]);
    parseProject(tracks);
    expect(edits.moveTrack(project, "drums", 0)).toBe(project);
  });
  it("adds a lane once, and removes one with its hits and its chain", () => {
    let project = withHits(1, kick(0), n(0, { pitch: 60 }));
    project = edits.addLane(project, "drums", makeLane(60, grid(8)));
    expect(ids(edits.addLane(project, "drums", makeLane(60)))).toEqual(ids(project));
    const step = { id: "s", transform: "thin", on: true, params: {}, scope: null, lane: 60 };
    project = edits.addStep(project, DRUMS, step);
    const removed = edits.deleteLane(project, "drums", "lane-60");
    expect(ids(removed)).not.toContain(60);
    expect(notesOf(removed).map((note) => note.pitch)).toEqual([36]);
    expect(partOf(removed, DRUMS).chain).toEqual([]);
  });
});

describe("loops and bars", () => {
  it("doubles a loop, with what it plays, and the pattern when it must", () => {
    const doubled = edits.doubleLoop(withHits(1, kick(0), kick(-10), kick(5000)), DRUMS, idOf);
    // What lies past the loop's end, unheard, is so past the longer one.
    expect(starts(doubled)).toEqual([-10, 0, 3830, 3840, 8840]);
    expect(partOf(doubled, DRUMS).length).toBe(7680);
    expect(doubled.patterns[0]!.bars).toBe(2);
    parseProject(doubled);
  });
  it("doubles a loop so that nothing else is heard, whatever loops its lanes have of their own", () => {
    const hit = fc.record({
      start: fc.integer({ min: -60, max: 3839 + 1920 }),
      pitch: fc.constantFrom(36, 42),
    });
    fc.assert(
      fc.property(
        fc.array(hit, { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 1, max: 24 }),
        fc.constantFrom(2, 4),
        (hits, steps, bars) => {
          const notes = hits.map((one, i) => n(one.start, { ...one, id: `h${i}`, length: 60 }));
          const lanes = createProject().tracks[0]!.lanes;
          const hat = lanes.find((lane) => lane.pitch === 42)!;
          const long = edits.setBars(withHits(1, ...notes), "a", bars);
          const looped = edits.setPartLength(long, DRUMS, 3840);
          const before = edits.changeLane(looped, "drums", hat.id, { steps });
          const after = edits.doubleLoop(before, DRUMS, idOf);
          const heard = (project: Project) =>
            playbackEvents(project, 0, 8 * bars * 3840).map(
              ({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`,
            );
          expect(partOf(after, DRUMS).length).toBe(7680);
          expect(heard(after)).toEqual(heard(before));
        },
      ),
    );
  });
  it("stays as it is where the pattern cannot grow", () => {
    const longest = edits.setBars(withHits(1, kick(0)), "a", LIMITS.bars);
    const whole = edits.setPartLength(longest, DRUMS, LIMITS.bars * 3840);
    expect(edits.doubleLoop(whole, DRUMS, idOf)).toBe(whole);
  });
  it("copies a bar onto the next in place of what was there, early hits too", () => {
    const project = withHits(2, kick(-12), kick(960), kick(3840 + 480), n(3840, { pitch: 38 }));
    const copied = edits.copyBarOn(project, DRUMS, 0, idOf);
    expect(starts(copied)).toEqual([-12, 960, 3828, 4800]);
    const grown = edits.copyBarOn(copied, DRUMS, 1, idOf);
    expect(grown.patterns[0]!.bars).toBe(3);
    expect(starts(grown)).toEqual([-12, 960, 3828, 4800, 7668, 8640]);
  });
});

describe("cut, copy and paste", () => {
  const part = partOf(withHits(1, kick(0), kick(960), n(960, { pitch: 38 })), DRUMS);
  it("puts hits down where they are wanted, on another pad when they were of one", () => {
    const clip = makeClip("notes", [kick(970), kick(1200)], 960, 480);
    const pasted = pasteClip(part, clip, { at: 1920, pitch: 42, idOf });
    const fresh = pasted.part.notes.filter((note) => pasted.ids.includes(note.id));
    expect(fresh.map((note) => [note.start, note.pitch])).toEqual([
      [1930, 42],
      [2160, 42],
    ]);
    const mixed = makeClip("notes", [kick(0), n(0, { pitch: 38 })], 0, 240);
    const both = pasteClip(part, mixed, { at: 240, pitch: 42, idOf });
    expect(both.part.notes.filter((x) => x.start === 240).map((x) => x.pitch)).toEqual([36, 38]);
  });
  it("replaces a hit on the same tick, and for columns and bars the whole stretch", () => {
    const clip = makeClip("notes", [kick(0, { velocity: 9 })], 0, 240);
    const over = pasteClip(part, clip, { at: 960, pitch: null, idOf });
    expect(over.part.notes.map((x) => [x.start, x.pitch, x.velocity])).toEqual([
      [0, 36, 96],
      [960, 36, 9],
      [960, 38, 96],
    ]);
    const column = makeClip("column", [kick(0)], 0, 240);
    const replaced = pasteClip(part, column, { at: 960, pitch: null, idOf });
    expect(replaced.part.notes.map((x) => [x.start, x.pitch])).toEqual([
      [0, 36],
      [960, 36],
    ]);
    const lane = makeClip("lane", [kick(0)], 0, 3840);
    const onSnare = pasteClip(part, lane, { at: 0, pitch: 38, idOf });
    expect(onSnare.part.notes.map((x) => [x.start, x.pitch])).toEqual([
      [0, 36],
      [0, 38],
      [960, 36],
    ]);
  });
});

describe("a grid that swings anew", () => {
  it("takes along the hits on its lines in all patterns, and leaves what lies beside them", () => {
    const straight = { value: 16, kind: "straight" as const, swing: 50 };
    const swung = { ...straight, swing: 60 };
    let project = withHits(
      1,
      n(240, { pitch: 42 }),
      n(480, { pitch: 42 }),
      n(770, { pitch: 42 }),
      n(240, { pitch: 38 }),
    );
    project = edits.addPattern(project, "b", "a", "copy");
    const done = edits.swingWithHits(project, DRUMS, "lane-42", swung);
    for (const { parts } of done.patterns)
      expect(parts[0]!.notes.map(({ start, pitch }) => [start, pitch])).toEqual([
        [240, 38],
        [288, 42],
        [480, 42],
        [770, 42],
      ]);
    expect(done.tracks[0]!.lanes.find(({ pitch }) => pitch === 42)!.grid).toEqual(swung);
    // And back again.
    expect(edits.swingWithHits(done, DRUMS, "lane-42", straight).patterns).toEqual(
      project.patterns,
    );
    expect(edits.isSwungAnew(straight, swung)).toBe(true);
    expect(edits.isSwungAnew(straight, { ...swung, value: 8 })).toBe(false);
    expect(edits.isSwungAnew({ ...straight, kind: "off" }, { ...swung, kind: "off" })).toBe(false);
  });
});
