import { describe, expect, it } from "vitest";
import * as yup from "yup";
import { demoProjects } from "@/server/demo";
import { seeded } from "../base";
import { createProject, projectSchema } from "../score";
import { ProjectError, parseProject } from "../stored";
import { problemsOf } from "./check";

const yupSays = (value: unknown) => {
  try {
    projectSchema.validateSync(value, { strict: true, abortEarly: false });
    return [];
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    return error.inner.map((inner) => inner.path ?? "");
  }
};

const STRANGE: unknown[] = [
  null,
  undefined,
  "",
  "x".repeat(81),
  -1,
  1.5,
  NaN,
  1e12,
  true,
  [],
  {},
  [1],
];

/** Puts something strange somewhere into a copy of a value. */
function spoiled<T>(value: T, random: () => number): T {
  const copy = structuredClone(value);
  let at: unknown = copy;
  for (;;) {
    if (typeof at !== "object" || at === null) return copy;
    const keys = Object.keys(at);
    if (keys.length === 0) return copy;
    const key = keys[Math.floor(random() * keys.length)]!;
    const holder = at as Record<string, unknown>;
    const inside = holder[key];
    if (typeof inside !== "object" || inside === null || random() < 0.15) {
      const what = random();
      if (what < 0.15) delete holder[key];
      else if (what < 0.3) holder.strange = 1;
      else holder[key] = STRANGE[Math.floor(random() * STRANGE.length)];
      return copy;
    }
    at = inside;
  }
}

describe("problemsOf", () => {
  it("finds fault exactly where Yup by itself does, over spoiled projects", () => {
    const random = seeded(11);
    const projects = demoProjects();
    let wrong = 0;
    for (let i = 0; i < 300; i++) {
      const value = spoiled(projects[i % projects.length]!, random);
      const [mine, theirs] = [problemsOf(projectSchema, value), yupSays(value)];
      if (theirs.length > 0) wrong++;
      expect([i, mine.length > 0]).toEqual([i, theirs.length > 0]);
      if (mine.length > 0) expect(theirs.join()).toContain(mine[0]!.path.replace("(whole)", ""));
    }
    expect(wrong).toBeGreaterThan(150);
  });

  it("what is too many is said in one line, and nothing of it is looked at", () => {
    const project = createProject({ name: "Many" });
    let touched = 0;
    const spy = new Proxy({}, { get: () => touched++, has: () => (touched++, false) });
    const many = { ...project, tracks: Array<object>(100_000).fill(spy) };
    expect(problemsOf(projectSchema, many)).toEqual([
      { path: "tracks", reason: expect.stringContaining("64") as string },
    ]);
    expect(touched).toBe(0);
  });

  it("unknown fields are named while they are few, and counted off when they are many", () => {
    const project = createProject({ name: "Fields" });
    expect(problemsOf(projectSchema, { ...project, one: 1, two: 2 })[0]!.reason).toContain("one");
    const fields = Object.fromEntries(Array.from({ length: 100_000 }, (_, i) => [`k${i}`, i]));
    expect(problemsOf(projectSchema, { ...project, ...fields })).toEqual([
      { path: "(whole)", reason: "has more than 20 unknown fields" },
    ]);
    const long = { ...project, ["x".repeat(1_000_000)]: 1 };
    expect(JSON.stringify(problemsOf(projectSchema, long)).length).toBeLessThan(1000);
  });

  it("tells the first problems, then how many more there are", () => {
    const project = createProject({ name: "Notes" });
    const lanes = project.tracks[0]!.lanes;
    const broken = {
      ...project,
      tracks: project.tracks.map((t) => ({
        ...t,
        lanes: lanes.map((l) => ({ ...l, mute: 1, solo: 1, steps: "8" })),
      })),
    };
    const count = yupSays(broken).length;
    const found = problemsOf(projectSchema, broken);
    expect(found).toHaveLength(21);
    expect(found[20]!.reason).toBe(`has ${count - 20} further problems`);
  });

  it("values of a card may not be deep or many", () => {
    let deep: unknown = 1;
    for (let i = 0; i < 5000; i++) deep = { deep };
    const project = demoProjects()[0]!;
    const [first, ...rest] = project.patterns;
    const step = { id: "s", transform: "roll", on: true, scope: null, params: { deep } };
    const parts = first!.parts.map((part) => ({ ...part, chain: [step] }));
    const broken = { ...project, patterns: [{ ...first!, parts }, ...rest] };
    expect(() => parseProject(broken)).toThrow(/holds too much, or too deep/);
  });

  it("names that every object knows are no scale, chord or transform", () => {
    const project = createProject({ name: "Names" });
    for (const name of ["constructor", "toString", "__proto__", "hasOwnProperty", "valueOf"]) {
      expect(() => parseProject({ ...project, key: { root: 0, scale: name } })).toThrow(
        ProjectError,
      );
      const chords = [{ id: "c", start: 0, name: `C${name}`, inversion: 0, spread: "close" }];
      const patterns = project.patterns.map((pattern) => ({ ...pattern, chords }));
      expect(() => parseProject({ ...project, patterns })).toThrow(ProjectError);
    }
  });

  it("a name that was refused is not kept", () => {
    const project = createProject({ name: "Long" });
    const huge = () => ({ ...project, key: { root: 0, scale: `major${"x".repeat(5_000_000)}` } });
    expect(() => parseProject(huge())).toThrow(ProjectError);
    const before = process.memoryUsage().heapUsed;
    for (let i = 0; i < 40; i++) {
      const error = problemsOf(projectSchema, huge());
      expect(JSON.stringify(error).length).toBeLessThan(2000);
    }
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(150_000_000);
  });
});
