import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { createProject, makeNote } from "@/core/score";
import { writeProjectJson } from "@/core/formats";
import { buildServerThread } from "../../../scripts/threads.mjs";
import { closeDatabase, openDatabase, type Database } from "../database";
import { libraryPage } from "../library";
import { ProjectService } from "../projects";
import { Heavy } from "./pool";

const folder = mkdtempSync(path.join(tmpdir(), "hailstep-heavy-"));
const file = path.join(folder, "hailstep.db");
let database: Database;
let service: ProjectService;
let heavy: Heavy;
beforeAll(async () => {
  await buildServerThread();
  database = openDatabase(file);
  service = new ProjectService(database);
  heavy = new Heavy(file);
});
afterAll(async () => {
  await heavy.close();
  closeDatabase(database);
  rmSync(folder, { recursive: true, force: true });
});

const bytes = (text: string) => new TextEncoder().encode(text);

describe("threads", () => {
  it("write into the same database, and answer with what the service would", async () => {
    const file = bytes(writeProjectJson(createProject({ name: "Threaded" })));
    const answer = JSON.parse(
      new TextDecoder().decode(await heavy.run("import", file, "x.json")),
    ) as {
      id: string;
      project: { name: string };
    };
    expect(answer.project.name).toBe("Threaded");
    expect(service.read(answer.id).project.name).toBe("Threaded");
    const body = bytes(JSON.stringify({ revision: 1, change: {} }));
    expect(await heavy.run("change", answer.id, body)).toMatchObject({ revision: 2 });
    expect(service.read(answer.id).revision).toBe(2);
  });

  it("pass errors on with status, sentence and details", async () => {
    await expect(heavy.run("read", "nowhere")).rejects.toMatchObject({ status: 404 });
    await expect(heavy.run("import", bytes("text"), "x.json")).rejects.toMatchObject({
      status: 400,
    });
    const bad = bytes('{"format":"hailstep-project","version":1,"project":{}}');
    await expect(heavy.run("import", bad, "x.json")).rejects.toMatchObject({
      status: 422,
      details: { problems: expect.any(Array) as unknown },
    });
  });

  it("nothing that is sent takes the others along: vast files are refused, and the library goes on", async () => {
    const open = '{"format":"hailstep-project","version":1,"project":';
    const vast = [
      bytes(open + "[".repeat(5_000_000)),
      bytes(`${open}[${"[],".repeat(5_000_000)}[]]}`),
      bytes(`${open}{${Array.from({ length: 100_000 }, (_, i) => `"k${i}":1`).join(",")}}}`),
      bytes(`${open}[${"1,".repeat(3_000_000)}1]}`),
    ];
    const before = libraryPage(database).total;
    for (const body of vast) {
      await expect(heavy.run("import", body, "x.json")).rejects.toMatchObject({
        message: expect.stringMatching(/nested deeper|too many|fields|Not a valid/) as unknown,
      });
    }
    expect(libraryPage(database).total).toBe(before);
    expect(await heavy.run("duplicate", libraryPage(database).cards[0]!.id)).toBeInstanceOf(
      Uint8Array,
    );
  });

  it("a project that was made to be vast is looked at, listed and refused in words", async () => {
    const place = { pattern: "a", track: "drums" };
    const hits = Array.from({ length: 16 }, (_, i) =>
      makeNote({ id: `n${i}`, start: i * 240, pitch: 36 }),
    );
    const project = edits.setNotes(createProject({ name: "Vast", bars: 1024 }), place, hits);
    const chain = Array.from({ length: 4 }, (_, i) => ({
      id: `s${i}`,
      transform: "repeat",
      on: true,
      scope: null,
      params: { until: "a number of times", times: 64, unit: "whole bars", loop: true },
    }));
    const [first, ...rest] = project.patterns;
    const parts = first!.parts.map((part) => (part.track === "drums" ? { ...part, chain } : part));
    const vast = { ...project, patterns: [{ ...first!, parts }, ...rest] };
    const stored = JSON.parse(
      new TextDecoder().decode(await heavy.run("import", bytes(writeProjectJson(vast)), "x.json")),
    ) as { id: string };
    const tiny = {
      ...project,
      name: "Tiny loop",
      metre: { beats: 32, unit: 2 },
      patterns: [
        {
          ...first!,
          parts: first!.parts.map((part) =>
            part.track === "drums" ? { ...part, length: 1 } : part,
          ),
        },
      ],
    };
    await heavy.run("import", bytes(writeProjectJson(tiny)), "y.json");
    const cards = libraryPage(database).cards;
    expect(cards.find((card) => card.id === stored.id)!.problem).toBeNull();
    expect(cards.find((card) => card.name === "Tiny loop")!.problem).toMatch(/at most 1,000,000/);
  });
});
