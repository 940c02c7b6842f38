import type { Params } from "../params";
import { type Project, createProject, makeTrack, partOf } from "../score";
import {
  ProjectError,
  applyChange,
  diffProjects,
  mergeProjects,
  parseProject,
  returning,
  same,
  upgrade,
} from "../stored";
import { FormatError, readProjectJson, writeProjectJson } from "../formats";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import * as edits from "./";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
const copy = (project: Project): Project => JSON.parse(JSON.stringify(project));

const ROLL = { id: "r", transform: "roll", on: true, params: {}, scope: null };
const FOLLOW = { id: "q", transform: "quantize", on: true, params: { from: "zz" }, scope: null };

describe("parseProject", () => {
  it("takes what createProject makes, for any options", () => {
    expect(parseProject(copy(createProject()))).toEqual(createProject());
    const other = createProject({
      name: "<b>Gull</b>",
      tempo: 140,
      metre: { beats: 7, unit: 8 },
      key: { root: 11, scale: "lydian" },
      bars: 8,
    });
    expect(parseProject(copy(other))).toEqual(other);
  });

  it("lists every path and reason, not only the first", () => {
    const wrong = copy(createProject()) as unknown as Record<string, never>;
    const project = wrong as unknown as {
      tempo: unknown;
      key: { scale: unknown };
      patterns: { parts: { notes: unknown; length: unknown; track: unknown }[] }[];
      tracks: { level: unknown }[];
      extra: unknown;
    };
    project.tempo = "fast";
    project.key.scale = "sideways";
    project.tracks[0]!.level = 20;
    project.patterns[0]!.parts[0]!.notes = [
      { ...n(0), pitch: 128, velocity: 0 },
      { ...n(0), id: 7 },
    ];
    project.patterns[0]!.parts[1]!.length = 0.5;
    project.extra = 1;
    try {
      parseProject(project);
      expect.unreachable();
    } catch (error) {
      expect(error).toBeInstanceOf(ProjectError);
      const paths = (error as ProjectError).problems.map((p) => p.path);
      for (const path of [
        "tempo",
        "key.scale",
        "tracks[0].level",
        "patterns[0].parts[0].notes[0].pitch",
        "patterns[0].parts[0].notes[0].velocity",
        "patterns[0].parts[0].notes[1].id",
        "patterns[0].parts[1].length",
      ]) {
        expect(paths).toContain(path);
        expect((error as Error).message).toContain(path);
      }
      expect((error as Error).message).toContain("extra");
    }
  });

  it("finds references to what is not there, and ids used twice", () => {
    const base = copy(createProject());
    const cases: [(p: Project) => unknown, RegExp][] = [
      [(p) => ({ ...p, song: [{ id: "s1", pattern: "zz", times: 1 }] }), /song\[0\].pattern “zz”/],
      [(p) => ({ ...p, tracks: [...p.tracks, p.tracks[0]] }), /tracks\[2\].id .*twice/],
      [(p) => ({ ...p, tracks: p.tracks.slice(1) }), /“drums” is no track/],
      [
        (p) => ({ ...p, patterns: [{ ...p.patterns[0], parts: [] }] }),
        /has no part for track “drums”/,
      ],
      [(p) => ({ ...p, patterns: [] }), /patterns/],
      [
        (p) =>
          edits.addStep(p, BASS, {
            id: "s",
            transform: "sparkle",
            on: true,
            params: {},
            scope: null,
          }),
        /chain\[0\].transform “sparkle” is no known transform/,
      ],
      [
        (p) =>
          edits.addStep(p, BASS, {
            id: "s",
            transform: "roll",
            on: true,
            params: { count: 900 },
            scope: null,
          }),
        /chain\[0\].params.count/,
      ],
      [(p) => edits.setNotes(p, BASS, [n(0), n(0)]), /used twice/],
      [
        (p) => edits.addStep(edits.addStep(p, BASS, ROLL), BASS, ROLL),
        /chain\[1\].id “r” is used twice/,
      ],
      [
        (p) => edits.addStep(p, BASS, FOLLOW),
        /chain\[0\].params.from “zz” is no track of this project/,
      ],
    ];
    for (const [spoil, message] of cases) expect(() => parseProject(spoil(base))).toThrow(message);
  });

  it("throws a ProjectError, and nothing else, for anything", () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        expect(() => parseProject(value)).toThrow(ProjectError);
      }),
    );
    for (const value of [null, undefined, 1, "x", []])
      expect(() => parseProject(value)).toThrow(ProjectError);
  });

  it("takes ten thousand notes without trouble", () => {
    const many = Array.from({ length: 10_000 }, (_, i) => ({ ...n(i), id: `n${i}` }));
    const project = copy(edits.setNotes(createProject(), BASS, many));
    expect(parseProject(project)).toBe(project);
  });
});

