import { copyFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import Database from "better-sqlite3";
import { afterAll, expect, it } from "vitest";
import { seeded } from "@/core/base";
import { type Note, makeNote } from "@/core/score";
import { type StoredProject, parseProject } from "@/core/stored";
import { startServer, type RunningServer } from "../scripts/server.mjs";

/** How often the server is killed. */
const COUNT = Number(process.env.KILLS ?? 200);
const PORT = Number(process.env.FUZZ_PORT ?? 4797) + 1;
/** So many at once, each with a project of its own, so that a kill meets a save under way. */
const HANDS = 3;

const folder = mkdtempSync(path.join(tmpdir(), "hailstep-kills-"));
const file = path.join(folder, "hailstep.db");
let server: RunningServer | null = null;
afterAll(async () => {
  await server?.stop();
  rmSync(folder, { recursive: true, force: true });
});

class Refused extends Error {}
const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

const json = async <T>(address: string, init?: RequestInit): Promise<T> => {
  const response = await fetch(server!.url + address, init);
  if (!response.ok) throw new Refused(`${response.status}: ${await response.text()}`);
  return (await response.json()) as T;
};

it(`loses nothing it acknowledged in ${COUNT} kills during saves`, async () => {
  const random = seeded(7);
  server = await startServer({ port: PORT, data: folder });
  const create = () =>
    json<StoredProject>("/api/projects", {
      method: "POST",
      body: JSON.stringify({ name: "Kill" }),
    });
  const projects = await Promise.all(Array.from({ length: HANDS }, create));
  const acknowledged = projects.map(() => new Map<string, Note>());
  let [made, gone] = [0, 0];

  /** Adds notes one after the other, each as an edit of its own, until the server is gone. */
  async function hand(which: number): Promise<void> {
    const { id } = projects[which]!;
    try {
      let { revision } = await json<StoredProject>(`/api/projects/${id}`);
      for (;;) {
        const n = made++;
        const [start, pitch, velocity] = [(n * 37) % 15_000, 36 + (n % 40), 1 + (n % 127)];
        const note = makeNote({ id: `n${n}`, start, pitch, velocity });
        const edit = { pattern: "a", track: "bass", removed: [], put: [note] };
        const body = JSON.stringify({ revision, change: { partEdits: [edit] } });
        ({ revision } = await json<StoredProject>(`/api/projects/${id}`, {
          method: "PATCH",
          body,
        }));
        acknowledged[which]!.set(note.id, note);
      }
    } catch (error) {
      // That it is gone is what this is about; anything it says is not.
      if (error instanceof Refused) throw error;
    } finally {
      gone++;
    }
  }
  const count = () => acknowledged.reduce((n, { size }) => n + size, 0);

  for (let kill = 0; kill < COUNT; kill++) {
    gone = 0;
    const hands = projects.map((_, i) => hand(i));
    const enough = count() + 3 + random() * 20;
    while (count() < enough && gone < HANDS) await sleep(1);
    await sleep(random() * 4);
    await server.kill();
    await Promise.all(hands);
    // A copy of what the crash left, so that the server itself has to mend it.
    for (const end of ["", "-wal"]) copyFileSync(file + end, `${file}.copy${end}`);
    const database = new Database(`${file}.copy`);
    expect(database.pragma("integrity_check", { simple: true })).toBe("ok");
    database.close();
    server = await startServer({ port: PORT, data: folder });
    for (const [which, { id }] of projects.entries()) {
      const { project } = await json<StoredProject>(`/api/projects/${id}`);
      parseProject(project);
      const { notes } = project.patterns[0]!.parts.find((part) => part.track === "bass")!;
      const kept = new Map(notes.map((note) => [note.id, note]));
      const lost = [...acknowledged[which]!.values()].filter(
        (note) => JSON.stringify(kept.get(note.id)) !== JSON.stringify(note),
      );
      expect(lost, `after kill ${kill + 1}`).toEqual([]);
      // One more than was acknowledged may have got there.
      expect(kept.size).toBeLessThanOrEqual(made);
    }
  }
  process.stdout.write(
    `${COUNT} kills during saves: ${count()} of ${made} edits acknowledged, none lost\n`,
  );
  expect(count()).toBeGreaterThan(COUNT * 3);
}, 3_600_000);

it("ends soon when asked while it is saved to without pause, and the one file holds all", async () => {
  await server?.stop();
  server = await startServer({ port: PORT, data: folder });
  const { id } = await json<StoredProject>("/api/projects", {
    method: "POST",
    body: JSON.stringify({ name: "End" }),
  });
  const acknowledged: number[] = [];
  const hand = async () => {
    for (let tempo = 60; ; tempo = tempo < 200 ? tempo + 1 : 60) {
      const { revision, project } = await json<StoredProject>(`/api/projects/${id}`);
      const { name, metre, key, song } = project;
      const change = { head: { name, tempo, metre, key, song } };
      await json(`/api/projects/${id}`, {
        method: "PATCH",
        body: JSON.stringify({ revision, change }),
      });
      acknowledged.push(tempo);
    }
  };
  const working = hand().catch(() => undefined);
  while (acknowledged.length < 20) await sleep(5);
  let ended = false;
  void server.stop().then(() => (ended = true));
  // Far longer than it takes; that it never ended is what this is about.
  for (let i = 0; i < 200 && !ended; i++) await sleep(50);
  expect(ended).toBe(true);
  server = null;
  await working;
  copyFileSync(file, `${file}.alone`);
  const alone = new Database(`${file}.alone`, { readonly: true });
  const kept = alone.prepare("select tempo from projects where id = ?").get(id) as {
    tempo: number;
  };
  alone.close();
  // The last one may have been written and not answered.
  const last = acknowledged.at(-1)!;
  expect([last, last < 200 ? last + 1 : 60]).toContain(kept.tempo);
});
