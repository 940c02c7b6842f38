import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, partOf } from "@/core/score";
import { type Change, applyChange } from "@/core/stored";
import { Saver, type SaveState } from "./saver";

const BASS = { pattern: "a", track: "bass" };
const note = (start: number) => makeNote({ id: `n${start}`, start });
const starts = (project: Project) => partOf(project, BASS).notes.map((n) => n.start);

/** A server in miniature: one project, its revision, and a way to fail. */
class FakeServer {
  project = createProject();
  revision = 1;
  down = false;
  refuse = false;
  /** How many requests were refused. */
  refusals = 0;
  /** Never answers. */
  silent = false;
  /** Answers saves with an object that holds nothing. */
  cut = false;
  /** Whether what a stale change was made on is known. */
  known = true;
  requests: Change[] = [];
  bodies: { revision: number }[] = [];

  answer = (url: string | URL | Request, init: RequestInit = {}): Promise<Response> => {
    if (this.down) return Promise.reject(new TypeError("fetch failed"));
    if (this.silent) {
      return new Promise((_, reject) => {
        init.signal?.addEventListener("abort", () => reject(init.signal!.reason as Error));
      });
    }
    if (init.method !== "PATCH") return Promise.resolve(Response.json(this.stored()));
    if (this.refuse) {
      this.refusals++;
      return Promise.resolve(Response.json({ error: "no" }, { status: 422 }));
    }
    const { revision, change } = JSON.parse(String(init.body)) as {
      revision: number;
      change: Change;
    };
    this.requests.push(change);
    this.bodies.push({ revision });
    if (revision !== this.revision) {
      const { known } = this;
      return Promise.resolve(
        Response.json({ error: "stale", current: this.stored(), known }, { status: 409 }),
      );
    }
    this.project = applyChange(this.project, change);
    this.revision++;
    const { revision: r, stamp } = this.stored();
    return Promise.resolve(Response.json(this.cut ? {} : { revision: r, stamp }));
  };

  stored() {
    return {
      id: "p",
      revision: this.revision,
      stamp: `s${this.revision}`,
      updatedAt: 0,
      project: this.project,
    };
  }
}

function openTab(server: FakeServer) {
  const tab = {
    project: server.project,
    states: [] as SaveState[],
    message: "",
    returned: [] as string[],
    forks: 0,
  };
  const saver = new Saver(
    server.stored(),
    {
      project: () => tab.project,
      replace: (project) => (tab.project = project),
      state: (state, message = "") => {
        tab.states.push(state);
        tab.message = message;
      },
      returned: (names) => tab.returned.push(...names),
      forked: () => tab.forks++,
    },
    Math.random().toString(36),
  );
  const edit = (change: (project: Project) => Project) => {
    const before = tab.project;
    tab.project = change(before);
    saver.changed(before);
  };
  return { tab, saver, edit, state: () => tab.states.at(-1) };
}

const put = (start: number) => (project: Project) => edits.addNotes(project, BASS, [note(start)]);

let server: FakeServer;
const open: Saver[] = [];
const tab = () => {
  const opened = openTab(server);
  open.push(opened.saver);
  return opened;
};

