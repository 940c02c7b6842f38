import { Midi } from "@tonejs/midi";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import {
  type Note,
  type Project,
  type SongEntry,
  createProject,
  sectionsOf,
  timeMap,
  totalTicks,
} from "../../score";
import { playbackEvents } from "../../playback";
import { parseProject } from "../../stored";
import { readSmf } from "./read";
import { writeSmf } from "./write";

const BAR = 3840;

/** A project of a 4/4 and a 7/8 pattern, and a song of them with tempos. */
const anySong = fc
  .record({
    a: fc.uniqueArray(fc.nat(31), { minLength: 1 }),
    b: fc.uniqueArray(fc.nat(13), { minLength: 1 }),
    song: fc.array(
      fc.record({
        pattern: fc.constantFrom("a", "b"),
        times: fc.integer({ min: 1, max: 3 }),
        tempo: fc.option(fc.constantFrom(60, 90, 150), { nil: undefined }),
      }),
      { minLength: 1, maxLength: 6 },
    ),
  })
  .map(({ a, b, song }): Project => {
    const notes = (steps: readonly number[]) =>
      steps.map((step): Note => ({ ...n(240 * step, { length: 100 }), id: `n${step}` }));
    let project = createProject({ bars: 2 });
    project = edits.setNotes(
      project,
      { pattern: "a", track: "bass" },
      notes([0, ...a.filter((s) => s > 0)]),
    );
    project = edits.addPattern(project, "b", "a", "empty");
    project = edits.setPatternMetre(edits.setBars(project, "b", 1), "b", { beats: 7, unit: 8 });
    project = edits.setNotes(project, { pattern: "b", track: "bass" }, notes(b));
    const entries = song.map(({ tempo, ...entry }, i): SongEntry => ({
      ...entry,
      id: `s${i}`,
      ...(tempo !== undefined && { tempo }),
    }));
    return { ...project, song: entries };
  });

/** When what sounds, in seconds, and how high. */
const heard = (project: Project) => {
  const map = timeMap(project);
  return playbackEvents(project, 0, totalTicks(sectionsOf(project)), { loop: false }).map(
    (e) => `${e.pitch} ${map.secondsAt(e.start).toFixed(3)}`,
  );
};

describe("a song as MIDI", () => {
  it("has its tempos and metres where its sections begin: another reader hears it at the same times", () => {
    fc.assert(
      fc.property(anySong, (project) => {
        const midi = new Midi(writeSmf(project));
        const theirs = midi.tracks
          .flatMap((track) => track.notes)
          .map((note) => `${note.midi} ${note.time.toFixed(3)}`);
        expect(theirs).toEqual(heard(project));
      }),
      { numRuns: 60 },
    );
  });

  it("comes back with its metres as patterns and its tempos as sections, heard as it was", () => {
    fc.assert(
      fc.property(anySong, (project) => {
        const { project: back, report } = readSmf(writeSmf(project));
        parseProject(back);
        expect(heard(back)).toEqual(heard(project));
        expect(report.notKept.filter((text) => /tempo|metre/.test(text))).toEqual([]);
      }),
      { numRuns: 100 },
    );
  });

  it("of loops of a pattern is what is heard of them, chance and conditions included", () => {
    const place = { pattern: "a", track: "bass" };
    const notes = [
      { ...n(0), chance: 50 },
      { ...n(960), when: "2/3" as const },
      n(1920),
      n(-20, { pitch: 64 }),
    ];
    const project = edits.setNotes(createProject({ bars: 1 }), place, notes);
    const loops = 12;
    const midi = new Midi(writeSmf(project, { pattern: "a", loops }));
    const theirs = midi.tracks.flatMap((t) => t.notes).map((x) => `${x.ticks} ${x.midi}`);
    const ours = playbackEvents(project, 0, loops * BAR, { pattern: "a" });
    expect(theirs.sort()).toEqual(ours.map((e) => `${e.start} ${e.pitch}`).sort());
    expect(ours.filter((e) => e.note === notes[1]!.id).map((e) => e.start)).toEqual(
      [1, 4, 7, 10].map((round) => round * BAR + 960),
    );
  });

  it("of 3,000 bars is read whole, in patterns as long as they may be", () => {
    const long = Array.from({ length: 3000 }, (_, i) => ({ ...n(i * BAR), id: `x${i}` }));
    const one = edits.setNotes(
      createProject({ bars: 1 }),
      { pattern: "a", track: "bass" },
      long.slice(0, 1),
    );
    const song = [
      { id: "s", pattern: "a", times: 999 },
      { id: "t", pattern: "a", times: 999 },
      { id: "u", pattern: "a", times: 999 },
      { id: "v", pattern: "a", times: 3 },
    ];
    const { project, report } = readSmf(writeSmf({ ...one, song }));
    parseProject(project);
    expect(project.patterns.map((p) => p.bars)).toEqual([1024, 1024, 952]);
    expect(report.notKept).toEqual([]);
    expect(heard(project)).toHaveLength(3000);
  });
});

