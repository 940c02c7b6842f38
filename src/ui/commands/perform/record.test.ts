import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, partOf, trackOf } from "@/core/score";
import { Player } from "../../session/player";
import { createSession } from "../../state/store";
import {
  dropPlayed,
  hearPlayed,
  playedTempo,
  putAtCaret,
  putWherePlayed,
  putWithTempo,
  keepLastLoop,
} from "./played";
import { toggleRecord, undoLastLoop } from "./record";
import { resetSettings, setSettings, type RecordMode } from "../../person/settings";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
/** At 120 a minute a tick of 960 to the quarter is so many ms. */
const MS = 500 / 960;

beforeEach(() =>
  vi.useFakeTimers({ toFake: ["setInterval", "clearInterval", "performance", "Date"] }),
);
afterEach(() => {
  vi.useRealTimers();
  resetSettings();
});

/**
 * A session whose loop stands where the test says. A time of the page's clock is a tick: `go` moves both, and
 * what is heard late is not there to be made up for.
 */
async function setUp(
  mode: RecordMode,
  project: Project = createProject({ bars: 1 }),
  countIn: 0 | 1 | 2 = 0,
) {
  const store = createSession("x", project);
  setSettings({ record: mode, countIn });
  store.getState().setTrack("bass");
  let zero = 0;
  const engine = {
    isPlaying: false,
    runs: 1,
    hold: () => ({ release: () => undefined }),
    bend: () => undefined,
    stop: () => (engine.isPlaying = false),
    play: (_: string, from: number, bars: number) => {
      engine.isPlaying = true;
      engine.runs++;
      zero = performance.now() + bars * 3840 * MS - from * MS;
      return Promise.resolve();
    },
    playedAt: (time: number) =>
      engine.isPlaying ? { pattern: "a", tick: (time - zero) / MS } : null,
    position: () => null,
  };
  const player = new Player(store, engine as never);
  const desk = { store, engine: engine as never, player };
  const now = () => store.getState();
  /** Goes to a tick since the pattern began. */
  const go = (tick: number) =>
    vi.advanceTimersByTime(Math.max(0, zero + tick * MS - performance.now()));
  const press = (pitch: number, tick: number, { track = "bass", velocity = 90 } = {}) => {
    go(tick);
    player.press("kb", `${pitch}`, { pitch, velocity, time: zero + tick * MS, track });
  };
  const lift = (pitch: number, tick: number) => {
    go(tick);
    player.lift("kb", `${pitch}`, zero + tick * MS);
  };
  const hit = (pitch: number, tick: number, length = 200, track = "bass") => {
    press(pitch, tick, { track });
    lift(pitch, tick + length);
  };
  const notes = (place = BASS) =>
    partOf(now().project, place).notes.map(({ start, length, pitch }) => [start, length, pitch]);
  return { store, desk, player, engine, now, go, press, lift, hit, notes, zero: () => zero };
}

