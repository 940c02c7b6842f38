import { grid } from "@/core/time";
import { type Project, changePart, createProject } from "@/core/score";
import { describe, expect, it, vi } from "vitest";
import type { Desk } from "../../session/desk";
import { TAPS } from "../../state/ideas";
import { createSession } from "../../state/store";
import { settingsFor } from "./settings";
import { lineOptions, tapsOver } from "./wishes";
import { changeSettings, generate, settingsOf } from "./ideas";
import { clearTaps, tapRhythm } from "./rhythm-taps";

const BAR = 3840;
vi.mock("./generator", () => ({ generateInWorker: () => Promise.resolve([]) }));

function setUp(
  change: (project: Project) => Project = (p) => p,
  heard: () => number | null = () => null,
) {
  const store = createSession("x", change(createProject({ bars: 2, tempo: 120 })));
  store.getState().setTrack("bass");
  const playedAt = () => {
    const tick = heard();
    return tick === null ? null : { pattern: "a", tick };
  };
  const desk = { store, engine: { playedAt } } as unknown as Desk;
  return { store, desk, taps: () => settingsOf(store.getState()).taps };
}

describe("a rhythm that is tapped", () => {
  it("counts from its first tap where nothing plays, to the grid, and anew after its bars", () => {
    const { desk, taps } = setUp();
    // At 120 a quarter is 500 ms; hands are a little off.
    for (const ms of [1000, 1260, 1492, 2009, 2990]) tapRhythm(desk, ms);
    expect(taps()).toEqual([0, 480, 960, 1920, 3840]);
    tapRhythm(desk, 1000 + 4000);
    expect(taps()).toEqual([0]);
    tapRhythm(desk, 5250);
    expect(taps()).toEqual([0, 480]);
    clearTaps(desk.store);
    expect(taps()).toEqual([]);
    tapRhythm(desk, 5500);
    expect(taps()).toEqual([0]);
  });

  it("lies where the loop is heard while it plays: in any loop, over its end, one at a place", () => {
    let tick = 0;
    const { desk, taps } = setUp(undefined, () => tick);
    for (tick of [2 * BAR + 470, 4 * BAR + 1930, 6 * BAR + 1900, 2 * BAR - 30, -100])
      tapRhythm(desk, 0);
    expect(taps()).toEqual([0, 480, 1920]);
  });

  it("stays as it is on a grid that is off, and goes to the lines of a swung one", () => {
    const on = (value: ReturnType<typeof grid>) => (project: Project) =>
      changePart(project, { pattern: "a", track: "bass" }, (part) => ({
        ...part,
        grid: value,
      }));
    const free = setUp(on(grid(16, "off")), () => 487.4);
    tapRhythm(free.desk, 0);
    expect(free.taps()).toEqual([487]);
    const swung = setUp(on({ ...grid(8), swing: 66 }), () => 600);
    tapRhythm(swung.desk, 0);
    expect(swung.taps()[0]).toBeGreaterThan(600);
  });

  it("comes again over all bars, after one, two or four of its own", () => {
    expect(tapsOver([0, 480], BAR, 2)).toEqual([0, 480, BAR, BAR + 480]);
    expect(tapsOver([0, BAR + 1], BAR, 4)).toEqual([0, BAR + 1, 2 * BAR, 3 * BAR + 1]);
    expect(tapsOver([0, 2 * BAR], BAR, 3)).toEqual([0, 2 * BAR]);
    expect(tapsOver([0, 5 * BAR], BAR, 2)).toEqual([0]);
  });

  it("is missed where nothing is tapped, and that is said", async () => {
    const { store, desk } = setUp();
    changeSettings(store, { how: "follow", source: TAPS });
    const message = "There is no rhythm to go with yet: it is its own";
    await generate(store);
    expect(store.getState().ideas.gave).toContain(message);
    tapRhythm(desk, 0);
    await generate(store);
    expect(store.getState().ideas.gave).not.toContain(message);
  });

  it("is what ideas are asked with, and comes back with the settings of a part", () => {
    const { store, desk } = setUp();
    const asked = () =>
      lineOptions(store.getState(), settingsOf(store.getState()), { bars: 2, count: 1 });
    changeSettings(store, { how: "follow", source: TAPS });
    expect(asked().follow).toBeNull();
    for (const ms of [0, 750]) tapRhythm(desk, ms);
    expect(asked().follow).toEqual({ how: "follow", hits: [0, 1440, BAR, BAR + 1440] });
    const { seed: _, ...settings } = settingsOf(store.getState());
    const track = store.getState().project.tracks[1]!;
    expect(settingsFor(track, { kind: "line", seed: 1, settings: { ...settings } }).taps).toEqual([
      0, 1440,
    ]);
    expect(
      settingsFor(track, { kind: "line", seed: 1, settings: { taps: ["x", 3] } }).taps,
    ).toEqual([]);
  });
});
