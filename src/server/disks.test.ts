import { spawn, spawnSync } from "node:child_process";
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import Sqlite from "better-sqlite3";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { createProject } from "@/core/score";
import { copiesIn, keepCopies } from "./copies";
import { closeDatabase, openDatabase } from "./database";
import { StartError, startProblem, storageError } from "./errors";
import { libraryPage } from "./library";
import { demoProjects } from "./demo";
import { ProjectService } from "./projects";
import { KEPT_DAYS, reclaim } from "./reclaim";
import { samples } from "./schema";
import { seed } from "./store";

const DEMOS = demoProjects().length;

let folder: string;
let file: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), "hailstep-disk-"));
  file = path.join(folder, "hailstep.db");
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const opening = () => {
  try {
    closeDatabase(openDatabase(file));
    return "opened";
  } catch (error) {
    expect(error).toBeInstanceOf(StartError);
    return (error as Error).message;
  }
};
const filled = () => {
  const database = openDatabase(file, (fresh) => seed(fresh, new ProjectService(fresh)));
  return { database, service: new ProjectService(database) };
};

describe("a file that cannot be used is left as it is, and said so", () => {
  it("empty", () => {
    writeFileSync(file, "");
    expect(opening()).toMatch(/is empty.*npm run restore/);
    expect(statSync(file).size).toBe(0);
  });

  it("no database, or a damaged one", () => {
    writeFileSync(file, "not a database at all, however long it is".repeat(100));
    const before = readFileSync(file);
    expect(opening()).toMatch(/is damaged, or no database/);
    expect(readFileSync(file).equals(before)).toBe(true);
    rmSync(file);
    closeDatabase(filled().database);
    const bytes = readFileSync(file);
    bytes.fill(0xa5, 100, 4096);
    writeFileSync(file, bytes);
    expect(opening()).toMatch(/is damaged/);
    expect(readFileSync(file).equals(bytes)).toBe(true);
  });

  it("in a folder that cannot be made", () => {
    writeFileSync(path.join(folder, "plain"), "a file stands here");
    // Linux: nothing can be made in /proc, which says that it is not there. Elsewhere as good as the first.
    for (const place of [path.join(folder, "plain", "data"), "/proc/none/data"]) {
      file = path.join(place, "hailstep.db");
      expect(opening()).toMatch(/cannot be kept in .*HAILSTEP_DATA/);
    }
    file = path.join(folder, "one", "two", "hailstep.db");
    expect(opening()).toBe("opened");
  });

  it("made by a newer version", () => {
    closeDatabase(filled().database);
    const client = new Sqlite(file);
    client.exec(
      "insert into __drizzle_migrations (hash, created_at) values ('of a later version', 9999999999999)",
    );
    client.close();
    const before = readFileSync(file);
    expect(opening()).toMatch(/newer version/);
    expect(readFileSync(file).equals(before)).toBe(true);
  });

  it("locked by another program: said within a second, at the start and while running", () => {
    const { database, service } = filled();
    const { id, revision } = service.create(createProject({ name: "Lock" }));
    const holder = new Sqlite(file);
    holder.exec("begin exclusive");
    const head = { ...createProject({ name: "Lock" }), tracks: undefined, patterns: undefined };
    let failed: unknown;
    try {
      service.change(id, revision, { head: { ...head, name: "Later" } });
    } catch (error) {
      failed = error;
    }
    expect(storageError(failed)).toMatchObject({ status: 503 });
    expect(startProblem(failed, file)).toMatch(/in use by another program/);
    holder.exec("rollback");
    holder.close();
    expect(service.change(id, revision, {}).revision).toBe(revision + 1);
    closeDatabase(database);
  });

  it("a folder that cannot be made", () => {
    writeFileSync(path.join(folder, "plain"), "a file");
    file = path.join(folder, "plain", "hailstep.db");
    expect(opening()).toMatch(/cannot be kept|cannot be written/);
  });

  it.skipIf(process.getuid?.() !== 0 || process.platform !== "linux")(
    "a full disk: nothing is half written, and it goes on once there is room",
    (context) => {
      const mount = path.join(folder, "small");
      mkdirSync(mount);
      const mounted = spawnSync("mount", ["-t", "tmpfs", "-o", "size=2m", "tmpfs", mount]);
      if (mounted.status !== 0) return context.skip("no right to mount here");
      try {
        file = path.join(mount, "hailstep.db");
        const { database, service } = filled();
        const { id } = service.create(createProject({ name: "Full" }));
        writeFileSync(path.join(mount, "filler"), Buffer.alloc(1));
        let failed: unknown = null;
        let made = 0;
        for (; made < 3000 && !failed; made++) {
          try {
            service.duplicate(id);
          } catch (error) {
            failed = error;
          }
        }
        expect(storageError(failed)).toMatchObject({ status: 507 });
        const { total } = libraryPage(database);
        expect(total).toBe(DEMOS + 1 + made - 1);
        expect(database.$client.pragma("integrity_check", { simple: true })).toBe("ok");
        spawnSync("mount", ["-o", "remount,size=16m", mount]);
        service.duplicate(id);
        expect(libraryPage(database).total).toBe(total + 1);
        closeDatabase(database);
      } finally {
        spawnSync("umount", ["-l", mount]);
      }
    },
  );

  it.skipIf(process.getuid?.() !== 0 || process.platform !== "linux")(
    "a disk that can only be read",
    (context) => {
      closeDatabase(filled().database);
      const mount = path.join(folder, "read-only");
      mkdirSync(mount);
      const mounted = spawnSync("mount", ["-t", "tmpfs", "tmpfs", mount]);
      if (mounted.status !== 0) return context.skip("no right to mount here");
      try {
        copyFileSync(file, path.join(mount, "hailstep.db"));
        spawnSync("mount", ["-o", "remount,ro", mount]);
        file = path.join(mount, "hailstep.db");
        expect(opening()).toMatch(/cannot be written/);
      } finally {
        spawnSync("umount", ["-l", mount]);
      }
    },
  );
});

