import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { createProject } from "@/core/score";
import { CARDS_AT_A_TIME } from "@/core/stored";
import { openDatabase, type Database } from "./database";
import { demoProjects } from "./demo";
import { ApiError } from "./errors";
import { libraryPage, parseLibraryQuery, staleSummaries } from "./library";
import { ProjectService } from "./projects";

let database: Database;
let service: ProjectService;
let clock = 1000;
beforeEach(() => {
  database = openDatabase(":memory:");
  service = new ProjectService(database, () => clock++);
});
afterEach(() => database.$client.close());

describe("the library", () => {
  it("is searched, sorted and given page by page, each project once", () => {
    for (let i = 0; i < 130; i++) {
      const name = `${i % 2 ? "Ebb" : "Flood"} ${String(i).padStart(3, "0")}`;
      service.create({ ...createProject({ name }), tempo: 60 + ((i * 37) % 130) });
    }
    const names = (query: object) => {
      const all: string[] = [];
      for (let offset = 0; ; offset += 50) {
        const page = libraryPage(database, { ...query, offset, limit: 50 });
        all.push(...page.cards.map((card) => card.name));
        if (all.length >= page.total || page.cards.length === 0) return all;
      }
    };
    expect(names({})[0]).toBe("Ebb 129");
    expect(new Set(names({})).size).toBe(130);
    expect(names({ sort: "name" })).toEqual([...names({})].sort());
    expect(names({ search: "flood" })).toHaveLength(65);
    expect(names({ search: "12 EBB" })).toEqual([
      ...[129, 127, 125, 123, 121].map((n) => `Ebb ${n}`),
    ]);
    expect(names({ search: "%" })).toEqual([]);
    const tempi = libraryPage(database, { sort: "tempo", limit: 130 }).cards.map((c) => c.tempo);
    expect(tempi).toEqual([...tempi].sort((a, b) => a - b));
  });

  it("a page of the largest pictures stays small", () => {
    const dense = demoProjects()[1]!;
    for (let i = 0; i < CARDS_AT_A_TIME; i++) service.create(dense);
    expect(JSON.stringify(libraryPage(database)).length).toBeLessThan(100_000);
  });

  it("lists a project whose rows cannot be read; it can be had as it is kept, and deleted", () => {
    const { id } = service.create(demoProjects()[0]!);
    service.create(createProject({ name: "Whole" }));
    database.$client.prepare("update parts set notes = '[{' where project_id = ?").run(id);
    database.$client.prepare("update projects set song = '{', summary = 'x' where id = ?").run(id);
    expect(
      libraryPage(database)
        .cards.map((card) => card.name)
        .sort(),
    ).toEqual(["Tidemill", "Whole"]);
    expect(() => service.read(id)).toThrow(ApiError);
    expect(() => service.read(id)).toThrow(/cannot be read.*exported as it is kept/);
    const raw = JSON.parse(service.raw(id).rows) as { parts: { notes: string }[] };
    expect(raw.parts[0]!.notes).toBe("[{");
    service.cannotRead(id, "because");
    expect(service.problemOf(id)).toBe("because");
    expect(libraryPage(database).cards.find((card) => card.id === id)!.problem).toBe("because");
    service.remove(id);
    expect(libraryPage(database)).toMatchObject({ total: 1, deleted: 1 });
    expect(libraryPage(database, { deleted: "yes" }).cards.map((card) => card.id)).toEqual([id]);
  });

  it("says which summaries are of an earlier save", () => {
    const { id } = service.create(createProject({ name: "Fresh" }));
    expect(staleSummaries(database, [id])).toEqual([]);
    service.change(id, 1, {});
    expect(staleSummaries(database, [id])).toEqual([id]);
    expect(service.summarise(id)).not.toBeNull();
    expect(service.summarise(id)).toBeNull();
    expect(staleSummaries(database, [id])).toEqual([]);
  });

  it("refuses a query that it does not know", () => {
    for (const query of [
      { sort: "colour" },
      { limit: "0" },
      { limit: "1e9" },
      { offset: "-1" },
      { offset: "" },
      { search: "x".repeat(101) },
      { other: "1" },
    ] as Record<string, string>[]) {
      expect(() => parseLibraryQuery(query)).toThrow(ApiError);
    }
    expect(parseLibraryQuery({ search: "a", limit: "10" })).toMatchObject({ limit: 10, offset: 0 });
  });
});