describe("project files", () => {
  it("come back as they were", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const project = edits.setNotes(createProject(), BASS, notes);
        expect(readProjectJson(writeProjectJson(project))).toEqual(copy(project));
      }),
      { numRuns: 30 },
    );
  });

  it("are refused with a reason when they are none", () => {
    const head = { format: "hailstep-project", version: 1 };
    expect(() => readProjectJson("{")).toThrow(FormatError);
    expect(() => readProjectJson("[]")).toThrow(/no object/);
    expect(() => readProjectJson("{}")).toThrow(/format/);
    expect(() => readProjectJson(JSON.stringify({ ...head, version: 9 }))).toThrow(/version is 9/);
    expect(() => readProjectJson(JSON.stringify({ ...head, project: {} }))).toThrow(ProjectError);
  });
});

describe("edits", () => {
  it("leave the project they are given as it was, and share what they do not touch", () => {
    const before = createProject();
    const frozen = copy(before);
    const after = edits.addNotes(before, BASS, [n(0)]);
    expect(before).toEqual(frozen);
    expect(after.tracks).toBe(before.tracks);
    expect(partOf(after, DRUMS)).toBe(partOf(before, DRUMS));
  });

  it("give the same project back when nothing changes", () => {
    const project = edits.addNotes(createProject(), BASS, [n(0)]);
    expect(edits.addNotes(project, BASS, [])).toBe(project);
    expect(edits.deleteNotes(project, BASS, new Set(["none"]))).toBe(project);
    expect(edits.changeNotes(project, BASS, new Set(["n0-60"]), (note) => note)).toBe(project);
    expect(edits.setTempo(project, project.tempo)).toBe(project);
    expect(edits.renameProject(project, "  ")).toBe(project);
    expect(edits.setBars(project, "a", 2)).toBe(project);
  });

  it("hold values to their ranges", () => {
    expect(edits.setTempo(createProject(), 9999).tempo).toBe(400);
    expect(edits.setTempo(createProject(), 84.123).tempo).toBe(84.12);
    expect(edits.setBars(createProject(), "a", 0).patterns[0]!.bars).toBe(1);
    expect(
      edits.setPartLength(createProject({ bars: 1 }), BASS, 99_999).patterns[0]!.parts[1]!.length,
    ).toBe(3840);
  });

  it("let a part with notes repeat under a longer pattern, and an empty one grow", () => {
    const project = edits.setBars(
      edits.addNotes(createProject({ bars: 1 }), DRUMS, [n(0, { pitch: 36 })]),
      "a",
      4,
    );
    expect(project.patterns[0]!.parts.map((part) => part.length)).toEqual([3840, 4 * 3840]);
    expect(edits.setBars(project, "a", 2).patterns[0]!.parts.map((part) => part.length)).toEqual([
      3840,
      2 * 3840,
    ]);
  });

  it("keep whole bars whole when the metre changes", () => {
    const project = edits.setMetre(createProject({ bars: 2 }), { beats: 7, unit: 8 });
    expect(project.patterns[0]!.parts[0]!.length).toBe(2 * 3360);
    parseProject(copy(project));
  });

  it("add and delete tracks and patterns so that the project stays whole", () => {
    let project = edits.addTrack(
      createProject(),
      makeTrack({ id: "k", kind: "melody", name: "K", sound: "glass-keys" }),
    );
    project = edits.addPattern(project, "b", "a", "copy");
    expect(project.patterns[1]!.name).toBe("Main 2");
    project = edits.addPattern(project, "c", "b", "copy");
    project = edits.addPattern(project, "d", "b", "empty");
    expect(project.patterns.map(({ name }) => name)).toEqual(["Main", "Main 2", "Main 3", "New"]);
    project = edits.deletePattern(edits.deletePattern(project, "c"), "d");
    project = edits.deleteTrack(project, "bass");
    parseProject(copy(project));
    project = edits.deletePattern(
      { ...project, song: [{ id: "s2", pattern: "b", times: 2 }] },
      "b",
    );
    expect(project.song).toEqual([]);
    expect(edits.deletePattern(project, "a")).toBe(project);
    expect(() => edits.addNotes(project, BASS, [n(0)])).toThrow(/bass/);
  });

  it("move, change and remove chain steps", () => {
    const step = (id: string) => ({ id, transform: "reverse", on: true, params: {}, scope: null });
    let project = edits.addStep(edits.addStep(createProject(), BASS, step("x")), BASS, step("y"));
    project = edits.moveStep(project, BASS, "y", 0);
    expect(partOf(project, BASS).chain.map((s) => s.id)).toEqual(["y", "x"]);
    project = edits.deleteStep(edits.changeStep(project, BASS, "x", { on: false }), BASS, "y");
    expect(partOf(project, BASS).chain).toEqual([{ ...step("x"), on: false }]);
  });
});

