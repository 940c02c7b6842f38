import { type ChordMark, type Project, createProject, partOf, chordSpans } from "../score";
import { ProjectError, applyChange, diffProjects, mergeProjects, parseProject } from "../stored";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "./";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
const mark = (start: number, name: string, rest: Partial<ChordMark> = {}): ChordMark => ({
  id: `c${start}`,
  start,
  name,
  inversion: 0,
  spread: "close",
  ...rest,
});
const base = createProject({ bars: 4, key: { root: 0, scale: "major" } });
const put = (project: Project, ...marks: ChordMark[]) => edits.putChords(project, "a", marks);
let count = 0;
const idOf = () => `x${count++}`;
const names = (project: Project) => project.patterns[0]!.chords?.map((c) => c.name);

describe("the chord line", () => {
  it("keeps its order, one chord to a start, and holds each to the next", () => {
    const project = put(put(base, mark(3840, "F"), mark(0, "C")), mark(3840, "Fm", { id: "n" }));
    expect(names(project)).toEqual(["C", "Fm"]);
    const spans = chordSpans(project, project.patterns[0]!);
    expect(spans.map(({ from, to }) => [from, to])).toEqual([
      [0, 3840],
      [3840, 15360],
    ]);
    expect("chords" in edits.deleteChord(put(base, mark(0, "C")), "a", "c0").patterns[0]!).toBe(
      false,
    );
    expect(edits.deleteChord(project, "a", "none")).toBe(project);
  });

  it("becomes held notes, voiced as each says", () => {
    const project = edits.holdChords(
      put(base, mark(0, "Dm7"), mark(7680, "G", { inversion: 1 }), mark(11520, "")),
      BASS,
      { low: 48, velocity: 90, idOf },
    );
    const { notes, length } = partOf(project, BASS);
    expect(length).toBe(15360);
    expect(notes.map((x) => [x.start, x.length, x.pitch])).toEqual([
      [0, 7680, 50],
      [0, 7680, 53],
      [0, 7680, 57],
      [0, 7680, 60],
      [7680, 3840, 59],
      [7680, 3840, 62],
      [7680, 3840, 67],
    ]);
  });

  it("puts one chord alone, in the place of what begins while it holds", () => {
    const before = edits.setNotes(base, BASS, [n(0, { pitch: 40 }), n(4000, { pitch: 41 })]);
    const project = put(before, mark(0, "C"), mark(3840, "F"), mark(7680, "G"));
    const how = { low: 48, velocity: 90, idOf };
    const held = partOf(edits.holdChord(project, BASS, "c3840", how), BASS).notes;
    expect(held.map((x) => [x.start, x.length, x.pitch])).toEqual([
      [0, 240, 40],
      [3840, 3840, 53],
      [3840, 3840, 57],
      [3840, 3840, 60],
    ]);
    expect(edits.holdChord(project, BASS, "none", how)).toBe(project);
  });

  it("is found in notes, bar by bar, a chord that goes on once", () => {
    const held = edits.holdChords(
      put(base, mark(0, "C"), mark(3840, "Am"), mark(11520, "F/A")),
      BASS,
      { low: 48, velocity: 90, idOf },
    );
    const found = edits.detectChords(held, BASS, 3840, (start) => `d${start}`);
    expect(found.map((m) => [m.start, m.name])).toEqual([
      [0, "C"],
      [3840, "Am"],
      [11520, "F/A"],
    ]);
    expect(edits.detectChords(base, BASS, 3840, String)).toEqual([]);
  });

  it("goes along with the key by degree, and stays in its bar when the metre changes", () => {
    const project = put(base, mark(0, "Dm7"), mark(3840, "G"), mark(8640, "Bb/D"));
    const to = { root: 9, scale: "minor" };
    const moved = edits.rekeyNotes({ ...project, key: to }, base.key, to, "degrees");
    expect(names(moved)).toEqual(["Bm7b5", "Em", "F#/A#"]);
    expect(names(edits.rekeyNotes(project, base.key, to, "snap"))).toEqual(["Dm7", "G", "Bb/D"]);
    const seven = edits.setMetre(project, { beats: 7, unit: 8 });
    expect(seven.patterns[0]!.chords!.map((c) => c.start)).toEqual([0, 3360, 7680]);
  });

  it("is saved, merged and validated like the rest of the score", () => {
    const project = put(base, mark(0, "C"));
    const change = diffProjects(base, project)!;
    expect(Object.keys(change)).toEqual(["patterns"]);
    expect(applyChange(base, change)).toEqual(project);
    const gone = edits.deleteChord(project, "a", "c0");
    expect(applyChange(project, diffProjects(project, gone)!)).toEqual(gone);
    // Two tabs put a chord each.
    const merged = mergeProjects(
      project,
      put(project, mark(3840, "F")),
      put(project, mark(7680, "G")),
    );
    expect(names(merged)).toEqual(["C", "F", "G"]);
    expect(parseProject(JSON.parse(JSON.stringify(merged)))).toEqual(merged);
    const wrong = structuredClone(merged) as unknown as Project & {
      patterns: { chords: { name: string }[] }[];
    };
    wrong.patterns[0]!.chords[1]!.name = "H7";
    expect(() => parseProject(wrong)).toThrow(ProjectError);
    expect(() => parseProject(wrong)).toThrow(/chords\[1\]\.name “H7” is no chord/);
  });
});

