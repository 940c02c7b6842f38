import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import { GRID_VALUES, driftOf, grid, lineAt } from "../time";
import { createProject } from "../score";
import { playbackEvents } from "../playback";
import { applyChain } from "./chain";
import { foldPitch } from "./kit";
import { TRANSFORMS } from "./registry";
import { strumCurve } from "./strum";

const apply = (id: string, ...rest: Parameters<(typeof TRANSFORMS)[string]["apply"]>) =>
  TRANSFORMS[id]!.apply(...rest).notes;

/** Places and values worked out by hand, which a rule turned about would miss. */
describe("worked out by hand", () => {
  it("a strum that hurries at its end is late in its middle", () => {
    // √½ of the way at half the notes, for a bend of 50.
    expect(strumCurve(0.5, 50)).toBeCloseTo(Math.SQRT1_2, 10);
    expect(strumCurve(0.5, -50)).toBeCloseTo(0.25, 10);
    const chord = [60, 64, 67].map((pitch) => n(0, { pitch, length: 1920 }));
    // 100 ms at 120 BPM are 192 ticks.
    const starts = (curve: number) =>
      apply("strum", chord, { spread: 100, curve }, { tempo: 120 }).map((note) => note.start);
    expect(starts(0)).toEqual([0, 96, 192]);
    expect(starts(50)).toEqual([0, 136, 192]);
    expect(starts(-50)).toEqual([0, 48, 192]);
  });

  it("notes within a 1/64 begin together, those beyond it do not", () => {
    const starts = (apart: number) =>
      apply("strum", [n(0, { pitch: 60 }), n(apart, { pitch: 64 })], { spread: 100 }).map(
        (note) => note.start,
      );
    expect(starts(59)).toEqual([0, 192]);
    expect(starts(60)).toEqual([0, 60]);
  });

  it("humanize changes lengths by up to its share, and all of them over many notes", () => {
    const notes = Array.from({ length: 200 }, (_, i) => n(i * 240, { length: 200 }));
    const after = apply("humanize", notes, { velocity: 0, length: 50, seed: 3 });
    const lengths = after.map((note) => note.length);
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(100);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(300);
    expect(Math.min(...lengths)).toBeLessThan(150);
    expect(Math.max(...lengths)).toBeGreaterThan(250);
    expect(new Set(lengths).size).toBeGreaterThan(50);
    expect(after.map((note) => note.velocity)).toEqual(notes.map((note) => note.velocity));
  });

  it("a loop of five cells turns as five cells", () => {
    const context = { kind: "drums" as const, grid: grid(16), lanePeriods: { 37: 1200 } };
    const rim = [0, 240, 960].map((start) => n(start, { pitch: 37 }));
    const turned = (steps: number) =>
      apply("rotate", rim, { steps }, context).map((note) => note.start);
    expect(turned(1)).toEqual([240, 480, 0]);
    expect(turned(-1)).toEqual([960, 0, 720]);
    expect(turned(2)).toEqual([480, 720, 240]);
    expect(turned(5)).toEqual([0, 240, 960]);
  });

  it("invert in the key takes notes outside it along", () => {
    const context = { key: { root: 0, scale: "major" } };
    // C to G: degrees 0 and 4. F♯ is one above F (3 → 1, D), so D♯.
    const line = [60, 66, 67].map((pitch, i) => n(i * 240, { pitch }));
    expect(apply("invert", line, {}, context).map((note) => note.pitch)).toEqual([67, 63, 60]);
  });

  it("a pitch beyond the ends comes back by one octave", () => {
    expect([127, 128, 129, 139, 140].map(foldPitch)).toEqual([127, 116, 117, 127, 116]);
    expect([0, -1, -12, -13].map(foldPitch)).toEqual([0, 11, 0, 11]);
    const high = apply("transpose", [n(0, { pitch: 120 })], { semitones: 10 });
    expect(high[0]!.pitch).toBe(118);
  });

  it("an early hit is heard before each repeat of a short part", () => {
    const BASS = { pattern: "a", track: "bass" };
    let project = createProject();
    project = edits.addNotes(project, BASS, [n(-20, { length: 10 })]);
    project = edits.setPartLength(project, BASS, 960);
    const starts = (from: number, to: number) =>
      playbackEvents(project, from, to).map((event) => event.start);
    // At once at the very beginning, then 20 ticks before each beat, the next bar's too.
    expect(starts(0, 3840)).toEqual([0, 940, 1900, 2860, 3820]);
    expect(starts(3840, 7680)).toEqual([4780, 5740, 6700, 7660]);
  });
});