describe("the database file", () => {
  it("holds everything by itself once it is closed", () => {
    const { database, service } = filled();
    service.create(createProject({ name: "Alone" }));
    closeDatabase(database);
    expect(readdirSync(folder)).toEqual(["hailstep.db"]);
    const copy = path.join(folder, "copy.db");
    copyFileSync(file, copy);
    const other = openDatabase(copy);
    expect(libraryPage(other).cards.map((card) => card.name)).toContain("Alone");
    closeDatabase(other);
  });

  it("is put in its place when it is whole: a start cut off in the middle leaves none", () => {
    for (const after of [1, 2]) {
      expect(() =>
        openDatabase(file, (fresh) => {
          const service = new ProjectService(fresh);
          for (let i = 0; i < after; i++) service.create(createProject({ name: "Half" }));
          throw new StartError("cut off");
        }),
      ).toThrow("cut off");
      expect(existsSync(file)).toBe(false);
    }
    const { database } = filled();
    expect(libraryPage(database).total).toBe(DEMOS);
    // One that was half seeded by an earlier version is seeded once more, whole.
    closeDatabase(database);
  });

  it("killed while it is made for the first time, then started: all demos, ten times over", async () => {
    const script = path.join(folder, "first.mjs");
    writeFileSync(
      script,
      `import Sqlite from ${JSON.stringify(import.meta.resolve("better-sqlite3"))};
       const db = new Sqlite(process.argv[2]); db.pragma("journal_mode = WAL");
       db.exec("create table t (x)"); console.log("made");
       for (let i = 0; ; i++) db.exec("insert into t values (randomblob(10000))");`,
    );
    const child = spawn(process.execPath, [script, `${file}.${process.pid}.new`]);
    await new Promise((resolve) => child.stdout.once("data", resolve));
    child.kill("SIGKILL");
    await new Promise((resolve) => child.once("exit", resolve));
    for (let i = 0; i < 10; i++) {
      const { database } = filled();
      expect(libraryPage(database).total).toBe(DEMOS);
      closeDatabase(database);
    }
  });
});

describe("daily copies", () => {
  it("one a day, whole, the last seven", async () => {
    const { database, service } = filled();
    for (let day = 1; day <= 9; day++) {
      service.create(createProject({ name: `Day ${day}` }));
      const at = new Date(Date.UTC(2026, 10, day));
      expect(await keepCopies(database, folder, at)).toBe(`hailstep-2026-11-0${day}.db`);
      expect(await keepCopies(database, folder, at)).toBeNull();
    }
    const kept = copiesIn(folder);
    expect(kept).toHaveLength(7);
    expect(kept[0]).toBe("hailstep-2026-11-03.db");
    const copy = new Sqlite(path.join(folder, "copies", kept[0]!), { readonly: true });
    expect(copy.pragma("integrity_check", { simple: true })).toBe("ok");
    expect(copy.prepare("select count(*) as n from projects").get()).toEqual({ n: DEMOS + 3 });
    copy.close();
    closeDatabase(database);
  });

  it("are put back by the command, and what was there is kept", async () => {
    const { database, service } = filled();
    await keepCopies(database, folder, new Date(Date.UTC(2026, 10, 1)));
    service.create(createProject({ name: "After the copy" }));
    closeDatabase(database);
    const restore = (...args: string[]) =>
      spawnSync(process.execPath, ["scripts/restore.mjs", ...args], {
        env: { ...process.env, HAILSTEP_DATA: folder, PORT: "1" },
        encoding: "utf8",
      });
    expect(restore().stdout).toContain(`2026-11-01   ${DEMOS} projects`);
    expect(restore("2026-12-24").stderr).toContain("no copy of 2026-12-24");
    expect(restore("2026-11-01").stdout).toContain("is back");
    const back = openDatabase(file);
    expect(libraryPage(back).total).toBe(DEMOS);
    closeDatabase(back);
    const before = readdirSync(folder).find((name) => name.includes(".before-"))!;
    const kept = openDatabase(path.join(folder, before));
    expect(libraryPage(kept).total).toBe(DEMOS + 1);
    closeDatabase(kept);
  });
});

describe("what was deleted", () => {
  it("is cleared away after the stated time, with the sounds that only it used", () => {
    const day = 24 * 60 * 60 * 1000;
    let now = 1_000 * day;
    const database = openDatabase(":memory:");
    const service = new ProjectService(database, () => now);
    const { id } = service.create(createProject({ name: "Gone" }));
    const stays = service.create(createProject({ name: "Stays" }));
    const values = { name: "s", type: "audio/wav", bytes: Buffer.alloc(4), createdAt: now };
    database
      .insert(samples)
      .values({ id: "a".repeat(32), ...values })
      .run();
    service.remove(id);
    now += KEPT_DAYS * day;
    expect(reclaim(database, now)).toEqual({ projects: 0, samples: 0 });
    service.restore(id);
    service.remove(id);
    now += (KEPT_DAYS + 1) * day;
    expect(reclaim(database, now)).toEqual({ projects: 1, samples: 1 });
    expect(service.read(stays.id).project.name).toBe("Stays");
    database.$client.close();
  });
});