beforeEach(() => {
  vi.useFakeTimers();
  server = new FakeServer();
  vi.stubGlobal("window", new EventTarget());
  vi.stubGlobal("fetch", server.answer);
  vi.stubGlobal("requestIdleCallback", (work: () => void) => setTimeout(work, 30));
  vi.stubGlobal("cancelIdleCallback", clearTimeout);
  // Tabs of this test do not hear of each other, so that revisions do go stale.
  vi.stubGlobal(
    "BroadcastChannel",
    class {
      postMessage() {}
      close() {}
    },
  );
});
afterEach(() => {
  for (const saver of open.splice(0)) saver.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the saver", () => {
  it("sends quick edits together, only the part they touched, and says when all is saved", async () => {
    const { edit, state } = tab();
    edit(put(0));
    expect(state()).toBe("saving");
    edit(put(240));
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.requests).toHaveLength(1);
    expect(Object.keys(server.requests[0]!)).toEqual(["parts"]);
    expect(starts(server.project)).toEqual([0, 240]);
    expect(state()).toBe("saved");
  });

  it("sends nothing for an edit that was undone before it went out", async () => {
    const { edit, tab: now, state } = tab();
    const before = now.project;
    edit(put(0));
    edit(() => before);
    await vi.advanceTimersByTimeAsync(1000);
    expect(server.requests).toEqual([]);
    expect(state()).toBe("saved");
  });

  it("waits for a server that is down, tries again, and loses nothing meanwhile", async () => {
    const { edit, state } = tab();
    server.down = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(1000);
    expect(state()).toBe("waiting");
    edit(put(960));
    await vi.advanceTimersByTimeAsync(5000);
    expect(state()).toBe("waiting");
    server.down = false;
    await vi.advanceTimersByTimeAsync(4000);
    expect(starts(server.project)).toEqual([0, 960]);
    expect(state()).toBe("saved");
  });

  it("merges what another tab saved, note by note, and sends again", async () => {
    const [one, other] = [tab(), tab()];
    one.edit(put(0));
    await vi.advanceTimersByTimeAsync(1000);
    other.edit(put(480));
    await vi.advanceTimersByTimeAsync(1000);
    expect(starts(server.project)).toEqual([0, 480]);
    expect(starts(other.tab.project)).toEqual([0, 480]);
    expect(other.state()).toBe("saved");
    // And back: the first tab is stale now.
    one.edit((project) => edits.deleteNotes(project, BASS, new Set(["n0"])));
    one.edit((project) => edits.setTempo(project, 99));
    await vi.advanceTimersByTimeAsync(1000);
    expect(starts(server.project)).toEqual([480]);
    expect(server.project.tempo).toBe(99);
  });

  it("sends an edit that was made while another was on its way", async () => {
    const { edit, state } = tab();
    edit(put(0));
    const slow = server.answer;
    vi.stubGlobal("fetch", async (url: string, init: RequestInit) => {
      await new Promise((resolve) => setTimeout(resolve, 500));
      return slow(url, init);
    });
    await vi.advanceTimersByTimeAsync(300);
    edit(put(720));
    await vi.advanceTimersByTimeAsync(3000);
    expect(starts(server.project)).toEqual([0, 720]);
    expect(server.requests).toHaveLength(2);
    expect(state()).toBe("saved");
  });

  it("says so when the server refuses a change, and keeps the edit", async () => {
    const { edit, state, tab: now } = tab();
    server.refuse = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(1000);
    expect(state()).toBe("refused");
    expect(now.message).toBe("no");
    expect(starts(now.project)).toEqual([0]);
    expect(starts(server.project)).toEqual([]);
  });

  it("asks no more for what was refused, until something changes", async () => {
    const { edit, state } = tab();
    server.refuse = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(60_000);
    expect(server.refusals).toBe(1);
    edit(put(240));
    await vi.advanceTimersByTimeAsync(60_000);
    expect([server.refusals, state()]).toEqual([2, "refused"]);
    server.refuse = false;
    edit(put(480));
    await vi.advanceTimersByTimeAsync(1000);
    expect([starts(server.project), state()]).toEqual([[0, 240, 480], "saved"]);
  });

  it("is saved again once what was refused is undone", async () => {
    const { edit, state, tab: now } = tab();
    const before = now.project;
    server.refuse = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(1000);
    edit(() => before);
    await vi.advanceTimersByTimeAsync(1000);
    expect([server.refusals, state()]).toEqual([1, "saved"]);
  });

  it("gives up a request that is never answered, and sends again", async () => {
    const limits: AbortController[] = [];
    vi.spyOn(AbortSignal, "timeout").mockImplementation(() => {
      const limit = new AbortController();
      limits.push(limit);
      return limit.signal;
    });
    const { edit, state } = tab();
    server.silent = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(1000);
    expect(state()).toBe("saving");
    limits.at(-1)!.abort();
    await vi.advanceTimersByTimeAsync(10);
    expect(state()).toBe("waiting");
    server.silent = false;
    await vi.advanceTimersByTimeAsync(4000);
    expect([starts(server.project), state()]).toEqual([[0], "saved"]);
    vi.restoreAllMocks();
  });

  it("goes on after an error that is not a request's", async () => {
    const { edit, state } = tab();
    let broken = true;
    const stringify = JSON.stringify;
    vi.spyOn(JSON, "stringify").mockImplementation((...args: Parameters<typeof JSON.stringify>) => {
      if (broken) throw new TypeError("cannot be written");
      return stringify(...args);
    });
    edit(put(0));
    await vi.advanceTimersByTimeAsync(300);
    expect(state()).toBe("waiting");
    broken = false;
    await vi.advanceTimersByTimeAsync(4000);
    expect([starts(server.project), state()]).toEqual([[0], "saved"]);
    vi.restoreAllMocks();
  });

  it("sends the last edit when the page is left", async () => {
    const { edit, saver } = tab();
    edit(put(0));
    saver.close();
    await vi.advanceTimersByTimeAsync(10);
    expect(starts(server.project)).toEqual([0]);
  });

  it("brings a track back that another tab put notes on, and tells both", async () => {
    const [one, other] = [tab(), tab()];
    one.edit((project) => edits.deleteTrack(project, "bass"));
    await vi.advanceTimersByTimeAsync(1000);
    other.edit(put(480));
    await vi.advanceTimersByTimeAsync(1000);
    expect(starts(server.project)).toEqual([480]);
    expect(other.tab.returned).toEqual(["Reed bass"]);
    // The tab that deleted it hears of it when it saves again.
    one.edit((project) => edits.setTempo(project, 90));
    await vi.advanceTimersByTimeAsync(1000);
    expect(starts(one.tab.project)).toEqual([480]);
    expect(one.tab.returned).toEqual(["Reed bass"]);
  });

  it("an answer that was cut short counts as none: the same is asked again, and goes on by itself", async () => {
    const { edit, state, tab: now } = tab();
    server.cut = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(400);
    expect(state()).toBe("waiting");
    server.cut = false;
    await vi.advanceTimersByTimeAsync(5000);
    // The first one had arrived, only its answer had not: nothing is lost and nothing doubled.
    expect(state()).toBe("saved");
    expect(starts(server.project)).toEqual([0]);
    expect(starts(now.project)).toEqual([0]);
    edit(put(240));
    await vi.advanceTimersByTimeAsync(1000);
    expect(starts(server.project)).toEqual([0, 240]);
    for (const { revision } of server.bodies) expect(Number.isInteger(revision)).toBe(true);
  });

  it("a refusal after an outage is said once, and the next change is sent", async () => {
    const { edit, state } = tab();
    server.down = true;
    edit(put(0));
    await vi.advanceTimersByTimeAsync(3000);
    expect(state()).toBe("waiting");
    server.down = false;
    server.refuse = true;
    await vi.advanceTimersByTimeAsync(20_000);
    expect(state()).toBe("refused");
    expect(server.refusals).toBe(1);
    server.refuse = false;
    edit(put(240));
    await vi.advanceTimersByTimeAsync(1000);
    expect(state()).toBe("saved");
    expect(starts(server.project)).toEqual([0, 240]);
  });

  it("edits without a pause are sent every second", async () => {
    const { edit } = tab();
    for (let i = 0; i < 50; i++) {
      edit(put(i * 60));
      await vi.advanceTimersByTimeAsync(100);
    }
    expect(server.requests.length).toBeGreaterThanOrEqual(4);
    expect(server.requests.length).toBeLessThanOrEqual(7);
  });

  it("a large change goes in portions, one after another", async () => {
    const many = Array.from({ length: 45_000 }, (_, i) => ({ ...note(i), id: `m${i}` }));
    const { edit, state } = tab();
    edit((project) => edits.setNotes(project, BASS, many));
    edit((project) => edits.setNotes(project, { pattern: "a", track: "drums" }, many));
    await vi.advanceTimersByTimeAsync(2000);
    expect(server.requests.length).toBeGreaterThan(1);
    expect(state()).toBe("saved");
    expect(starts(server.project)).toHaveLength(45_000);
  });

  it("an older file put back on the server: nothing is sent or dropped until one of the two is chosen", async () => {
    for (const keep of ["here", "server"] as const) {
      server = new FakeServer();
      vi.stubGlobal("fetch", server.answer);
      const { edit, state, tab: now, saver } = tab();
      const older = server.project;
      for (let i = 0; i < 5; i++) {
        edit(put(i * 240));
        await vi.advanceTimersByTimeAsync(1000);
      }
      server.project = older;
      server.revision = 2;
      server.known = false;
      edit(put(1920));
      await vi.advanceTimersByTimeAsync(3000);
      expect(state()).toBe("forked");
      expect(now.forks).toBe(1);
      expect(starts(now.project)).toHaveLength(6);
      edit(put(2160));
      await vi.advanceTimersByTimeAsync(3000);
      expect(starts(server.project)).toEqual([]);
      saver.settleFork(keep);
      await vi.advanceTimersByTimeAsync(3000);
      expect(state()).toBe("saved");
      const count = keep === "here" ? 7 : 0;
      expect(starts(server.project)).toHaveLength(count);
      expect(starts(now.project)).toHaveLength(count);
    }
  });
});
