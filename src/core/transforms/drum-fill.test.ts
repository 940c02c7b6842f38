import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import { grid } from "../time";
import { type ChainStep, type Note, type Project, createProject } from "../score";
import { playbackEvents } from "../playback";
import { PRESETS } from "./presets";
import { TRANSFORMS } from "./registry";

const BAR = 3840;
const LANES = Object.fromEntries([36, 38, 42, 45, 50, 49].map((pitch) => [pitch, grid(16)]));
const context = { kind: "drums" as const, laneGrids: LANES, length: BAR, patternLength: 8 * BAR };
const fill = (notes: readonly Note[], params: object, more: object = {}) =>
  TRANSFORMS["drum-fill"]!.apply(notes, params as never, { ...context, ...more });

const beat: readonly Note[] = [
  ...[0, 1920].map((t) => n(t, { pitch: 36 })),
  ...[960, 2880].map((t) => n(t, { pitch: 38 })),
  ...Array.from({ length: 8 }, (_, i) => n(480 * i, { pitch: 42 })),
].map((note, i) => ({ ...note, id: `b${i}` }));
const made = (notes: readonly Note[]) => notes.filter((note) => note.id.startsWith("fill-"));
const hits = (notes: readonly Note[]) => made(notes).filter((note) => note.pitch !== 49);

