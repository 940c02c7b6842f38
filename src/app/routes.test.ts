import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import Sqlite from "better-sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote } from "@/core/score";
import { diffProjects, headOf } from "@/core/stored";
import { readSmf, writeProjectJson, writeSmf } from "@/core/formats";
import { buildServerThread } from "../../scripts/threads.mjs";
import type * as ProjectsRoute from "./api/projects/route";
import type * as OneRoute from "./api/projects/[id]/route";
import type * as ExportingRoute from "./api/projects/[id]/export/route";
import type * as DuplicatingRoute from "./api/projects/[id]/duplicate/route";
import type * as RestoringRoute from "./api/projects/[id]/restore/route";
import type * as ImportingRoute from "./api/import/route";
import type * as GridsRoute from "./api/user/grids/route";
import type * as PresetsRoute from "./api/user/presets/route";

const data = mkdtempSync(path.join(tmpdir(), "hailstep-routes-"));
process.env.HAILSTEP_DATA = data;
afterAll(() => rmSync(data, { recursive: true, force: true }));

const BASS = { pattern: "a", track: "bass" };
const url = (rest: string) => `http://127.0.0.1:4747/api/${rest}`;
const LOCAL = { host: "127.0.0.1:4747" };
const ask = (rest: string, init: RequestInit = {}) =>
  new Request(url(rest), { ...init, headers: { ...LOCAL, ...(init.headers as object) } });
const send = (rest: string, method: string, body: unknown) =>
  ask(rest, { method, body: typeof body === "string" ? body : JSON.stringify(body) });
const of = <T extends Record<string, string>>(params: T) => ({ params: Promise.resolve(params) });

interface Stored {
  id: string;
  revision: number;
  project: Project;
}
const json = async <T = Stored>(answer: Response) => (await answer.json()) as T;

let projects: typeof ProjectsRoute;
let one: typeof OneRoute;
let exporting: typeof ExportingRoute;
let duplicating: typeof DuplicatingRoute;
let restoring: typeof RestoringRoute;
let importing: typeof ImportingRoute;
let grids: typeof GridsRoute;
let presets: typeof PresetsRoute;

beforeAll(async () => {
  await buildServerThread();
  // After the folder of the data is set: the database opens with the first request.
  projects = await import("./api/projects/route");
  one = await import("./api/projects/[id]/route");
  exporting = await import("./api/projects/[id]/export/route");
  duplicating = await import("./api/projects/[id]/duplicate/route");
  restoring = await import("./api/projects/[id]/restore/route");
  importing = await import("./api/import/route");
  grids = await import("./api/user/grids/route");
  presets = await import("./api/user/presets/route");
});

const create = async (name: string) =>
  json(await projects.POST(send("projects", "POST", { name })));

describe("the routes of projects", () => {
  it("list the demo, create, read, change, and tell a stale change what there is now", async () => {
    const listed = await json<{ projects: { name: string }[] }>(
      await projects.GET(ask("projects")),
    );
    expect(listed.projects.map((p) => p.name)).toContain("Slack Water");
    const { id, revision, project } = await create("Mooring");
    const edited = edits.addNotes(project, BASS, [makeNote({ id: "n", start: 0 })]);
    const change = diffProjects(project, edited)!;
    const patch = (r: number) =>
      one.PATCH(send(`projects/${id}`, "PATCH", { revision: r, change }), of({ id }));
    expect((await patch(revision)).status).toBe(200);
    const read = await json(await one.GET(ask(`projects/${id}`), of({ id })));
    expect(read.project.patterns[0]!.parts[1]!.notes).toHaveLength(1);
    const stale = await patch(revision);
    expect(stale.status).toBe(409);
    expect((await json<{ current: Stored }>(stale)).current.revision).toBe(revision + 1);
    const same = await one.GET(ask(`projects/${id}?other=${revision + 1}`), of({ id }));
    expect(await same.json()).toEqual({ unchanged: true });
  });

  it("duplicate, delete and bring back", async () => {
    const { id } = await create("Ferry");
    const copy = await json(
      await duplicating.POST(send(`projects/${id}/duplicate`, "POST", ""), of({ id })),
    );
    expect(copy.project.name).toContain("Ferry");
    expect(copy.id).not.toBe(id);
    expect((await one.DELETE(send(`projects/${id}`, "DELETE", ""), of({ id }))).status).toBe(200);
    expect((await one.GET(ask(`projects/${id}`), of({ id }))).status).toBe(404);
    await restoring.POST(send(`projects/${id}/restore`, "POST", ""), of({ id }));
    expect((await one.GET(ask(`projects/${id}`), of({ id }))).status).toBe(200);
  });

  it("say what is wrong with a body, with its status, and change nothing", async () => {
    const { id, project } = await create("Squall");
    const cases: [unknown, number][] = [
      ["no json", 400],
      [{ revision: 1 }, 422],
      [{ revision: "one", change: {} }, 422],
      [{ revision: 1, change: { parts: [{ pattern: "zz", part: {} }] } }, 422],
    ];
    for (const [body, status] of cases) {
      const answer = await one.PATCH(send(`projects/${id}`, "PATCH", body), of({ id }));
      expect(answer.status, JSON.stringify(body)).toBe(status);
      expect((await json<{ error: string }>(answer)).error.length).toBeGreaterThan(5);
    }
    expect(await json(await one.GET(ask(`projects/${id}`), of({ id })))).toMatchObject({ project });
  });

  it("refuse what does not come from this machine", async () => {
    for (const headers of [
      { host: "rebound.example" },
      { ...LOCAL, origin: "http://elsewhere.example" },
      { ...LOCAL, "sec-fetch-site": "cross-site" },
    ] as Record<string, string>[]) {
      const answer = await projects.GET(new Request(url("projects"), { headers }));
      expect(answer.status).toBe(403);
    }
  });
});