describe("the end of the loop", () => {
  it("is its beginning: a hit pulled or pushed onto it becomes the downbeat", () => {
    const late = [n(3825, { pitch: 36 })];
    const context = { kind: "drums" as const, length: 3840, grid: grid(16) };
    expect(apply("quantize", late, {}, context)[0]!.start).toBe(0);
    expect(apply("quantize", late, {}, { ...context, length: null })[0]!.start).toBe(3840);
    const lane = { ...context, lanePeriods: { 36: 1200 } };
    expect(apply("quantize", [n(1190, { pitch: 36 })], {}, lane)[0]!.start).toBe(0);
    for (let seed = 1; seed < 40; seed++) {
      const [note] = apply("humanize", late, { timing: 60, bias: 100, seed }, context);
      expect(note!.start < 3840).toBe(true);
    }
    const chord = [60, 64, 67].map((pitch) => n(3700, { pitch, length: 960 }));
    const spread = apply("strum", chord, { spread: 200 }, { length: 3840, tempo: 120 });
    expect(spread.map((note) => note.start)).toEqual([3700, 52, 244]);
  });
});

describe("an accent with no beat chosen", () => {
  it("changes nothing", () => {
    const hits = [0, 240, 960].map((start) => n(start));
    expect(apply("velocity", hits, { way: "accent", beats: "" })).toEqual(hits);
  });
});

describe("a lane's own loop", () => {
  it("is as long when its grid is turned off as before", () => {
    const DRUMS = { pattern: "a", track: "drums" };
    const hat = (kind: "straight" | "off") => {
      const project = createProject({ bars: 1 });
      const lane = project.tracks[0]!.lanes.find((l) => l.pitch === 42)!;
      const change = { steps: 8, grid: { value: 16, kind, swing: 50 } as const };
      const changed = edits.changeLane(project, "drums", lane.id, change);
      return playbackEvents(edits.addNotes(changed, DRUMS, [n(0, { pitch: 42 })]), 0, 3840);
    };
    expect(hat("straight").map((event) => event.start)).toEqual([0, 1920]);
    expect(hat("off")).toEqual(hat("straight"));
  });
});

describe("a grid that is off", () => {
  const off = { value: 16, kind: "off", swing: 50 } as const;
  /** Transforms that count in steps of the note's own grid. */
  const STEPPED: Record<string, Record<string, number | string>> = {
    rotate: { steps: 3 },
    fill: { every: 3 },
    swing: { amount: 60 },
    quantize: {},
    split: {},
    reverse: {},
    length: { way: "set" },
  };

  for (const [id, params] of Object.entries(STEPPED)) {
    it(`${id} counts by the straight grid of its value, on tracks of both kinds`, () => {
      fc.assert(
        fc.property(
          fc.constantFrom(...GRID_VALUES.filter((value) => value <= 32)),
          fc.constantFrom("drums" as const, "melody" as const),
          fc.array(fc.integer({ min: 0, max: 3800 }), { minLength: 1, maxLength: 12 }),
          (value, kind, starts) => {
            const notes = [...new Set(starts)]
              .sort((a, b) => a - b)
              .map((start) => n(start, { pitch: 38, length: 300 }));
            const on = (g: typeof off) => ({ kind, length: 3840, grid: { ...g, value } as never });
            const straight = { ...off, kind: "straight" } as never;
            expect(TRANSFORMS[id]!.apply(notes, params, on(off))).toEqual(
              TRANSFORMS[id]!.apply(notes, params, on(straight)),
            );
          },
        ),
        { numRuns: 40 },
      );
    });
  }
});

describe("an id that every object answers to", () => {
  it("is no transform, in a chain, at once or in the registry", () => {
    for (const id of ["constructor", "toString", "__proto__", "hasOwnProperty", "sparkle"]) {
      expect(TRANSFORMS[id]).toBeUndefined();
      const step = { id: "s", transform: id, on: true, params: {}, scope: null };
      const error = `“${id}” is no known transform`;
      expect(() => applyChain([n(0)], [step])).toThrow(new RangeError(error));
      const whole = { selection: null, lane: null, range: null };
      const place = { pattern: "a", track: "bass" };
      const now = () =>
        edits.transformPart(
          createProject(),
          place,
          { transform: id, params: {}, scope: whole },
          () => "x",
        );
      expect(now).toThrow(new RangeError(error));
    }
  });
});

