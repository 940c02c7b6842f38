import { describe, expect, it } from "vitest";
import {
  PPQ,
  TRANSFORMS,
  applyChain,
  createProject,
  edits,
  fitGrid,
  generateIdeas,
  gridLines,
  gridTicks,
  parseProject,
  playbackEvents,
  readSmf,
  scalePitches,
  tempoTable,
  writeSmf,
} from "./index";

const BASS = { pattern: "a", track: "bass" };

/** What checks from outside rely on, by its public names. */
describe("the public core", () => {
  const project = edits.addNotes(
    createProject({ tempo: 160, metre: { beats: 4, unit: 4 } }),
    BASS,
    [
      { id: "n1", start: 0, length: 240, pitch: 36, velocity: 100, pan: 0, tune: 0, slide: false },
      { id: "n2", start: 480, length: 240, pitch: 43, velocity: 80, pan: 0, tune: 0, slide: false },
    ],
  );

  it("counts time in ticks of 1/960 of a quarter", () => {
    expect(PPQ).toBe(960);
    const sixteenths = { value: 16, kind: "straight", swing: 50 } as const;
    expect(gridTicks(sixteenths)).toBe(240);
    expect(gridLines(sixteenths, 0, 960)).toEqual([0, 240, 480, 720]);
    // 60,000 ms / 160 / 8: by hand.
    const row = tempoTable(160).find(({ value, kind }) => value === 32 && kind === "straight");
    expect(row?.ms).toBeCloseTo(46.875, 9);
  });

  it("plays, writes and reads a project", () => {
    const starts = playbackEvents(project, 0, 3840, { pattern: "a" }).map((event) => event.start);
    expect(starts).toEqual([0, 480]);
    const { project: again } = readSmf(writeSmf(project));
    expect(again.tempo).toBeCloseTo(160, 3);
    expect(
      again.patterns.flatMap((pattern) => pattern.parts).flatMap((part) => part.notes),
    ).toHaveLength(2);
    expect(parseProject(JSON.parse(JSON.stringify(project)))).toEqual(project);
    expect(() => parseProject({ ...project, tempo: "fast" })).toThrow(/tempo/);
  });

  it("transforms by the ids that are kept in files", () => {
    for (const id of [
      ...[
        "reverse",
        "invert",
        "stretch",
        "legato",
        "length",
        "roll",
        "split",
        "strum",
        "arpeggiate",
      ],
      ...["quantize", "swing", "humanize", "transpose", "snap-to-scale", "rotate", "repeat"],
      ...["velocity", "thin", "alternate-pan", "fill"],
    ])
      expect(TRANSFORMS[id], id).toMatchObject({
        label: expect.any(String),
        schema: expect.anything(),
        defaults: expect.any(Object),
        apply: expect.any(Function),
      });
    const step = { id: "c", transform: "transpose", on: true, params: { octaves: 1 }, scope: null };
    const { notes } = project.patterns[0]!.parts.find(({ track }) => track === "bass")!;
    expect(applyChain(notes, [step]).notes.map(({ pitch }) => pitch)).toEqual([48, 55]);
  });

  it("knows scales, generates in them, and tells a grid", () => {
    expect(scalePitches({ root: 0, scale: "major" }, 60, 72)).toEqual([
      60, 62, 64, 65, 67, 69, 71, 72,
    ]);
    const [idea] = generateIdeas({ key: { root: 0, scale: "major" }, seed: 3, count: 1 });
    const inC = new Set([0, 2, 4, 5, 7, 9, 11]);
    expect(idea!.notes.every(({ pitch }) => inC.has(pitch % 12))).toBe(true);
    const triplets = [0, 320, 640, 960, 1280, 1600].map((start) => ({ start, velocity: 100 }));
    expect(
      fitGrid(triplets.map((hit) => ({ ...hit, id: `h${hit.start}`, pitch: 36 })))?.grid,
    ).toMatchObject({
      kind: "triplet",
    });
  });
});
