import { describe, expect, it } from "vitest";
import { seeded } from "../base";
import { type Project, createProject, makeNote, makeTrack, samplesOf } from "../score";
import { mergeProjects, parseProject } from "../stored";
import * as edits from "./";

const sample = { id: "0123456789abcdef0123456789abcdef", name: "quay.wav" };
const recording = { sample, tempo: 104, first: 0.02 };
const notes = [
  makeNote({ id: "h0", start: -20, pitch: 36 }),
  makeNote({ id: "h1", start: 960, pitch: 60 }),
];
const ids = (letter = "n") => {
  let next = 0;
  return () => `${letter}${next++}`;
};
const project = createProject();
const [{ id: pattern }] = project.patterns as [Project["patterns"][number]];

describe("what was heard in a recording, put into a pattern", () => {
  it("grows the pattern, makes the lanes it needs, and keeps the recording behind it", () => {
    const heard = { track: "drums", notes, bars: 3, recording, tempo: 104 };
    const after = edits.putHeard(project, pattern, heard, ids());
    expect(after.tempo).toBe(104);
    expect(after.patterns[0]).toMatchObject({ bars: 3, recording });
    expect(after.tracks[0]!.lanes.map(({ pitch }) => pitch)).toContain(60);
    const part = after.patterns[0]!.parts[0]!;
    expect(part.notes.map(({ id, start }) => [id, start])).toEqual([
      ["n0", -20],
      ["n1", 960],
    ]);
    expect(samplesOf(after)).toEqual([sample]);
    expect(parseProject(structuredClone(after))).toEqual(after);
    expect(edits.setRecording(after, pattern, null).patterns[0]).not.toHaveProperty("recording");
  });

  it("is a loop of its own on a new track of a longer pattern, and is added on one with notes", () => {
    const long = edits.setBars(project, pattern, 4);
    const track = makeTrack({
      id: "new",
      kind: "drums",
      name: "Quay",
      sound: "harbour",
      lanes: [],
    });
    const one = edits.putHeard(
      long,
      pattern,
      { track, notes, bars: 2, recording: null, tempo: null },
      ids(),
    );
    expect(one.patterns[0]!.parts[2]).toMatchObject({ track: "new", length: 2 * 3840 });
    expect(one.patterns[0]!.bars).toBe(4);
    expect(one.tempo).toBe(project.tempo);
    expect(one.tracks[2]!.lanes.map(({ pitch }) => pitch)).toEqual([36, 60]);
    const more = { track: "new", notes, bars: 2, recording: null, tempo: null };
    const two = edits.putHeard(one, pattern, more, ids("m"));
    expect(two.patterns[0]!.parts[2]!.notes).toHaveLength(4);
    expect(two.patterns[0]!.parts[2]!.length).toBe(4 * 3840);
  });

  it("refuses values that no recording has, naming them", () => {
    const random = seeded(3);
    const bad = [
      { ...recording, tempo: 0 },
      { ...recording, first: -0.1 },
      { ...recording, first: 601 },
      { ...recording, first: NaN },
      { ...recording, more: random() },
      { ...recording, sample: null },
      { ...recording, sample: { ...sample, id: "../x" } },
    ];
    for (const one of bad) {
      const spoiled = structuredClone(project) as unknown as { patterns: object[] };
      Object.assign(spoiled.patterns[0]!, { recording: one });
      expect(() => parseProject(spoiled)).toThrow(/recording/);
    }
  });

  it("is merged with what another tab did", () => {
    const mine = edits.setRecording(project, pattern, recording);
    const theirs = edits.renamePattern(project, pattern, "Quay");
    const merged = mergeProjects(project, mine, theirs);
    expect(merged.patterns[0]).toMatchObject({ name: "Quay", recording });
    const gone = edits.setRecording(merged, pattern, null);
    const renamed = edits.renamePattern(merged, pattern, "Slip");
    expect(mergeProjects(merged, gone, renamed).patterns[0]).not.toHaveProperty("recording");
  });
});
