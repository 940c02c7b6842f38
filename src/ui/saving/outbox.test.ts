import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, partOf } from "@/core/score";
import { diffProjects } from "@/core/stored";
import { Saver } from "./saver";
import { dropUnsent, keepLast, keepUnsent, unsentOf, type Unsent } from "./outbox";

/** The browser's small store, as far as the outbox uses it. */
class SmallStore {
  [key: string]: unknown;
  setItem(key: string, value: string) {
    if (value.length > 5000) throw new DOMException("full", "QuotaExceededError");
    this[key] = value;
  }
  getItem(key: string) {
    return (this[key] as string | undefined) ?? null;
  }
  removeItem(key: string) {
    delete this[key];
  }
}

const edit = (key: string, revision: number, name = "x"): Unsent => ({
  key,
  project: key.split("/")[0]!,
  revision,
  base: {},
  change: { head: { name } as never },
});

beforeEach(async () => {
  vi.stubGlobal("localStorage", new SmallStore());
  const all = [...(await unsentOf("p")), ...(await unsentOf("q"))];
  dropUnsent(all.map((unsent) => unsent.key));
});

describe("the outbox", () => {
  it("keeps edits by project and key, the last of a key standing, until they are dropped", async () => {
    keepUnsent(edit("p/1", 1));
    keepUnsent(edit("p/2", 1));
    keepUnsent(edit("p/1", 3));
    keepUnsent(edit("q/1", 9));
    const kept = await unsentOf("p");
    expect(kept.map((unsent) => [unsent.key, unsent.revision])).toEqual([
      ["p/1", 3],
      ["p/2", 1],
    ]);
    dropUnsent(["p/1"]);
    expect((await unsentOf("p")).map((unsent) => unsent.key)).toEqual(["p/2"]);
    expect(await unsentOf("q")).toHaveLength(1);
  });

  it("collects what a page said as it went away, once, and of its own project alone", async () => {
    localStorage.setItem("hailstep-theme", "slate");
    localStorage.setItem("hailstep-unsent/p/9", JSON.stringify(edit("p/9", 4, "last words")));
    localStorage.setItem("hailstep-unsent/q/9", JSON.stringify(edit("q/9", 4)));
    const kept = await unsentOf("p");
    expect(kept.map((unsent) => unsent.change.head?.name)).toEqual(["last words"]);
    expect(Object.keys(localStorage)).toEqual(["hailstep-theme", "hailstep-unsent/q/9"]);
    expect(await unsentOf("p")).toHaveLength(1);
  });

  it("has what is too large for the small store in the database", async () => {
    keepLast(edit("p/3", 1, "y".repeat(6000)));
    expect(Object.keys(localStorage)).toEqual([]);
    expect((await unsentOf("p"))[0]!.change.head?.name).toHaveLength(6000);
    keepLast(edit("p/4", 1, "short"));
    expect(Object.keys(localStorage)).toEqual(["hailstep-unsent/p/4"]);
  });
});

describe("edits that an earlier page left", () => {
  const BASS = { pattern: "a", track: "bass" };
  /** The project as the server has it, at revision 7, and as a page finds it that picks up what is left. */
  async function pickedUp(leftAt: number): Promise<Project> {
    const first = createProject();
    const mine = edits.setTempo(edits.addNotes(first, BASS, [makeNote({ id: "m", start: 0 })]), 90);
    const theirs = edits.setTempo(first, 150);
    keepUnsent({
      key: "p/left",
      project: "p",
      revision: leftAt,
      base: diffProjects(mine, first)!,
      change: diffProjects(first, mine)!,
    });
    const stored = { id: "p", revision: 7, stamp: "s7", updatedAt: 0, project: theirs };
    vi.stubGlobal("window", new EventTarget());
    vi.stubGlobal(
      "BroadcastChannel",
      class {
        postMessage() {}
        close() {}
      },
    );
    vi.stubGlobal("requestIdleCallback", () => 0);
    vi.stubGlobal("cancelIdleCallback", () => undefined);
    vi.stubGlobal("fetch", () => Promise.resolve(Response.json({ unchanged: true })));
    let project: Project = theirs;
    const saver = new Saver(
      stored,
      {
        project: () => project,
        replace: (next) => (project = next),
        state: () => undefined,
        returned: () => undefined,
        forked: () => undefined,
      },
      "now",
    );
    await saver.pickUp();
    saver.close();
    return project;
  }

  it("add to what was saved since, but do not override newer values", async () => {
    const old = await pickedUp(3);
    expect([old.tempo, partOf(old, BASS).notes.length]).toEqual([150, 1]);
  });

  it("stand where nothing was saved since", async () => {
    const same = await pickedUp(7);
    expect([same.tempo, partOf(same, BASS).notes.length]).toEqual([90, 1]);
  });
});
