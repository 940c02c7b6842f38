import { afterEach, describe, expect, it, vi } from "vitest";
import { grid } from "@/core/time";
import type { UserGrids } from "@/core/stored";

/** A server that keeps grids, and a fresh page's module. */
async function setUp(kept: UserGrids) {
  vi.resetModules();
  const server = { kept, down: false, puts: 0 };
  vi.stubGlobal("fetch", (url: string, init: RequestInit = {}) => {
    if (server.down) return Promise.reject(new TypeError("fetch failed"));
    if (init.method === "PUT") {
      server.puts++;
      server.kept = JSON.parse(String(init.body)) as UserGrids;
      return Promise.resolve(Response.json(server.kept));
    }
    return Promise.resolve(Response.json({ grids: server.kept, presets: [] }));
  });
  return { server, user: await import("./user") };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

afterEach(() => vi.unstubAllGlobals());

describe("the user's pinned grids", () => {
  const kept: UserGrids = { recent: [grid(16)], pinned: [grid(8), grid(16, "triplet")] };

  it("are not erased by one that is pinned before they are loaded", async () => {
    const { server, user } = await setUp(kept);
    user.togglePin(grid(32));
    await settled();
    expect(server.kept.pinned).toEqual([...kept.pinned, grid(32)]);
    expect(user.userGrids().pinned).toEqual(server.kept.pinned);
  });

  it("are not erased where loading them fails: nothing is sent until they are known", async () => {
    const { server, user } = await setUp(kept);
    server.down = true;
    await user.loadUser();
    user.togglePin(grid(32));
    await settled();
    server.down = false;
    expect([server.puts, server.kept]).toEqual([0, kept]);
    user.togglePin(grid(4));
    await settled();
    expect(server.kept.pinned).toEqual([...kept.pinned, grid(32), grid(4)]);
  });
});
