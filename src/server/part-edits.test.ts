import { afterEach, beforeEach, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { seeded } from "@/core/base";
import { type Project, createProject, makeNote, partOf } from "@/core/score";
import { applyChange, diffProjects } from "@/core/stored";
import { firstPortion, sentChange } from "@/ui/saving/portions";
import { parseChangeBody } from "./change";
import { openDatabase, type Database } from "./database";
import { ApiError } from "./errors";
import { ProjectService } from "./projects";

const BASS = { pattern: "a", track: "bass" };
const notes = (count: number) =>
  Array.from({ length: count }, (_, i) =>
    makeNote({ id: `n${i}`, start: Math.floor(i / 8) * 60, pitch: 40 + (i % 8) }),
  );

let database: Database;
let service: ProjectService;
beforeEach(() => {
  database = openDatabase(":memory:");
  service = new ProjectService(database);
});
afterEach(() => database.$client.close());

/** As it goes over the wire. */
const sent = (before: Project, after: Project) =>
  JSON.parse(JSON.stringify(sentChange(diffProjects(before, after)!, before))) as object;

describe("edits of large parts", () => {
  it("one hit costs as much to send in a part of 50,000 notes as in one of 500", () => {
    const sizes = [500, 50_000].map((count) => {
      const before = edits.setNotes(createProject({ bars: 1024 }), BASS, notes(count));
      const after = edits.addNotes(before, BASS, [
        makeNote({ id: "one", start: 12_345, pitch: 50 }),
      ]);
      return JSON.stringify({ revision: 1, change: sent(before, after) }).length;
    });
    expect(sizes[1]).toBe(sizes[0]);
    expect(sizes[1]).toBeLessThan(2000);
  });

  it("arrive as they were sent, whatever was edited", () => {
    const random = seeded(3);
    let before = edits.setNotes(createProject({ bars: 64 }), BASS, notes(400));
    const { id } = service.create(before);
    for (let round = 1; round <= 60; round++) {
      const part = partOf(before, BASS);
      const some = part.notes.filter(() => random() < 0.1);
      const kind = Math.floor(random() * 4);
      const after =
        kind === 0
          ? edits.addNotes(before, BASS, [
              makeNote({ id: `r${round}`, start: Math.floor(random() * 9000), pitch: 60 }),
            ])
          : kind === 1
            ? edits.deleteNotes(before, BASS, new Set(some.map((n) => n.id)))
            : kind === 2
              ? edits.setNotes(
                  before,
                  BASS,
                  part.notes.map((n) => (some.includes(n) ? { ...n, velocity: 1 + round } : n)),
                )
              : edits.setPartLength(before, BASS, 960 * (1 + (round % 8)));
      if (!diffProjects(before, after)) continue;
      const { revision } = service.read(id);
      const body = parseChangeBody({ revision, change: sent(before, after) });
      service.change(id, body.revision, body.change);
      expect(partOf(service.read(id).project, BASS)).toEqual(partOf(after, BASS));
      before = after;
    }
  });

  it("are checked: unknown parts, notes twice, too many, strange fields; nothing is written", () => {
    const { id } = service.create(edits.setNotes(createProject(), BASS, notes(200)));
    const good = { pattern: "a", track: "bass", removed: [], put: [] };
    const note = makeNote({ id: "x", start: 0 });
    for (const edit of [
      { ...good, pattern: "no" },
      { ...good, track: "no" },
      { ...good, put: [note, note] },
      { ...good, put: [{ ...note, pitch: 128 }] },
      { ...good, put: [{ ...note, surprise: 1 }] },
      { ...good, removed: [1] },
      { ...good, removed: "n1" },
      { ...good, rest: { length: 960 } },
      { ...good, surprise: 1 },
    ]) {
      const work = () => {
        const body = parseChangeBody({ revision: 1, change: { partEdits: [edit] } });
        service.change(id, 1, body.change);
      };
      expect(work).toThrow(ApiError);
    }
    const twice = { revision: 1, change: { partEdits: [good, good] } };
    expect(() => parseChangeBody(twice)).toThrow(/there twice/);
    expect(service.read(id).revision).toBe(1);
  });
});

describe("a change that is too large for one request", () => {
  it("goes in portions, each of which leaves a whole project, and ends as it was", () => {
    let before = createProject({ bars: 64 });
    for (let i = 0; i < 4; i++) before = edits.addPattern(before, `p${i}`, "a", "copy");
    const many = notes(30_000);
    let after = before;
    for (const pattern of before.patterns) {
      after = edits.setNotes(after, { pattern: pattern.id, track: "bass" }, many);
    }
    after = edits.addPattern({ ...after, name: "Large" }, "copy", "a", "copy");
    const stored = service.create(before);
    let [confirmed, revision, portions] = [before, stored.revision, 0];
    for (let change = diffProjects(confirmed, after); change; portions++) {
      const portion = firstPortion(change, confirmed);
      const body = { revision, change: sentChange(portion, confirmed) };
      expect(JSON.stringify(body).length).toBeLessThan(8_000_000);
      revision = service.change(stored.id, revision, body.change).revision;
      confirmed = portion === change ? after : applyChange(confirmed, portion);
      change = diffProjects(confirmed, after);
      expect(portions).toBeLessThan(20);
    }
    expect(portions).toBeGreaterThan(2);
    expect(service.read(stored.id).project).toEqual(after);
  });
});

describe("a save that comes from another file", () => {
  it("is told from one that is merely older", () => {
    const project = createProject({ name: "Fork" });
    const { id, stamp } = service.create(project);
    const head = (name: string) => ({ head: diffProjects(project, { ...project, name })!.head! });
    const first = service.change(id, 1, head("One"), stamp);
    service.change(id, 2, head("Two"), first.stamp);
    const problem = (revision: number, of: string) => {
      try {
        service.change(id, revision, head("Stale"), of);
        return null;
      } catch (error) {
        return error as ApiError;
      }
    };
    expect(problem(2, first.stamp)).toMatchObject({ status: 409, details: { known: true } });
    // The same number, another stamp: saved into a file that is gone.
    expect(problem(3, "elsewhere")).toMatchObject({ status: 409, details: { known: false } });
    // A number that this file has never reached.
    expect(problem(9, "elsewhere")).toMatchObject({ status: 409, details: { known: false } });
    expect(service.read(id).project.name).toBe("Two");
  });
});