describe("the routes of files", () => {
  it("export in any format that is written, by its name or ending, with its options", async () => {
    const { id } = await create("Gangway");
    const get = (query: string) => exporting.GET(ask(`projects/${id}/export?${query}`), of({ id }));
    for (const query of ["format=mid", "format=midi", "format=mid&pattern=a"]) {
      const answer = await get(query);
      expect(answer.headers.get("content-type")).toBe("audio/midi");
      expect(answer.headers.get("content-disposition")).toContain('filename="Gangway.mid"');
      readSmf(new Uint8Array(await answer.arrayBuffer()));
    }
    expect(await json<{ format: string }>(await get("format=json"))).toMatchObject({
      format: "hailstep-project",
    });
    expect((await get("format=exe")).status).toBe(400);
    expect((await get("format=constructor")).status).toBe(400);
    expect((await get("format=mid&pattern=zz")).status).toBe(422);
    expect((await get("format=mid&speed=2")).status).toBe(422);
  });

  it("import what they export, and name what they cannot read", async () => {
    const project = edits.addNotes(createProject(), BASS, [makeNote({ id: "n", start: 0 })]);
    const take = (body: BodyInit, name: string) =>
      importing.POST(ask(`import?name=${name}`, { method: "POST", body }));
    const midi = await take(writeSmf(project) as BodyInit, "tide.mid");
    expect(midi.status).toBe(201);
    expect(await midi.json()).toMatchObject({ project: { name: project.name }, notKept: [] });
    const file = await take(writeProjectJson(project), "x.json");
    expect((await json(file)).project).toEqual(project);
    const wrong = await take("RIFF", "x.mid");
    expect(wrong.status).toBe(400);
    expect((await json<{ error: string }>(wrong)).error).toContain("no known format");
  });
});

describe("a database that another program holds for a moment", () => {
  it("is waited for, the body read once, and nobody else waits meanwhile", async () => {
    const { id, revision, project } = await create("Held");
    const other = new Sqlite(path.join(data, "hailstep.db"));
    other.exec("begin immediate");
    const head = { ...headOf(project), tempo: 77 };
    let done = false;
    const saving = one
      .PATCH(send(`projects/${id}`, "PATCH", { revision, change: { head } }), of({ id }))
      .finally(() => (done = true));
    let answered = 0;
    const until = Date.now() + 300;
    while (Date.now() < until) {
      const read = await one.GET(ask(`projects/${id}`), of({ id }));
      if (read.status === 200) answered++;
      await new Promise((resolve) => setTimeout(resolve, 1));
    }
    expect(done).toBe(false);
    // A wait inside the database would let hardly one through.
    expect(answered).toBeGreaterThan(3);
    other.exec("rollback");
    other.close();
    expect((await saving).status).toBe(200);
    const after = await json(await one.GET(ask(`projects/${id}`), of({ id })));
    expect(after.project.tempo).toBe(77);
  });
});

describe("the routes of the user", () => {
  it("keep grids and presets, and refuse nonsense", async () => {
    const grid = { value: 16, kind: "triplet", swing: 50 };
    const put = (body: unknown) => grids.PUT(send("user/grids", "PUT", body));
    expect((await put({ recent: [grid], pinned: [] })).status).toBe(200);
    expect((await put({ recent: [{ ...grid, value: 17 }], pinned: [] })).status).toBe(422);
    const post = (body: unknown) => presets.POST(send("user/presets", "POST", body));
    expect((await post({ transform: "roll", name: "Three", params: { count: 3 } })).status).toBe(
      201,
    );
    for (const transform of ["constructor", "sparkle"]) {
      expect((await post({ transform, name: "X", params: {} })).status).toBe(422);
    }
  });
});