/** Some edit or other, by number. */
function someEdit(project: Project, kind: number, at: number, tag: string): Project {
  const { notes } = partOf(project, BASS);
  switch (kind % 6) {
    case 0:
      return edits.addNotes(project, BASS, [{ ...n(at), id: `${tag}${at}` }]);
    case 1:
      return edits.deleteNotes(
        project,
        BASS,
        new Set([notes[at % Math.max(1, notes.length)]?.id ?? ""]),
      );
    case 2:
      return edits.changeNotes(
        project,
        BASS,
        new Set([notes[at % Math.max(1, notes.length)]?.id ?? ""]),
        (note) => ({ ...note, velocity: 1 + (at % 127) }),
      );
    case 3:
      return edits.setTempo(project, 60 + (at % 100));
    case 4:
      return edits.addTrack(
        project,
        makeTrack({ id: `${tag}t${at}`, kind: "melody", name: "T", sound: "rope-pluck" }),
      );
    default:
      return project.patterns.length > 3
        ? edits.deletePattern(project, project.patterns[at % 3]!.id)
        : edits.addPattern(project, `${tag}p${at}`, project.patterns[0]!.id, "copy");
  }
}

const anyEdits = fc.array(fc.tuple(fc.nat(5), fc.nat(4000)), { maxLength: 8 });
const BASE = edits.setNotes(
  createProject(),
  BASS,
  Array.from({ length: 12 }, (_, i) => n(i * 240)),
);
const edited = (list: [number, number][], tag: string) => {
  let project = BASE;
  for (const [i, [kind, at]] of list.entries()) {
    try {
      project = someEdit(project, kind, at, `${tag}${i}-`);
    } catch {
      // The pattern or track of an edit may be gone by then.
    }
  }
  return project;
};

describe("changes", () => {
  it("lead from one state to the other, by the rows they name alone", () => {
    fc.assert(
      fc.property(anyEdits, (list) => {
        const after = edited(list, "m");
        const change = diffProjects(BASE, after);
        if (change === null) expect(after).toEqual(BASE);
        else {
          expect(applyChange(BASE, change)).toEqual(after);
          expect(applyChange(after, diffProjects(after, BASE)!)).toEqual(BASE);
        }
      }),
    );
  });

  it("name only the part that was edited", () => {
    const change = diffProjects(BASE, edits.addNotes(BASE, BASS, [{ ...n(50), id: "new" }]))!;
    expect(Object.keys(change)).toEqual(["parts"]);
    expect(change.parts).toHaveLength(1);
  });
});

