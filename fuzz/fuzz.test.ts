import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import http from "node:http";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, expect, it } from "vitest";
import { seeded } from "@/core/base";
import { type StoredProject, parseProject } from "@/core/stored";
import { startServer } from "../scripts/server.mjs";
import { makeRequest, type Ground, type Sent } from "./requests";

/** How many requests, and of which seed. */
const COUNT = Number(process.env.FUZZ_COUNT ?? 20_000);
const SEED = Number(process.env.FUZZ_SEED ?? 1);
const PORT = Number(process.env.FUZZ_PORT ?? 4797);
const SLOW_MS = 2000;

const folder = mkdtempSync(path.join(tmpdir(), "hailstep-fuzz-"));
let server: Awaited<ReturnType<typeof startServer>>;
beforeAll(async () => {
  server = await startServer({ port: PORT, data: folder });
});
afterAll(async () => {
  await server.stop();
  rmSync(folder, { recursive: true, force: true });
});

interface Got {
  status: number;
  body: string;
  ms: number;
}

const agent = new http.Agent({ keepAlive: true });

/** Sends as it is: fetch would mend addresses. */
function send({ method, path, body }: Sent): Promise<Got> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const request = http.request(
      {
        host: "127.0.0.1",
        port: PORT,
        agent,
        method,
        path,
        headers: { "content-length": body?.length ?? 0 },
      },
      (response) => {
        const chunks: Buffer[] = [];
        response.on("data", (chunk: Buffer) => chunks.push(chunk));
        response.on("error", reject);
        response.on("end", () =>
          resolve({
            status: response.statusCode ?? 0,
            body: Buffer.concat(chunks).toString(),
            ms: performance.now() - started,
          }),
        );
      },
    );
    request.on("error", reject);
    request.end(body);
  });
}

const get = async (path: string) =>
  JSON.parse((await send({ method: "GET", path })).body) as unknown;
/** Resident memory of the server in MB, where the system tells. */
const memory = () => {
  try {
    const status = readFileSync(`/proc/${server.child.pid}/status`, "utf8");
    return Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024;
  } catch {
    return null;
  }
};

it(`answers ${COUNT} mutated requests (seed ${SEED}) in words, and nothing is harmed`, async () => {
  const random = seeded(SEED);
  const { projects } = (await get("/api/projects")) as { projects: { id: string }[] };
  const demo = projects[0]!.id;
  const read = async (which: string) => (await get(`/api/projects/${which}`)) as StoredProject;
  let id = demo;
  let now = await read(id);
  /** Goes on with a fresh copy: what was accepted wears a project down. */
  const fresh = async () => {
    const { body } = await send({ method: "POST", path: `/api/projects/${demo}/duplicate` });
    if (id !== demo) await send({ method: "DELETE", path: `/api/projects/${id}` });
    ({ id } = JSON.parse(body) as { id: string });
    now = await read(id);
  };
  let user = JSON.stringify(await get("/api/user"));
  const table: Record<string, number> = { accepted: 0, refused: 0 };
  const wrong: string[] = [];
  let [slowest, early] = [0, memory()];

  for (let i = 0; i < COUNT; i++) {
    if (i % 100 === 0 || !now.project.patterns[0]?.parts[0]) await fresh();
    const ground: Ground = { id, revision: now.revision, project: now.project };
    const sent = makeRequest(ground, random);
    const what = `#${i} ${sent.method} ${sent.path} ${new TextDecoder().decode(sent.body?.slice(0, 600))}`;
    let got: Got;
    try {
      got = await send(sent);
    } catch (error) {
      wrong.push(`dropped: ${what}: ${String(error)}`);
      continue;
    }
    slowest = Math.max(slowest, got.ms);
    if (got.status >= 500) wrong.push(`${got.status}: ${what}: ${got.body.slice(0, 200)}`);
    if (got.ms > SLOW_MS) wrong.push(`${Math.round(got.ms)} ms: ${what}`);
    table[got.status < 400 ? "accepted" : "refused"]!++;
    const key = `${sent.method} ${sent.path.split("?")[0]!.replaceAll(id, ":id").slice(0, 24)} ${got.status}`;
    table[key] = (table[key] ?? 0) + 1;
    if (
      got.status < 400 &&
      sent.method === "POST" &&
      /import|projects$/.test(sent.path.split("?")[0]!)
    ) {
      const made = JSON.parse(got.body) as StoredProject;
      if (made.id) {
        mustParse(await read(made.id), what);
        await send({ method: "DELETE", path: `/api/projects/${made.id}` });
      }
    }
    if (sent.method === "PATCH") {
      const after = await read(id);
      if (got.status < 400) mustParse(after, what);
      else if (JSON.stringify(after) !== JSON.stringify(now))
        wrong.push(`changed on ${got.status}: ${what}`);
      now = after;
    }
    if (sent.path.startsWith("/api/user")) {
      const after = JSON.stringify(await get("/api/user"));
      if (got.status >= 400 && after !== user)
        wrong.push(`settings changed on ${got.status}: ${what}`);
      user = after;
    }
    // Once everything has been used for long: each thread grows to what it needs.
    if (i === Math.floor(COUNT / 2)) early = memory();
  }

  function mustParse(stored: StoredProject, what: string): void {
    try {
      parseProject(stored.project);
    } catch (error) {
      wrong.push(`accepted, and refused by the reader: ${what}: ${String(error).slice(0, 300)}`);
    }
  }

  const late = memory();
  const rows = Object.entries(table).filter(([, n]) => n >= COUNT / 400);
  const told = rows.map(([name, n]) => `${String(n).padStart(6)}  ${name}`);
  told.push(
    `slowest ${Math.round(slowest)} ms; memory ${early?.toFixed(0)} to ${late?.toFixed(0)} MB`,
  );
  process.stdout.write(`${told.join("\n")}\n`);
  expect(wrong.slice(0, 10)).toEqual([]);
  expect(table.accepted).toBeGreaterThan(0);
  expect(table.refused).toBeGreaterThan(COUNT / 4);
  // A short run ends before the server has grown warm.
  if (COUNT >= 20_000 && early && late) expect(late / early).toBeLessThan(1.2);
}, 3_600_000);
