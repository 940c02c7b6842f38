import { describe, expect, it } from "vitest";
import { createProject } from "@/core/score";
import { Player } from "../session/player";
import { createSession } from "../state/store";
import { ACTIONS } from "./registry";

describe("a project without tracks", () => {
  it("can be opened, and every action leaves it whole", () => {
    const store = createSession("x", createProject({ tracks: [] }));
    const engine = {
      isPlaying: false,
      play: () => Promise.resolve(),
      stop: () => undefined,
      position: () => null,
      switchTo: () => undefined,
    };
    for (const { id, run } of ACTIONS) {
      if (id === "theme") continue;
      expect(
        () => run({ store, engine: engine as never, player: new Player(store, engine as never) }),
        id,
      ).not.toThrow();
    }
    expect(store.getState().project.tracks).toEqual([]);
  });
});

describe("the actions", () => {
  it("have names and keys of their own", () => {
    for (const field of ["id", "label"] as const) {
      expect(new Set(ACTIONS.map((action) => action[field])).size).toBe(ACTIONS.length);
    }
    const keys = ACTIONS.flatMap((action) => action.keys);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