describe("cutting a long pattern", () => {
  const ids = () => {
    let made = 0;
    return { pattern: () => `cut${++made}`, section: () => `sec${++made}` };
  };
  const ticks = (project: Project) =>
    playbackEvents(project, 0, totalTicks(sectionsOf(project)), { loop: false }).map(
      (e) => `${e.start} ${e.track} ${e.pitch} ${e.velocity} ${e.length}`,
    );

  it("plays what it did, in fewer patterns where some are equal", () => {
    const some = fc.record({
      bars: fc.integer({ min: 3, max: 12 }),
      by: fc.constantFrom(2, 4, 8),
      period: fc.constantFrom(BAR, 2 * BAR, 1700, 100 * BAR),
      notes: fc.array(
        fc.record({ start: fc.nat(12 * BAR - 1), pitch: fc.integer({ min: 40, max: 50 }) }),
        {
          maxLength: 30,
        },
      ),
      song: fc.array(
        fc.record({
          times: fc.integer({ min: 1, max: 2 }),
          skip: fc.option(fc.integer({ min: 1, max: 2 }), { nil: undefined }),
          bars: fc.option(fc.integer({ min: 1, max: 20 }), { nil: undefined }),
          tempo: fc.option(fc.constantFrom(90, 140), { nil: undefined }),
        }),
        { maxLength: 4 },
      ),
    });
    fc.assert(
      fc.property(some, ({ bars, by, period, notes, song }) => {
        const place = { pattern: "a", track: "bass" };
        let project = createProject({ bars });
        project = edits.setPartLength(project, place, period);
        project = edits.setNotes(
          project,
          place,
          notes.map(({ start, pitch }, i) => ({ ...n(start, { pitch }), id: `n${i}` })),
        );
        const entries = song.map((entry, i) => {
          const given = Object.entries(entry).filter(([, v]) => v !== undefined);
          return { id: `s${i}`, pattern: "a", ...Object.fromEntries(given) } as SongEntry;
        });
        project = { ...project, song: entries };
        const cut = edits.cutPattern(project, "a", by, ids());
        parseProject(cut);
        expect(ticks(cut)).toEqual(ticks(project));
        expect(timeMap(cut).seconds).toBeCloseTo(timeMap(project).seconds, 6);
        if (by < bars)
          for (const { bars: own } of cut.patterns) expect(own).toBeLessThanOrEqual(by);
      }),
      { numRuns: 200 },
    );
  });

  it("finds equal stretches and repeats them", () => {
    const bar = [0, 960, 1920].map((t) => n(t, { pitch: 40 }));
    const other = [n(0, { pitch: 50 })];
    const list = [bar, bar, bar, bar, other, other, bar, bar].flatMap((notes, i) =>
      notes.map((note) => ({ ...note, id: `${note.id}-${i}`, start: note.start + i * BAR })),
    );
    const project = edits.setNotes(
      createProject({ bars: 8 }),
      { pattern: "a", track: "bass" },
      list,
    );
    const cut = edits.cutPattern(project, "a", 2, ids());
    expect(cut.patterns.map((p) => p.bars)).toEqual([2, 2]);
    expect(
      cut.song.map(({ pattern, times }) => [
        cut.patterns.findIndex((p) => p.id === pattern),
        times,
      ]),
    ).toEqual([
      [0, 2],
      [1, 1],
      [0, 1],
    ]);
    expect(edits.cutPattern(project, "a", 8, ids())).toBe(project);
  });
});