describe("a drum fill", () => {
  it("ends every so many bars: the loop is written out, the kick goes on, all else gives way", () => {
    const { notes, length } = fill(beat, { every: 4, span: "half a bar" });
    expect(length).toBe(4 * BAR);
    const [from, to] = [4 * BAR - 1920, 4 * BAR];
    for (const note of hits(notes)) {
      expect(note.start).toBeGreaterThanOrEqual(from);
      expect(note.start).toBeLessThan(to);
    }
    const old = notes.filter((note) => !note.id.startsWith("fill-"));
    expect(old.filter((note) => note.start >= from).map((note) => note.pitch)).toEqual([36]);
    // Three bars and a half of the beat, and of the last half the kick.
    expect(old.length).toBe(4 * beat.length - 5);
    expect(new Set(notes.map((note) => note.id)).size).toBe(notes.length);
  });

  it("of a phrase longer than its pattern sounds in the last of so many loops, and the beat in the others", () => {
    const short = { patternLength: BAR };
    const { notes, length } = fill(beat, { every: 4, span: "half a bar" }, short);
    expect(length).toBe(BAR);
    expect(hits(notes).every((note) => note.when === "4/4")).toBe(true);
    const crash = notes.find((note) => note.pitch === 49)!;
    expect(crash).toMatchObject({ start: 0, when: "1/4" });
    const replaced = notes.filter((note) => note.when === "not-4/4");
    expect(replaced.map((note) => note.start).sort((a, b) => a - b)).toEqual([
      1920, 2400, 2880, 2880, 3360,
    ]);
    // Three bars into a pattern of two do not go: with every second loop, which is four bars.
    const two = fill(beat, { every: 3 }, { length: 2 * BAR, patternLength: 2 * BAR });
    expect(hits(two.notes).every((note) => note.when === "2/2")).toBe(true);
  });

  it("uses the kit at hand: from the snare over the toms downward; hats where there is neither", () => {
    const pitches = new Set<number>();
    for (let seed = 0; seed < 200; seed++) {
      const own = hits(fill(beat, { seed, span: "bar", density: 100, rise: 0 }).notes);
      for (const { pitch } of own) pitches.add(pitch);
      expect([38, 50]).toContain(own[0]!.pitch);
      expect([38, 45]).toContain(own.at(-1)!.pitch);
    }
    expect(pitches).toEqual(new Set([38, 50, 45]));
    const hats = { laneGrids: { 36: grid(16), 42: grid(16), 46: grid(16) } };
    for (const { pitch } of hits(fill([], {}, hats).notes)) expect([42, 46]).toContain(pitch);
    expect(fill(beat, {}, { laneGrids: { 36: grid(16) } }).notes).toEqual(beat);
    expect(fill(beat, {}, { kind: "melody" }).notes).toEqual(beat);
  });

  it("is as dense as asked, denser toward its end the more it rises, and louder there", () => {
    const halves = (params: object) => {
      let [first, second, soft, loud] = [0, 0, 0, 0];
      for (let seed = 0; seed < 300; seed++) {
        for (const note of hits(fill([], { span: "bar", ...params, seed }).notes)) {
          const late = note.start % BAR >= BAR / 2;
          if (late) [second, loud] = [second + 1, loud + note.velocity];
          else [first, soft] = [first + 1, soft + note.velocity];
        }
      }
      return {
        all: (first + second) / 300,
        ratio: second / first,
        louder: loud / second - soft / first,
      };
    };
    const densities = [0, 25, 50, 75].map((density) => halves({ density, rise: 0 }).all);
    for (let i = 1; i < densities.length; i++)
      expect(densities[i]).toBeGreaterThan(densities[i - 1]! + 1);
    const ratios = [0, 50, 100].map((rise) => halves({ density: 75, rise }).ratio);
    for (let i = 1; i < ratios.length; i++) expect(ratios[i]).toBeGreaterThan(ratios[i - 1]! + 0.2);
    expect(halves({}).louder).toBeGreaterThan(10);
  });

  it("lies on sixteenths or on their triplets, as asked", () => {
    for (const [feel, cell] of [
      ["straight", 240],
      ["triplet", 160],
    ] as const) {
      for (let seed = 0; seed < 50; seed++)
        for (const { start } of hits(fill([], { feel, density: 80, seed }).notes))
          expect(start % cell).toBe(0);
    }
  });

  it("ends on the one: a crash there, but not before the first fill", () => {
    const once = made(fill(beat, { every: 4 }).notes).filter((note) => note.pitch === 49);
    expect(once.map(({ start, when }) => [start, when])).toEqual([[0, "not-first"]]);
    const twice = fill(beat, { every: 2 }, { length: 4 * BAR }).notes.filter((x) => x.pitch === 49);
    expect(twice.map(({ start, when }) => [start, when])).toEqual([
      [2 * BAR, undefined],
      [0, "not-first"],
    ]);
    expect(made(fill(beat, { crash: false }).notes).some((note) => note.pitch === 49)).toBe(false);
  });

  it("of a section's last loop is heard there, and what it replaces in all others", () => {
    const place = { pattern: "a", track: "drums" };
    const params = { ...TRANSFORMS["drum-fill"]!.defaults, heard: "last round of a section" };
    const step: ChainStep = { id: "f", transform: "drum-fill", on: true, params, scope: null };
    let project: Project = createProject({ bars: 1 });
    project = edits.addStep(edits.setNotes(project, place, beat), place, step);
    const song = [{ id: "s", pattern: "a", times: 4 }];
    const events = playbackEvents({ ...project, song }, 0, 4 * BAR, { loop: false });
    const filled = events.filter((e) => e.note.startsWith("fill-"));
    expect(filled.length).toBeGreaterThan(2);
    for (const { start } of filled) expect(start).toBeGreaterThanOrEqual(3.5 * BAR);
    const rest = events.filter((e) => !e.note.startsWith("fill-") && e.pitch !== 36);
    expect(rest.filter((e) => e.start % BAR >= BAR / 2).length).toBe(3 * 5);
    // By itself the pattern has no last loop.
    const alone = playbackEvents(project, 0, 8 * BAR, { pattern: "a" });
    expect(alone.length).toBe(8 * beat.length);
  });

  it("fits odd metres, short loops, and lanes with their own loop stay as they are", () => {
    for (const metre of [
      { beats: 7, unit: 8 },
      { beats: 6, unit: 8 },
      { beats: 5, unit: 4 },
    ]) {
      const bar = (metre.beats * 3840) / metre.unit;
      for (const span of ["beat", "half a bar", "bar"]) {
        const { notes, length } = fill([], { span, every: 2 }, { metre, length: bar });
        expect(length).toBe(2 * bar);
        for (const { start } of hits(notes)) {
          expect(start).toBeGreaterThanOrEqual(bar);
          expect(start).toBeLessThan(2 * bar);
        }
      }
    }
    const own = { lanePeriods: { 42: 720 } };
    const { notes } = fill(beat, {}, own);
    expect(notes.filter((note) => note.pitch === 42)).toEqual(beat.filter((x) => x.pitch === 42));
  });

  it("ships settings that are valid", () => {
    for (const { params } of PRESETS["drum-fill"]!)
      expect(TRANSFORMS["drum-fill"]!.problems(params)).toEqual([]);
  });
});
