import * as edits from "@/core/edits";
import { type Project, type Track, createProject, makeNote, makeTrack, partOf } from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { diffProjects, headOf, parseProject } from "@/core/stored";
import { readFile } from "@/core/formats";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { parseChangeBody } from "./change";
import { openDatabase, type Database } from "./database";
import { demoProjects } from "./demo";
import { ApiError } from "./errors";
import { refusal } from "./guard";
import { MAX_BODY, answer, readBytes, readJson } from "./http";
import { libraryPage } from "./library";
import { ProjectService } from "./projects";
import { parts, tracks } from "./schema";
import { seed } from "./store";

const BASS = { pattern: "a", track: "bass" };
const note = (start: number) => makeNote({ id: `n${start}`, start });

let database: Database;
let service: ProjectService;
let clock = 1000;
beforeEach(() => {
  database = openDatabase(":memory:");
  service = new ProjectService(database, () => clock++);
});
afterEach(() => database.$client.close());

const status = (work: () => unknown) => {
  try {
    work();
    return 200;
  } catch (error) {
    if (!(error instanceof ApiError)) throw error;
    return error.status;
  }
};
const change = (from: Project, to: Project) => diffProjects(from, to)!;

describe("the project service", () => {
  it("gives back what it was given, row by row", () => {
    for (const project of demoProjects()) {
      const { id } = service.create(project);
      expect(service.read(id).project).toEqual(project);
      parseProject(service.read(id).project);
    }
    expect(libraryPage(database).cards.map((card) => card.name)).toEqual([
      "Slack Water",
      "Gull Parade",
      "Breakwater",
      "Lantern Row",
      "Night Ferry",
      "Tidemill",
    ]);
  });

  it("saves the parts an edit touched and leaves the other rows alone", () => {
    const { id, project } = service.create(demoProjects()[0]!);
    const before = database.select().from(parts).all();
    const place = { pattern: project.patterns[0]!.id, track: "bass" };
    const after = edits.addNotes(project, place, [note(77)]);
    const update = change(project, after);
    expect(Object.keys(update)).toEqual(["parts"]);
    expect(service.change(id, 1, update)).toMatchObject({ revision: 2 });
    const now = database.select().from(parts).all();
    const different = now.filter((row, i) => JSON.stringify(row) !== JSON.stringify(before[i]));
    expect(different.map((row) => [row.patternId, row.trackId])).toEqual([[place.pattern, "bass"]]);
    expect(service.read(id).project).toEqual(after);
  });

  it("answers a stale revision with 409 and the project as it is, and changes nothing", () => {
    const { id, project } = service.create(createProject());
    service.change(id, 1, change(project, edits.addNotes(project, BASS, [note(0)])));
    const late = change(project, edits.addNotes(project, BASS, [note(960)]));
    try {
      service.change(id, 1, late);
      expect.unreachable();
    } catch (error) {
      expect(error).toMatchObject({ status: 409 });
      const { current } = (error as ApiError).details as {
        current: { revision: number; project: Project };
      };
      expect(current.revision).toBe(2);
      expect(partOf(current.project, BASS).notes.map((n) => n.id)).toEqual(["n0"]);
    }
    expect(service.read(id).revision).toBe(2);
  });

  it("refuses a change that would leave the project broken, whole", () => {
    const { id, project } = service.create(createProject());
    const track = makeTrack({ id: "new", kind: "melody", name: "New", sound: "glass-keys" });
    const whole = change(project, edits.addTrack(project, track));
    expect(status(() => service.change(id, 1, { ...whole, parts: [] }))).toBe(422);
    expect(
      status(() =>
        service.change(id, 1, { parts: [{ pattern: "zz", part: partOf(project, BASS) }] }),
      ),
    ).toBe(422);
    const song = { ...project, song: [{ id: "s1", pattern: "zz", times: 1 }] };
    expect(status(() => service.change(id, 1, change(project, song)))).toBe(422);
    expect(status(() => service.change(id, 1, { patternOrder: ["zz"] }))).toBe(422);
    const follow = {
      id: "q",
      transform: "quantize",
      on: true,
      params: { from: "zz" },
      scope: null,
    };
    const lost = change(project, edits.addStep(project, BASS, follow));
    expect(status(() => service.change(id, 1, lost))).toBe(422);
    expect(service.read(id)).toMatchObject({ revision: 1, project });
    expect(database.select().from(tracks).all()).toHaveLength(2);
    expect(service.change(id, 1, whole).revision).toBe(2);
  });

  it("follows tracks and patterns through adding, reordering and removing", () => {
    const { id, project } = service.create(createProject());
    let now = edits.addPattern(project, "b", "a", "copy");
    now = edits.addTrack(
      now,
      makeTrack({ id: "k", kind: "melody", name: "K", sound: "glass-keys" }),
    );
    service.change(id, 1, change(project, now));
    const turned = {
      ...now,
      tracks: [...now.tracks].reverse(),
      patterns: [...now.patterns].reverse(),
    };
    service.change(id, 2, change(now, turned));
    expect(service.read(id).project.tracks.map((t) => t.id)).toEqual(["k", "bass", "drums"]);
    expect(service.read(id).project.patterns.map((p) => p.id)).toEqual(["b", "a"]);
    const less = edits.deletePattern(edits.deleteTrack(turned, "bass"), "a");
    service.change(id, 3, change(turned, less));
    const saved = service.read(id).project;
    expect(saved.tracks.map((t) => t.id)).toEqual(["k", "drums"]);
    parseProject(saved);
    expect(database.select().from(parts).all()).toHaveLength(2);
  });

  it("tells a project that was saved since from one that was not", () => {
    const { id, project } = service.create(createProject());
    expect(service.isOther(id, 1, null)).toBe(false);
    expect(service.isOther(id, 1, service.read(id).stamp)).toBe(false);
    expect(service.isOther(id, 1, "of another file")).toBe(true);
    service.change(id, 1, change(project, edits.addNotes(project, BASS, [note(0)])));
    expect(service.isOther(id, 1, null)).toBe(true);
    expect(status(() => service.isOther("x", 1, null))).toBe(404);
  });

  it("duplicates, deletes and brings back", () => {
    const { id } = service.create(createProject({ name: "Ebb" }));
    const copy = service.duplicate(id);
    expect(copy.project.name).toBe("Ebb copy");
    expect(copy.id).not.toBe(id);
    service.remove(id);
    expect(libraryPage(database).cards.map((card) => card.id)).toEqual([copy.id]);
    expect(status(() => service.read(id))).toBe(404);
    expect(status(() => service.remove(id))).toBe(404);
    service.restore(id);
    expect(service.read(id).project.name).toBe("Ebb");
  });

  it("answers unknown ids with 404", () => {
    for (const work of [
      () => service.read("x"),
      () => service.duplicate("x"),
      () => service.remove("x"),
      () => service.restore("x"),
      () => service.change("x", 1, {}),
    ]) {
      expect(status(work)).toBe(404);
    }
  });

  it("keeps names as they are written, markup too", () => {
    const name = `<img src=x onerror="alert(1)"> ' ; drop table projects; --`;
    const { id } = service.create(createProject({ name }));
    expect(service.read(id).project.name).toBe(name);
    expect(libraryPage(database).cards[0]!.name).toBe(name);
  });

  it("puts the demo projects in once in the life of a database", () => {
    seed(database, service);
    expect(libraryPage(database).cards).toHaveLength(demoProjects().length);
    for (const card of libraryPage(database).cards) service.remove(card.id);
    seed(database, service);
    expect(libraryPage(database).cards).toHaveLength(0);
  });

  it("finds everything again after the file is closed and opened", () => {
    const folder = mkdtempSync(path.join(tmpdir(), "hailstep-"));
    const file = path.join(folder, "deep", "hailstep.db");
    const first = openDatabase(file);
    const { id, project } = new ProjectService(first).create(demoProjects()[1]!);
    expect(first.$client.pragma("journal_mode", { simple: true })).toBe("wal");
    expect(first.$client.pragma("foreign_keys", { simple: true })).toBe(1);
    first.$client.close();
    const second = openDatabase(file);
    expect(new ProjectService(second).read(id).project).toEqual(project);
    second.$client.close();
    rmSync(folder, { recursive: true });
  });
});

