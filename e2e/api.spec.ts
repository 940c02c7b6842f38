import http from "node:http";
import { type Project, createProject } from "@/core/score";
import { writeSmf } from "@/core/formats";
import { expect, test } from "./fixtures";

/** A request whose Host header says something else than where it goes, which fetch does not allow. */
function raw(url: string, headers: Record<string, string>, method = "GET"): Promise<number> {
  return new Promise((resolve, reject) => {
    const request = http.request(url, { method, headers }, (response) => {
      response.resume();
      resolve(response.statusCode ?? 0);
    });
    request.on("error", reject);
    request.end();
  });
}

test("foreign hosts and origins are refused, on pages and routes", async ({ server }) => {
  for (const path of ["/", "/api/projects"]) {
    expect(await raw(server.url + path, {})).toBe(200);
    expect(await raw(server.url + path, { host: "hailstep.example" })).toBe(403);
    expect(await raw(server.url + path, { origin: "https://hailstep.example" })).toBe(403);
  }
  expect(await raw(`${server.url}/api/projects`, { origin: "null" }, "POST")).toBe(403);
});

test("create, read, change, duplicate, delete, restore and export over the routes", async ({
  request,
}) => {
  const made = await request.post("/api/projects", { data: { name: "Winch" } });
  expect(made.status()).toBe(201);
  const { id, revision, project } = (await made.json()) as {
    id: string;
    revision: number;
    project: Project;
  };
  const { name, metre, key, song } = project;
  const head = { name, tempo: 91, metre, key, song };
  expect(
    (await request.patch(`/api/projects/${id}`, { data: { revision, change: { head } } })).status(),
  ).toBe(200);
  const stale = await request.patch(`/api/projects/${id}`, {
    data: { revision, change: { head } },
  });
  expect(stale.status()).toBe(409);
  expect(await stale.json()).toMatchObject({ current: { revision: 2, project: { tempo: 91 } } });

  const midi = await request.get(`/api/projects/${id}/export?format=mid`);
  expect(midi.headers()["content-type"]).toBe("audio/midi");
  expect((await midi.body()).subarray(0, 4).toString()).toBe("MThd");
  const json = await request.get(`/api/projects/${id}/export?format=json`);
  expect(((await json.json()) as { project: Project }).project.tempo).toBe(91);
  expect((await request.get(`/api/projects/${id}/export?format=exe`)).status()).toBe(400);
  expect((await request.get(`/api/projects/${id}/export?format=mid&pattern=zz`)).status()).toBe(
    422,
  );

  const copy = (await (await request.post(`/api/projects/${id}/duplicate`)).json()) as {
    id: string;
  };
  expect((await request.delete(`/api/projects/${copy.id}`)).status()).toBe(200);
  expect((await request.get(`/api/projects/${copy.id}`)).status()).toBe(404);
  expect((await request.post(`/api/projects/${copy.id}/restore`)).status()).toBe(200);
  expect((await request.get(`/api/projects/${copy.id}`)).status()).toBe(200);
});

test("bad input gets a clear answer and changes nothing", async ({ request }) => {
  const { id, project } = (await (
    await request.post("/api/projects", { data: { name: "Cleat" } })
  ).json()) as { id: string; project: Project };
  const part = project.patterns[0]!.parts[1]!;
  const note = {
    id: "n",
    start: 0,
    length: 240,
    pitch: 60,
    velocity: 90,
    pan: 0,
    tune: 0,
    slide: false,
  };
  const change = (value: unknown) =>
    request.patch(`/api/projects/${id}`, { data: { revision: 1, change: value } });
  const parts = (changed: object) => ({ parts: [{ pattern: "a", part: { ...part, ...changed } }] });

  const answers: [Promise<{ status(): number; json(): Promise<unknown> }>, number, RegExp][] = [
    [request.post("/api/projects", { data: { name: "" } }), 422, /name/],
    [request.post("/api/projects", { data: { name: 7 } }), 422, /name/],
    [
      request.post("/api/projects", {
        data: Buffer.from("{"),
        headers: { "content-type": "application/json" },
      }),
      400,
      /JSON/,
    ],
    [
      change(parts({ notes: [{ ...note, pitch: 128 }] })),
      422,
      /notes\[0\]\.pitch must be a whole number from 0 to 127/,
    ],
    [change(parts({ notes: [{ ...note, velocity: "loud" }] })), 422, /velocity/],
    [change(parts({ track: "ghost" })), 422, /track/],
    [change({ head: { ...project, tempo: 5 } }), 422, /head/],
    [change({ nonsense: true }), 422, /nonsense/],
    [request.get("/api/projects/unknown"), 404, /unknown/],
    [request.delete("/api/projects/unknown"), 404, /unknown/],
    [request.post("/api/import", { data: Buffer.alloc(0) }), 400, /empty/],
    [request.post("/api/import", { data: Buffer.from("RIFFxxxxWAVE") }), 400, /no known format/],
    [
      request.post("/api/import", { data: Buffer.from(writeSmf(createProject()).slice(0, 40)) }),
      400,
      /only \d+ follow|ends too early|promises/,
    ],
    [request.patch(`/api/projects/${id}`, { data: Buffer.alloc(17 * 1024 * 1024) }), 413, /16 MB/],
    [request.post("/api/samples", { data: Buffer.from("text") }), 400, /no WAV, FLAC, MP3 or OGG/],
    [request.get("/api/samples/none"), 404, /none/],
    [request.put("/api/user/grids", { data: { recent: 1, pinned: [] } }), 422, /recent/],
    [
      request.post("/api/user/presets", { data: { transform: "x", name: "x", params: {} } }),
      422,
      /“x” is no known transform/,
    ],
  ];
  for (const [answer, status, message] of answers) {
    const response = await answer;
    const body = JSON.stringify(await response.json());
    expect(body).toMatch(message);
    expect(response.status(), body).toBe(status);
  }
  const after = (await (await request.get(`/api/projects/${id}`)).json()) as {
    revision: number;
    project: Project;
  };
  expect(after).toMatchObject({ revision: 1, project });
});