describe("swung grids", () => {
  const swung = grid(16, "straight", 58);
  const drums = { kind: "drums" as const, length: 3840, grid: swung };

  it("four on the floor reversed is four on the floor", () => {
    const kicks = [0, 960, 1920, 2880].map((start) => n(start, { pitch: 36 }));
    const after = apply("reverse", kicks, {}, drums).map((note) => note.start);
    expect(after).toEqual([2880, 1920, 960, 0]);
  });

  it("reversed twice is what it was, on a lane whose grid is off and keeps a swing", () => {
    const off = { value: 16, kind: "off", swing: 62 } as const;
    const context = { kind: "drums", laneGrids: { 38: off }, length: 3840 } as const;
    const hits = [0, 155, 390, 720, 1111].map((start, i) => n(start, { id: `h${i}`, pitch: 38 }));
    const once = apply("reverse", hits, {}, context);
    expect(once.map((note) => note.start)).not.toEqual(hits.map((note) => note.start));
    const twice = apply("reverse", once, {}, context);
    expect(twice.map((note) => note.start)).toEqual(hits.map((note) => note.start));
  });

  it("a reversed bar of 7/8 stays in it, with a range and without", () => {
    const g = grid(8, "straight", 60);
    const bar = { ...drums, grid: g, length: 7 * 480, metre: { beats: 7, unit: 8 } };
    const hits = [0, 480 + 96, 6 * 480].map((start) => n(start, { pitch: 36 }));
    const starts = [6 * 480, 5 * 480 - 480 + 576, 0];
    for (const range of [null, [0, 7 * 480]] as const) {
      expect(apply("reverse", hits, {}, { ...bar, range }).map((note) => note.start)).toEqual(
        starts,
      );
    }
    const far = [n(0, { pitch: 36 }), n(6 * 480 + 250, { pitch: 36 })];
    for (const range of [null, [0, 7 * 480]] as const) {
      for (const note of apply("reverse", far, {}, { ...bar, range })) {
        expect(note.start).toBeLessThan(7 * 480);
      }
    }
  });

  it("rotated in a loop of an odd number of steps, hits stay on the lines", () => {
    const g = grid(16, "straight", 62);
    const context = { kind: "drums" as const, grid: g, length: 7 * 240 };
    const hits = Array.from({ length: 7 }, (_, i) => n(lineAt(g, i), { pitch: 42 }));
    for (let steps = -7; steps <= 7; steps++) {
      const after = apply("rotate", hits, { steps }, context).map((note) => note.start);
      expect([...after].sort((a, b) => a - b)).toEqual(hits.map((note) => note.start));
    }
    // A range that begins on a swung line keeps to the lines as well.
    const range = [lineAt(g, 1), lineAt(g, 5)] as const;
    const inside = hits.slice(1, 5);
    const after = apply("rotate", inside, { steps: 1 }, { ...context, length: 3840, range });
    for (const note of after) expect(driftOf(g, note.start)).toBe(0);
  });
});

describe("alternate pan", () => {
  it("takes hits a tick apart as one", () => {
    const hits = [n(0, { pitch: 36 }), n(1, { pitch: 42 }), n(480, { pitch: 42 })];
    expect(apply("alternate-pan", hits).map((note) => note.pan)).toEqual([-0.6, -0.6, 0.6]);
  });
});

describe("strays", () => {
  // At 120 a minute a tick lasts 0.52 ms: 25 ms are 48 ticks, 40 ms are 77.
  const params = { softer: 20, shorter: 25, twice: 40 };
  const left = (hits: ReturnType<typeof n>[], kind: "drums" | "melody" = "melody") =>
    apply("strays", hits, params, { kind }).map((note) => [note.start, note.velocity]);

  it("leave out what is softer than a velocity, and of held notes what is shorter than a time", () => {
    const hits = [
      n(0, { velocity: 19 }),
      n(480, { velocity: 20 }),
      n(960, { length: 47 }),
      n(1440, { length: 49 }),
    ];
    expect(left(hits).map(([start]) => start)).toEqual([480, 1440]);
    expect(left(hits, "drums").map(([start]) => start)).toEqual([480, 960, 1440]);
  });

  it("leave out the softer of two strikes of one pitch within a time, however many bounce", () => {
    const bounce = [
      n(0, { velocity: 90 }),
      n(40, { velocity: 50 }),
      n(70, { velocity: 99 }),
      n(200, { velocity: 80 }),
    ];
    expect(left(bounce)).toEqual([
      [70, 99],
      [200, 80],
    ]);
    const chord = [n(0, { pitch: 60 }), n(10, { pitch: 64 })];
    expect(left(chord)).toHaveLength(2);
  });

  it("say what they left out, or that there was nothing", () => {
    const { effect } = TRANSFORMS.strays!.apply([n(0, { velocity: 5 }), n(480)], params);
    expect(effect.sentence).toBe("1 note left out: 1 too soft");
    expect(TRANSFORMS.strays!.apply([n(0)], params).effect.sentence).toBe("No stray notes found");
  });
});