describe("the demo projects", () => {
  it("have a part in triplets, a lane on its own loop, and a metre other than 4/4", () => {
    const all = demoProjects();
    const lanes = all.flatMap((project) => project.tracks.flatMap((track) => track.lanes));
    expect(lanes.some((lane) => lane.grid.kind === "triplet")).toBe(true);
    expect(lanes.some((lane) => lane.steps !== null)).toBe(true);
    expect(all.some((project) => project.metre.beats !== 4)).toBe(true);
    const grids = all.flatMap((p) =>
      p.patterns.flatMap((pattern) => pattern.parts.map((part) => part.grid)),
    );
    expect(grids.some((grid) => grid.kind === "triplet")).toBe(true);
    for (const project of all) {
      expect(project.patterns.length).toBeGreaterThanOrEqual(2);
      for (const { id } of project.patterns) {
        expect(playbackEvents(project, 0, 7680, { pattern: id }).length).toBeGreaterThan(20);
      }
    }
  });
});

describe("requests", () => {
  const request = (headers: Record<string, string>, body?: BodyInit) =>
    new Request("http://127.0.0.1:4747/api", {
      method: body === undefined ? "GET" : "POST",
      headers,
      body,
    });

  it("are refused from foreign hosts, origins and sites", () => {
    const host = "127.0.0.1:4747";
    expect(refusal(new Headers({ host }))).toBeNull();
    expect(
      refusal(new Headers({ host: "localhost:4747", origin: "http://localhost:4747" })),
    ).toBeNull();
    expect(refusal(new Headers({ host: "evil.example" }))).toContain("evil.example");
    expect(refusal(new Headers({ host: "127.0.0.1.evil.example" }))).not.toBeNull();
    expect(refusal(new Headers({}))).not.toBeNull();
    expect(refusal(new Headers({ host, origin: "https://evil.example" }))).toContain(
      "evil.example",
    );
    expect(refusal(new Headers({ host, origin: "null" }))).not.toBeNull();
    expect(refusal(new Headers({ host, origin: "http://127.0.0.1:9999" }))).not.toBeNull();
    expect(refusal(new Headers({ host, "sec-fetch-site": "cross-site" }))).not.toBeNull();
  });

  it("get their errors as JSON with the right status", async () => {
    const host = { host: "127.0.0.1:4747" };
    const foreign = await answer(request({ host: "x.example" }), () => Response.json({}));
    expect(foreign.status).toBe(403);
    const broken = await answer(request(host), () => {
      throw new ApiError(422, "because", { problems: [1] });
    });
    expect(broken.status).toBe(422);
    expect(await broken.json()).toEqual({ error: "because", problems: [1] });
    const notJson = await answer(request(host, "{"), async () =>
      Response.json(await readJson(request(host, "{"))),
    );
    expect(notJson.status).toBe(400);
  });

  it("may be so large and no larger, whatever they announce", async () => {
    const large = new Uint8Array(MAX_BODY + 1);
    await expect(readBytes(request({}, large))).rejects.toMatchObject({ status: 413 });
    const announced = request({ "content-length": String(MAX_BODY + 1) }, "x");
    await expect(readBytes(announced)).rejects.toMatchObject({ status: 413 });
    expect(await readBytes(request({}, new Uint8Array(5)))).toHaveLength(5);
  });

  it("to change a project are checked field by field", () => {
    const project = createProject();
    const good = { revision: 1, change: change(project, edits.addNotes(project, BASS, [note(0)])) };
    expect(parseChangeBody(JSON.parse(JSON.stringify(good)))).toEqual(good);
    const part = partOf(project, BASS);
    const [drums] = project.tracks as [Track];
    const chord = { id: "c", start: 0, name: "Dm7", inversion: 0, spread: "close" };
    const section = { id: "s", pattern: "a", times: 1 };
    const roll = { id: "r", transform: "roll", on: true, params: {}, scope: null };
    const step = { id: "s", transform: "sparkle", on: true, params: {}, scope: null };
    const wrong: [unknown, RegExp][] = [
      [null, /Not valid/],
      [{ change: {} }, /revision/],
      [{ revision: "1", change: {} }, /revision/],
      [{ revision: 1, change: { head: { tempo: 1 } } }, /change\.head/],
      [{ revision: 1, change: { surprise: 1 } }, /surprise/],
      [{ revision: 1, change: { patternOrder: [] } }, /patternOrder/],
      [
        {
          revision: 1,
          change: {
            parts: [{ pattern: "a", part: { ...part, notes: [{ ...note(0), pitch: 200 }] } }],
          },
        },
        /pitch/,
      ],
      [
        { revision: 1, change: { parts: [{ pattern: "a", part: { ...part, chain: [step] } }] } },
        /sparkle/,
      ],
      [
        {
          revision: 1,
          change: { tracks: [{ ...drums, lanes: [...drums.lanes, drums.lanes[0]] }] },
        },
        /lanes\[\d+\].id “.*” is used twice/,
      ],
      [
        {
          revision: 1,
          change: { patterns: [{ id: "a", name: "A", bars: 2, chords: [chord, chord] }] },
        },
        /chords\[1\].id “c” is used twice/,
      ],
      [
        { revision: 1, change: { head: { ...headOf(project), song: [section, section] } } },
        /song\[1\].id “s” is used twice/,
      ],
      [
        {
          revision: 1,
          change: { parts: [{ pattern: "a", part: { ...part, chain: [roll, roll] } }] },
        },
        /chain\[1\].id “r” is used twice/,
      ],
    ];
    for (const [body, message] of wrong) {
      expect(() => parseChangeBody(body)).toThrow(message);
      expect(status(() => parseChangeBody(body))).toBe(422);
    }
  });

  it("to import are read by what the file holds", () => {
    expect(() => readFile(new Uint8Array(), "x.mid")).toThrow(/empty/);
    expect(() => readFile(new TextEncoder().encode("RIFF....WAVE"), "x.mid")).toThrow(
      /known format/,
    );
    expect(() => readFile(new TextEncoder().encode("{}"), "x.json")).toThrow(/format/);
    expect(() => readFile(new Uint8Array(2_000_000).fill(1), "x.mid")).toThrow(/known format/);
  });
});
