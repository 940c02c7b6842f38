import * as edits from "../edits";
import { type Project, createProject, partOf, trackOf } from "../score";
import { effectivePart } from "../transforms";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { mergeProjects } from "./merge";
import { ProjectError, parseProject } from "./parse";
import { upgrade } from "./upgrade";

const BASS = { pattern: "a", track: "bass" };
const json = (value: unknown) => JSON.parse(JSON.stringify(value)) as Project;
const ids = (project: Project) => partOf(project, BASS).notes.map((note) => note.id);

/** A note of a bar, split in four by a card and written as an earlier version wrote it. */
function written(): Project {
  const pieces = [0, 1, 2, 3].map((i) => ({
    ...n(i * 240, { length: 240 }),
    id: i === 0 ? "long" : `long~${i}`,
  }));
  return edits.setNotes(createProject(), BASS, pieces);
}

describe("a project of an earlier version", () => {
  it("gets ids for its written pieces, so that each can be edited and deleted alone", () => {
    const opened = parseProject(json(written()));
    expect(ids(opened)).toEqual(["long", "long.1", "long.2", "long.3"]);
    expect(upgrade(opened)).toBe(opened);
    const gone = edits.deleteNotes(opened, BASS, new Set(["long.2"]));
    expect(ids(gone)).toEqual(["long", "long.1", "long.3"]);
  });

  it("has chains that point at what they pointed at", () => {
    const step = (id: string, scope: string[]) => ({
      id,
      transform: "velocity",
      on: true,
      params: { way: "set", value: 20 },
      scope,
    });
    const soft = (project: Project) => {
      const part = partOf(project, BASS);
      const { notes } = effectivePart(project, trackOf(project, "bass"), part, { bars: 1 });
      return notes.map((note) => note.velocity === 20);
    };
    for (const scope of [["long~2"], ["long"], ["long", "long~1"]]) {
      const before = edits.addStep(written(), BASS, step("s", scope));
      expect(soft(upgrade(before))).toEqual(soft(before));
    }
  });

  it("finds ids that are free and short enough", () => {
    const long = "x".repeat(59);
    const notes = [`${long}~1234`, "a~1", "a.1", "a"].map((id, i) => ({ ...n(i * 240), id }));
    const fixed = ids(upgrade(edits.setNotes(createProject(), BASS, notes)));
    expect(new Set(fixed).size).toBe(4);
    expect(fixed.every((id) => id.length <= 64 && !id.includes("~"))).toBe(true);
    expect(() => parseProject(json(edits.setNotes(createProject(), BASS, notes)))).not.toThrow();
  });

  it("gets ids for the sections of its song, and keeps their order and repeats", () => {
    const old = json({
      ...createProject(),
      song: [
        { pattern: "a", times: 2 },
        { pattern: "a", times: 1 },
      ],
    });
    expect(parseProject(old).song).toEqual([
      { id: "s1", pattern: "a", times: 2 },
      { id: "s2", pattern: "a", times: 1 },
    ]);
    const twice = { ...old, song: [0, 1].map(() => ({ id: "x", pattern: "a", times: 1 })) };
    expect(() => parseProject(twice)).toThrow(ProjectError);
    expect(() => parseProject(twice)).toThrow(/song\[1\].id “x” is used twice/);
  });

  it("is told apart by nothing but what it lacks: a project of today comes back as it is", () => {
    const today = json(createProject());
    expect(parseProject(today)).toBe(today);
  });
});

describe("beats that a card names", () => {
  const accents = (beats: string) => ({
    ...{ id: "v", transform: "velocity", on: true, scope: null },
    params: { way: "accent", beats },
  });
  const beatsOf = (project: Project) => partOf(project, BASS).chain[0]!.params["beats"];
  const sixEight = { beats: 6, unit: 8 } as const;

  it("were eighths in 6/8 once, and are felt beats", () => {
    const old = edits.addStep(createProject({ metre: sixEight }), BASS, accents("1 4"));
    expect(beatsOf(upgrade(old))).toBe("1 2");
    expect(beatsOf(upgrade(upgrade(old)))).toBe("1 2");
  });

  it("are felt beats of their own pattern, whatever the project's metre is", () => {
    const plain = edits.addStep(createProject({ metre: sixEight }), BASS, accents("2 4"));
    const own = edits.setPatternMetre(plain, "a", { beats: 4, unit: 4 }, "times");
    expect(upgrade(own)).toBe(own);
    expect(beatsOf(parseProject(json(own)))).toBe("2 4");
  });
});

describe("a song in two tabs", () => {
  it("is merged section by section", () => {
    const section = (id: string, times: number) => ({ id, pattern: "a", times });
    const base = { ...createProject(), song: [section("1", 1), section("2", 1)] };
    const mine = { ...base, song: [section("1", 4), section("2", 1)] };
    const theirs = { ...base, song: [section("1", 1), section("2", 1), section("3", 2)] };
    expect(mergeProjects(base, mine, theirs).song).toEqual([
      section("1", 4),
      section("2", 1),
      section("3", 2),
    ]);
  });
});

describe("a written chain", () => {
  it("leaves no note that stands for another", () => {
    const roll = { id: "r", transform: "roll", on: true, params: { count: 4 }, scope: null };
    let project = edits.setNotes(createProject(), BASS, [n(0, { length: 960 })]);
    project = edits.addStep(project, BASS, roll);
    let next = 0;
    project = edits.writeChain(project, BASS, () => `own${next++}`);
    expect(ids(project)).toEqual(["n0-60", "own0", "own1", "own2"]);
  });
});

describe("unknown fields", () => {
  it("are refused whatever they are called", () => {
    for (const name of ["constructor", "toString", "extra"]) {
      const project = json(edits.setNotes(createProject(), BASS, [n(0)]));
      const notes = project.patterns[0]!.parts[1]!.notes as unknown as Record<string, unknown>[];
      Object.defineProperty(notes[0], name, { value: 1, enumerable: true });
      expect(() => parseProject(project), name).toThrow(
        `notes[0].${name} is not a field of a note`,
      );
    }
  });
});