describe("strum", () => {
  it("leaves something of every note, however short the chord", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 2, max: 6 }),
        fc.integer({ min: 0, max: 1000 }),
        (length, count, spread) => {
          const chord = Array.from({ length: count }, (_, i) => n(960, { pitch: 50 + i, length }));
          for (const note of apply("strum", chord, { spread })) {
            expect(note.start + note.length).toBe(960 + length);
            if (length > 2) expect(note.length).toBeGreaterThan(1);
          }
        },
      ),
    );
  });
});

describe("timing taken from another part", () => {
  /** A bass that follows the drums; the drums loop after one bar, the bass after four. */
  const setUp = (hits: readonly number[], notes: readonly number[]) => {
    let project = createProject({ bars: 4 });
    const [drums, bass] = ["drums", "bass"].map((track) => ({ pattern: "a", track }));
    project = edits.setNotes(
      project,
      drums!,
      hits.map((start) => n(start, { pitch: 36 })),
    );
    project = edits.setPartLength(project, drums!, 3840);
    project = edits.setNotes(
      project,
      bass!,
      notes.map((start) => n(start)),
    );
    project = edits.setPartLength(project, bass!, 4 * 3840);
    const follow = {
      id: "q",
      transform: "quantize",
      on: true,
      params: { from: "drums" },
      scope: null,
    };
    return edits.addStep(project, bass!, follow);
  };
  const bassStarts = (project: ReturnType<typeof createProject>) =>
    playbackEvents(project, 0, 4 * 3840)
      .filter((event) => event.track === "bass")
      .map((event) => event.start);

  it("knows that the other part loops", () => {
    expect(bassStarts(setUp([0, 960, 1920, 2880], [3850, 7000, 11_600]))).toEqual([
      3840, 6720, 11_520,
    ]);
  });

  it("knows the loops of its lanes", () => {
    const project = setUp([0], [1000, 2100, 3200]);
    const lane = project.tracks[0]!.lanes.find((l) => l.pitch === 36)!;
    const short = edits.changeLane(project, "drums", lane.id, { steps: 4, grid: grid(16) });
    expect(bassStarts(short)).toEqual([960, 1920, 2880]);
  });

  it("takes the other part as it is heard, its chain applied", () => {
    const project = setUp([0, 240], [240]);
    const params = { amount: 75, value: "16" };
    const swing = { id: "w", transform: "swing", on: true, params, scope: null };
    const place = { pattern: "a", track: "drums" };
    const swung = edits.addStep(project, place, swing);
    expect(bassStarts(swung)).toEqual([360]);
    // And follows when it changes, though its own part stays the same.
    const less = edits.changeStep(swung, place, "w", { params: { ...params, amount: 60 } });
    expect(bassStarts(less)).toEqual([288]);
    expect(bassStarts(swung)).toEqual([360]);
  });

  it("comes to an end where parts follow each other in a circle, the same in whatever order", () => {
    const project = setUp([0, 250], [500]);
    const back = {
      id: "b",
      transform: "quantize",
      on: true,
      params: { from: "bass" },
      scope: null,
    };
    const circle = edits.addStep(project, { pattern: "a", track: "drums" }, back);
    const all = () => playbackEvents(circle, 0, 3840).map((event) => [event.track, event.start]);
    const first = all();
    expect(first.length).toBeGreaterThan(2);
    expect(bassStarts(circle)).toEqual(bassStarts(structuredClone(circle)));
    const reversed = structuredClone(circle);
    const drums = playbackEvents({ ...reversed, tracks: [...reversed.tracks].reverse() }, 0, 3840);
    expect(new Set(drums.map((e) => `${e.track}${e.start}`))).toEqual(
      new Set(first.map(([track, start]) => `${track}${start}`)),
    );
  });
});