describe("overdub", () => {
  it("adds each round to what is there, where it was played, each loop one step", async () => {
    const { desk, now, go, hit, notes } = await setUp("overdub");
    await toggleRecord(desk);
    hit(48, 0, 240);
    hit(50, 965, 470);
    hit(52, 3840 + 1930, 100);
    go(2 * 3840 + 10);
    await toggleRecord(desk);
    expect(notes()).toEqual([
      [0, 240, 48],
      [965, 470, 50],
      [1930, 100, 52],
    ]);
    expect(now().history.past.map((e) => e.label)).toEqual(["Record", "Record"]);
    expect(now().announcement).toBe("3 notes recorded");
    now().undo();
    expect(notes()).toHaveLength(2);
    now().undo();
    expect(notes()).toEqual([]);
  });

  it("tells at its end what is left where a loop was undone meanwhile", async () => {
    const { desk, now, go, hit } = await setUp("overdub");
    await toggleRecord(desk);
    hit(48, 0, 240);
    hit(50, 965, 470);
    hit(52, 3840 + 1930, 100);
    undoLastLoop(desk);
    go(2 * 3840 + 10);
    await toggleRecord(desk);
    expect(now().announcement).toBe("2 notes recorded");
    await toggleRecord(desk);
    hit(55, 2 * 3840 + 960, 240);
    undoLastLoop(desk);
    await toggleRecord(desk);
    expect(now().announcement).toBe("Recording ended: all of it was undone");
  });

  it("asked for twice while sound is on its way begins once", async () => {
    const { desk, hit, notes, engine } = await setUp("overdub");
    const runs = engine.runs;
    await Promise.all([toggleRecord(desk), toggleRecord(desk)]);
    expect(engine.runs).toBe(runs + 1);
    hit(48, 480);
    expect(notes()).toHaveLength(1);
  });

  it("from stop counts in: what is played in it is no note, but an early hit belongs to step one", async () => {
    const { desk, hit, notes } = await setUp("overdub", undefined, 1);
    await toggleRecord(desk);
    hit(40, -2000);
    hit(41, -30);
    hit(42, 960);
    expect(notes().map(([start, , pitch]) => [start, pitch])).toEqual([
      [-30, 41],
      [960, 42],
    ]);
  });

  it("begins at once where the loop plays, and what was played before is not recorded but remembered", async () => {
    const { desk, engine, player, hit, go, notes } = await setUp("overdub");
    await (engine as { play(p: string, f: number, b: number): Promise<void> }).play("a", 0, 0);
    desk.store.getState().setHearing({ playing: true });
    hit(40, 200);
    go(1500);
    await toggleRecord(desk);
    hit(41, 1600);
    expect(notes().map(([start]) => start)).toEqual([1600]);
    expect(player.log.notes.map((n) => n.pitch)).toEqual([40, 41]);
  });

  it("keeps notes of every track where they were played, and hits as long as a step", async () => {
    const { desk, hit, notes } = await setUp("overdub");
    await toggleRecord(desk);
    hit(36, 0, 50, "drums");
    hit(48, 480, 100, "bass");
    expect(notes(DRUMS)).toEqual([[0, 480, 36]]);
    expect(notes(BASS)).toEqual([[480, 100, 48]]);
  });

  it("ties or cuts what is held over the loop's end, and ends what is held when it ends", async () => {
    for (const [over, length] of [
      ["tie", 960],
      ["cut", 480],
    ] as const) {
      const { desk, press, lift, notes } = await setUp("overdub");
      setSettings({ over });
      await toggleRecord(desk);
      press(48, 3360);
      lift(48, 3360 + 960);
      expect(notes()).toEqual([[3360, length, 48]]);
    }
    const { desk, press, go, notes } = await setUp("overdub");
    await toggleRecord(desk);
    press(48, 100);
    go(1060);
    await toggleRecord(desk);
    expect(notes()[0]![1]).toBeGreaterThan(900);
    expect(notes()[0]![1]).toBeLessThan(1000);
  });

  it("ends when the loop is stopped; the same note twice is one, and a key that never comes up sticks to nothing", async () => {
    const { desk, now, press, hit, notes } = await setUp("overdub");
    await toggleRecord(desk);
    hit(48, 0);
    hit(48, 3840);
    press(50, 3840 + 960);
    now().setHearing({ playing: false });
    expect(now().perform.recording).toBeNull();
    expect(notes()).toHaveLength(2);
  });

  it("undoes the last loop while it goes on", async () => {
    const { desk, now, hit, notes } = await setUp("overdub");
    await toggleRecord(desk);
    hit(48, 0);
    hit(50, 3840 + 480);
    undoLastLoop(desk);
    expect([notes().length, now().perform.recording !== null]).toEqual([1, true]);
    hit(52, 3840 + 960);
    expect(notes().map(([, , pitch]) => pitch)).toEqual([48, 52]);
    undoLastLoop(desk);
    undoLastLoop(desk);
    expect(notes()).toEqual([]);
    undoLastLoop(desk);
    expect(now().announcement).toBe("No recorded loop to undo");
  });

  it("follows a change of tempo: ticks are the loop's", async () => {
    const recording = await setUp("overdub");
    const { desk, now, press, lift, notes } = recording;
    await toggleRecord(desk);
    press(48, 960);
    now().edit("Tempo", (p) => edits.setTempo(p, 60));
    lift(48, 1920);
    expect(notes()).toEqual([[960, 960, 48]]);
    // Slower by half while it is held: the loop says how long that was, not the clock.
    const { engine, zero, player } = recording;
    press(50, 2400);
    engine.playedAt = () => ({ pattern: "a", tick: 2640 });
    player.lift("kb", "50", zero() + 2640 * MS);
    expect(notes()[1]).toEqual([2400, 240, 50]);
  });
});