describe("merging", () => {
  it("keeps both sides' notes, and each side's changes to different notes", () => {
    const mine = edits.addNotes(BASE, BASS, [{ ...n(7), id: "mine" }]);
    const theirs = edits.changeNotes(
      edits.deleteNotes(BASE, BASS, new Set(["n240-60"])),
      BASS,
      new Set(["n0-60"]),
      (note) => ({ ...note, velocity: 3 }),
    );
    const { notes } = partOf(mergeProjects(BASE, mine, theirs), BASS);
    expect(notes.some((note) => note.id === "mine")).toBe(true);
    expect(notes.some((note) => note.id === "n240-60")).toBe(false);
    expect(notes.find((note) => note.id === "n0-60")!.velocity).toBe(3);
  });

  it("keeps a note that one side changed and the other took away", () => {
    const mine = edits.changeNotes(BASE, BASS, new Set(["n0-60"]), (note) => ({
      ...note,
      pitch: 62,
    }));
    const theirs = edits.deleteNotes(BASE, BASS, new Set(["n0-60"]));
    for (const merged of [mergeProjects(BASE, mine, theirs), mergeProjects(BASE, theirs, mine)]) {
      expect(partOf(merged, BASS).notes.find((note) => note.id === "n0-60")?.pitch).toBe(62);
    }
  });

  it("brings a track back that one side deleted while the other put notes on it", () => {
    const deleted = edits.deleteTrack(BASE, "bass");
    const played = edits.addNotes(BASE, BASS, [{ ...n(7), id: "new" }]);
    for (const [mine, theirs] of [
      [deleted, played],
      [played, deleted],
    ] as const) {
      const merged = mergeProjects(BASE, mine, theirs);
      expect(merged.tracks.map((track) => track.id)).toEqual(BASE.tracks.map((track) => track.id));
      expect(partOf(merged, BASS)).toEqual(partOf(played, BASS));
      expect(returning(BASE, mine, theirs).map((track) => track.id)).toEqual(["bass"]);
      parseProject(copy(merged));
    }
    // Nothing was put on it: it stays deleted.
    const renamed = edits.renameProject(BASE, "Breakwater");
    const merged = mergeProjects(BASE, deleted, renamed);
    expect(merged.tracks.some((track) => track.id === "bass")).toBe(false);
    expect(returning(BASE, deleted, renamed)).toEqual([]);
  });

  it("leaves values alone that only look like a track: a ramp's first velocity, a first rate", () => {
    const steps: [string, Params][] = [
      ["velocity", { way: "ramp", from: 40 }],
      ["stutter", { first: "32" }],
    ];
    for (const [transform, params] of steps) {
      const step = { id: "s", transform, on: true, params, scope: null };
      const project = copy(edits.addStep(BASE, BASS, step));
      expect(parseProject(project)).toBe(project);
    }
  });

  it("leaves no step that takes its timing from a track that is gone", () => {
    const step = { ...FOLLOW, params: { from: "bass" } };
    const following = edits.addStep(BASE, { pattern: "a", track: "drums" }, step);
    const gone = edits.deleteTrack(following, "bass");
    parseProject(copy(gone));
    // One tab deletes the track while the other begins to follow it.
    parseProject(copy(mergeProjects(BASE, edits.deleteTrack(BASE, "bass"), following)));
    // Earlier versions left such steps: their projects and files open.
    const old = copy({
      ...gone,
      patterns: following.patterns.map((p) => ({
        ...p,
        parts: p.parts.filter((x) => x.track !== "bass"),
      })),
    });
    expect(() => parseProject(old)).toThrow(/is no track of this project/);
    expect(readProjectJson(writeProjectJson(old)).tracks).toHaveLength(1);
    expect(upgrade(old)).toEqual(gone);
  });

  it("always gives a valid project", () => {
    fc.assert(
      fc.property(anyEdits, anyEdits, (a, b) => {
        const merged = mergeProjects(BASE, edited(a, "m"), edited(b, "t"));
        parseProject(copy(merged));
      }),
    );
  });

  it("with one side unchanged gives the other", () => {
    fc.assert(
      fc.property(anyEdits, (list) => {
        const after = edited(list, "m");
        expect(mergeProjects(BASE, after, copy(BASE))).toEqual(after);
        expect(mergeProjects(BASE, BASE, after)).toEqual(after);
        expect(same(mergeProjects(after, BASE, after), BASE)).toBe(true);
      }),
    );
  });
});