describe("joining, copying and cutting", () => {
  const two = edits.setNotes(
    edits.setPartLength(edits.setNotes(base, BASS, [n(0, { pitch: 40 })]), BASS, 3840),
    DRUMS,
    [n(960, { pitch: 36 })],
  );

  it("joins parts: loops written out, equal notes once, the others emptied", () => {
    const joined = edits.joinParts(two, DRUMS, ["bass"], idOf);
    expect(partOf(joined, DRUMS).notes.map((x) => [x.start, x.pitch])).toEqual([
      [0, 40],
      [960, 36],
      [3840, 40],
      [7680, 40],
      [11520, 40],
    ]);
    expect(partOf(joined, BASS).notes).toEqual([]);
    expect(edits.joinParts(two, DRUMS, [], idOf)).toBe(two);
  });

  it("copies a part with its loop length, ids of its own", () => {
    const copied = edits.copyPart(two, BASS, "drums", idOf);
    const part = partOf(copied, DRUMS);
    expect([part.length, part.notes.map((x) => x.pitch)]).toEqual([3840, [40]]);
    expect(part.notes[0]!.id).not.toBe(partOf(two, BASS).notes[0]!.id);
    expect(edits.copyPart(two, BASS, "bass", idOf)).toBe(two);
  });

  it("joins notes of one pitch and cuts one in two that tile it", () => {
    const line = edits.setNotes(base, BASS, [n(0), n(240), n(480, { pitch: 62 })]);
    const ids = new Set(partOf(line, BASS).notes.map((x) => x.id));
    const joined = edits.joinNotes(line, BASS, ids);
    expect(partOf(joined.project, BASS).notes.map((x) => [x.start, x.length])).toEqual([
      [0, 480],
      [480, 240],
    ]);
    const cut = edits.cutNotes(joined.project, BASS, { ids: new Set(joined.ids), tick: 137 }, idOf);
    expect(partOf(cut.project, BASS).notes.map((x) => [x.start, x.length])).toEqual([
      [0, 137],
      [137, 343],
      [480, 240],
    ]);
    expect(edits.cutNotes(line, BASS, { ids, tick: 240 }, idOf).project).toBe(line);
  });

  it("joins what was one chord and was split, not what two chords share", () => {
    const chord = (at: number, pitches: number[]) =>
      pitches.map((pitch) => n(at, { pitch, length: 960 }));
    const song = edits.setNotes(base, BASS, [
      ...chord(0, [48, 51, 55]),
      ...chord(960, [48, 53, 57]),
    ]);
    const split = edits.transformPart(
      song,
      BASS,
      { transform: "split", params: {}, scope: edits.WHOLE_PART },
      idOf,
    ).project;
    const all = new Set(partOf(split, BASS).notes.map(({ id }) => id));
    expect(all.size).toBeGreaterThan(6);
    const joined = edits.joinNotes(split, BASS, all);
    const plain = (project: Project) =>
      partOf(project, BASS).notes.map(({ start, length, pitch }) => [start, length, pitch]);
    expect(plain(joined.project)).toEqual(plain(song));
    expect(joined.ids).toHaveLength(6);
    // Of one pitch all that are selected, gaps and all.
    const tones = edits.setNotes(base, BASS, [n(0), n(1920), n(960, { pitch: 62 })]);
    const ids = new Set(
      partOf(tones, BASS)
        .notes.filter((x) => x.pitch === 60)
        .map((x) => x.id),
    );
    expect(plain(edits.joinNotes(tones, BASS, ids).project)).toEqual([
      [0, 2160, 60],
      [960, 240, 62],
    ]);
  });

  it("transforms several parts in one edit, and gives a tapped note its pitch for good", () => {
    const tapped = edits.setNotes(two, BASS, [n(0, { pitch: 40, unpitched: true })]);
    const done = edits.transformParts(
      tapped,
      [BASS, DRUMS],
      { transform: "transpose", params: { semitones: 3 } },
      idOf,
    );
    expect(partOf(done.project, BASS).notes[0]).toMatchObject({ pitch: 43 });
    expect("unpitched" in partOf(done.project, BASS).notes[0]!).toBe(false);
    expect(partOf(done.project, DRUMS).notes[0]).toMatchObject({ pitch: 36, tune: 3 });
    expect(done.sentence).toBe("2 notes changed in 2 parts");
    expect(() =>
      edits.transformParts(two, [BASS], { transform: "nothing", params: {} }, idOf),
    ).toThrow(/no known/);
  });
});