describe("replace", () => {
  const full = () =>
    edits.setNotes(
      createProject({ bars: 1 }),
      BASS,
      [0, 960, 1920, 2880].map((start, i) =>
        makeNote({ id: `o${i}`, start, pitch: 40, length: 240 }),
      ),
    );

  it("clears the loop that is played over, and a loop without a note changes nothing", async () => {
    const { desk, go, hit, notes } = await setUp("replace", full());
    await toggleRecord(desk);
    go(3840 + 100);
    expect(notes()).toHaveLength(4);
    hit(50, 3840 + 1000);
    expect(notes().map(([start, , pitch]) => [start, pitch])).toEqual([
      [1000, 50],
      [1920, 40],
      [2880, 40],
    ]);
    go(2 * 3840 + 100);
    expect(notes().map(([start]) => start)).toEqual([1000]);
    // In the next loop what was recorded gives way in its turn.
    hit(52, 2 * 3840 + 500);
    go(3 * 3840 + 50);
    await toggleRecord(desk);
    expect(notes().map(([, , pitch]) => pitch)).toEqual([52]);
  });

  it("of a kit clears the pads that are played and no others", async () => {
    const beat = edits.setNotes(createProject({ bars: 1 }), DRUMS, [
      makeNote({ id: "k", start: 960, pitch: 36 }),
      makeNote({ id: "s", start: 960, pitch: 38 }),
    ]);
    const { desk, go, hit, notes } = await setUp("replace", beat);
    await toggleRecord(desk);
    hit(36, 480, 50, "drums");
    go(3840 + 50);
    await toggleRecord(desk);
    expect(notes(DRUMS).map(([start, , pitch]) => [start, pitch])).toEqual([
      [480, 36],
      [960, 38],
    ]);
  });

  it("leaves an early hit to the loop that it leads into", async () => {
    const { desk, go, hit, notes } = await setUp("replace", full());
    await toggleRecord(desk);
    hit(50, 3840 - 60);
    hit(52, 3840 + 500);
    go(2 * 3840 + 50);
    await toggleRecord(desk);
    expect(notes().map(([start, , pitch]) => [start, pitch])).toEqual([
      [-60, 50],
      [500, 52],
    ]);
  });

  it("is one step a loop, clearing and all", async () => {
    const { desk, now, go, hit, notes } = await setUp("replace", full());
    await toggleRecord(desk);
    hit(50, 1000);
    go(3840 + 200);
    await toggleRecord(desk);
    expect([notes().length, now().history.past.length]).toEqual([1, 1]);
    now().undo();
    expect(notes()).toHaveLength(4);
  });
});

describe("a take", () => {
  it("is written when it ends, and lengthens the part by whole bars while the rest goes on", async () => {
    const one = edits.setNotes(createProject({ bars: 1 }), BASS, [
      makeNote({ id: "o", start: 0, pitch: 40 }),
    ]);
    const { desk, now, hit, go, notes } = await setUp("take", one);
    await toggleRecord(desk);
    hit(50, 480);
    hit(51, 3840 * 2 + 480);
    expect(notes()).toHaveLength(1);
    go(3840 * 3);
    await toggleRecord(desk);
    expect(
      notes()
        .filter(([, , pitch]) => pitch! > 40)
        .map(([start]) => start),
    ).toEqual([480, 8160]);
    expect(
      notes()
        .filter(([, , pitch]) => pitch === 40)
        .map(([start]) => start),
    ).toEqual([0, 3840, 7680]);
    expect(now().project.patterns[0]!.bars).toBe(3);
    expect(now().history.past).toHaveLength(1);
  });

  it("without lengthening puts its last time into the loop", async () => {
    const { desk, hit, notes } = await setUp("take");
    setSettings({ lengthen: false });
    await toggleRecord(desk);
    hit(50, 480);
    hit(51, 3840 + 960);
    hit(52, 3840 + 1920);
    await toggleRecord(desk);
    expect(notes().map(([start, , pitch]) => [start, pitch])).toEqual([
      [960, 51],
      [1920, 52],
    ]);
  });
});

describe("bend while recording", () => {
  it("becomes a curve of the part, loop by loop, and undo takes it back", async () => {
    const { desk, now, player, go, zero } = await setUp("overdub");
    await toggleRecord(desk);
    for (let i = 0; i <= 20; i++) {
      go(960 + i * 24);
      player.bend("w", Math.round((8191 * i) / 20), zero() + (960 + i * 24) * MS);
    }
    go(1900);
    player.bend("w", 0, zero() + 1900 * MS);
    go(2100);
    const bend = partOf(now().project, BASS).bend!;
    expect(bend.length).toBeLessThan(8);
    expect(bend[0]).toEqual({ tick: 959, value: 0 });
    expect(bend.find(({ tick }) => Math.abs(tick - 1440) < 3)?.value).toBe(8191);
    expect(bend.at(-1)!.value).toBe(0);
    now().undo();
    expect(partOf(now().project, BASS).bend).toBeUndefined();
  });

  it("over the loop's end goes on in the next loop", async () => {
    const { desk, now, player, go, zero } = await setUp("overdub");
    await toggleRecord(desk);
    for (const [tick, value] of [
      [3700, 4000],
      [3900, 2000],
      [4000, 0],
    ] as const) {
      go(tick);
      player.bend("w", value, zero() + tick * MS);
    }
    go(4300);
    const bend = partOf(now().project, BASS).bend!;
    const at = (tick: number) => bend.findLast((p) => p.tick <= tick)?.value;
    expect([at(3800), at(30), at(61), at(165)]).toEqual([4000, 4000, 2000, 0]);
  });
});

describe("what was played without recording", () => {
  it("is put where it was played, once, and on the tracks it was played on", async () => {
    const { desk, engine, player, hit, notes, now } = await setUp("overdub");
    await (engine as { play(p: string, f: number, b: number): Promise<void> }).play("a", 0, 0);
    hit(48, 500);
    hit(36, 3840 + 960, 50, "drums");
    hit(50, 3840 + 1000);
    keepLastLoop(desk);
    expect([notes(BASS).map(([s]) => s), notes(DRUMS).map(([s]) => s)]).toEqual([[1000], [960]]);
    keepLastLoop(desk);
    expect(now().announcement).toBe("These notes are in the part already");
    putWherePlayed(desk, player.log.notes);
    expect(notes(BASS).map(([s]) => s)).toEqual([500, 1000]);
    expect(now().history.past).toHaveLength(2);
  });

  it("without the loop begins on the caret's beat, at the project's tempo or at its own", async () => {
    const { desk, player, store, notes, now } = await setUp("overdub");
    store.getState().setCaret({ tick: 1000 });
    for (const [i, at] of [0, 600, 1200, 1800, 2400].entries()) {
      vi.advanceTimersByTime(i === 0 ? 0 : 600);
      player.press("kb", "a", { pitch: 48 + i, velocity: 80, time: performance.now() });
      player.lift("kb", "a", performance.now() + 100);
      expect(at).toBe(600 * i);
    }
    keepLastLoop(desk);
    // 600 ms are 1,152 ticks at 120 a minute; the loop grows to hold them.
    expect(notes().map(([s]) => s)).toEqual([0, 1152, 2304, 3456, 4608].map((s) => s + 960));
    now().undo();
    const tempo = playedTempo(player.log.notes)!;
    expect(tempo.bpm).toBeCloseTo(100, 0);
    putWithTempo(desk, player.log.notes, tempo);
    expect(now().project.tempo).toBeCloseTo(100, 0);
    expect(notes().map(([s]) => Math.round((s! - 960) / 96))).toEqual([0, 10, 20, 30, 40]);
  });

  it("goes onto another track, on a kit to its lanes, at a place that is asked", async () => {
    const { desk, player, engine, hit, notes, now } = await setUp("overdub");
    await (engine as { play(p: string, f: number, b: number): Promise<void> }).play("a", 0, 0);
    hit(60, 100);
    hit(67, 580);
    now().setCaret({ tick: 960 });
    putAtCaret(desk, player.log.notes, "drums");
    const lanes = trackOf(now().project, "drums").lanes.map((lane) => lane.pitch);
    expect(notes(DRUMS).map(([s, , p]) => [s, p])).toEqual([
      [960, lanes[0]],
      [1440, lanes[1]],
    ]);
  });

  it("is heard over the loop without being written, and thrown away for good", async () => {
    const { desk, player, engine, hit, now, notes } = await setUp("overdub");
    await (engine as { play(p: string, f: number, b: number): Promise<void> }).play("a", 0, 0);
    now().setHearing({ playing: true });
    hit(48, 500);
    hit(36, 700, 50, "drums");
    hearPlayed(desk, player.log.notes);
    const { preview } = now();
    expect([preview?.notes.length, preview?.also?.length, notes()]).toEqual([1, 1, []]);
    dropPlayed(desk, player.log.notes.slice(0, 1));
    expect([player.log.notes.length, now().preview]).toEqual([1, null]);
    keepLastLoop(desk);
    expect(notes()).toEqual([]);
  });

  it("of tracks and patterns that are gone is passed over", async () => {
    const { desk, player, engine, hit, now } = await setUp("overdub");
    await (engine as { play(p: string, f: number, b: number): Promise<void> }).play("a", 0, 0);
    hit(48, 500);
    now().edit("Delete", (p) => edits.deleteTrack(p, "bass"));
    keepLastLoop(desk);
    expect(now().project.tracks).toHaveLength(1);
    dropPlayed(desk, player.log.notes);
    keepLastLoop(desk);
    expect(now().announcement).toContain("Nothing was played");
  });
});
