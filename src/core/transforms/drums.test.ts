import * as edits from "../edits";
import { grid, gridLines, gridTicks, lineAt, ticksToMs } from "../time";
import type { Params } from "../params";
import { type Note, createProject, makeNote, partOf } from "../score";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { applyChain, effectivePart } from "./chain";
import { evenSpread } from "./fill";
import { pieceIds, type TransformContext } from "./kit";
import { TRANSFORMS } from "./registry";

const apply = (
  id: string,
  notes: readonly Note[],
  params: Params = {},
  context: Partial<TransformContext> = {},
) => TRANSFORMS[id]!.apply(notes, params, { kind: "drums", ...context });
const starts = (notes: readonly Note[]) => notes.map((note) => note.start);
const hats = (count: number, rest: Partial<Note> = {}) =>
  Array.from({ length: count }, (_, i) => n(i * 240, { pitch: 42, length: 240, ...rest }));

describe("even spread", () => {
  // Source: G. Toussaint, “The Euclidean algorithm generates traditional musical rhythms”, BRIDGES
  // 2005, section 4 (values from memory; x a hit, . a rest). Ours begin on the hit where the
  // rounding rises, so each is held against every turn of the printed one; those that are turned
  // are the same necklace, as the paper calls it.
  const PRINTED: [hits: number, steps: number, name: string, rhythm: string][] = [
    [1, 2, "a pulse of one in two", "x."],
    [1, 3, "conga rhythm of one in three", "x.."],
    [2, 3, "two in three (West African drum rhythm)", "x.x"],
    [2, 5, "Khafif-e-ramal", "x.x.."],
    [3, 4, "Cumbia", "x.xx"],
    [3, 5, "three in five", "x.x.x"],
    [3, 7, "Ruchenitza", "x.x.x.."],
    [3, 8, "Tresillo", "x..x..x."],
    [4, 7, "Ruchenitza of four", "x.x.x.x"],
    [4, 9, "Aksak", "x.x.x.x.."],
    [4, 11, "Outside Now", "x..x..x..x."],
    [5, 6, "York-Samai", "x.xxxx"],
    [5, 7, "Nawakhat", "x.xx.xx"],
    [5, 8, "Cinquillo", "x.xx.xx."],
    [5, 9, "Agsag-Samai", "x.x.x.x.x"],
    [5, 11, "five in eleven", "x.x.x.x.x.."],
    [5, 12, "Venda clapping pattern", "x..x.x..x.x."],
    [5, 16, "Bossa-Nova necklace", "x..x..x..x..x..."],
    [7, 8, "Bendir", "x.xxxxxx"],
    [7, 12, "West African bell", "x.xx.x.xx.x."],
    [7, 16, "Samba necklace", "x..x.x.x..x.x.x."],
    [9, 16, "Central African Republic rhythm", "x.xx.x.x.xx.x.x."],
    [11, 24, "Aka Pygmies", "x..x.x.x.x.x..x.x.x.x.x."],
    [13, 24, "Aka Pygmies, upper Sangha", "x.xx.x.x.x.x.xx.x.x.x.x."],
  ];
  for (const [hits, steps, name, rhythm] of PRINTED) {
    it(`gives E(${hits},${steps}), ${name}`, () => {
      const turned = Array.from({ length: steps }, (_, rotation) =>
        evenSpread(hits, steps, rotation)
          .map((hit) => (hit ? "x" : "."))
          .join(""),
      );
      expect(turned).toContain(rhythm);
    });
  }

  it("has the hits asked for, gaps that differ by one step at most, and a hit on step 0", () => {
    const pair = fc
      .integer({ min: 1, max: 64 })
      .chain((steps) => fc.tuple(fc.integer({ min: 1, max: steps }), fc.constant(steps)));
    fc.assert(
      fc.property(pair, fc.integer({ min: -70, max: 70 }), ([hits, steps], rotation) => {
        const pattern = evenSpread(hits, steps);
        expect(pattern[0]).toBe(true);
        const at = pattern.flatMap((hit, i) => (hit ? [i] : []));
        expect(at).toHaveLength(hits);
        const gaps = at.map((step, i) => (at[i + 1] ?? at[0]! + steps) - step);
        expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThanOrEqual(1);
        const turned = evenSpread(hits, steps, rotation);
        pattern.forEach((hit, i) =>
          expect(turned[(((i + rotation) % steps) + steps) % steps]).toBe(hit),
        );
      }),
    );
  });
});

describe("fill", () => {
  const bar = { length: 3840, grid: grid(16), lane: 42 };
  it("puts a hit on every n-th step of the lane's loop", () => {
    expect(starts(apply("fill", [], { every: 4 }, bar).notes)).toEqual([0, 960, 1920, 2880]);
    expect(starts(apply("fill", [], { every: 4, rotation: 1 }, bar).notes)).toEqual([
      240, 1200, 2160, 3120,
    ]);
    const five = { ...bar, lanePeriods: { 42: 5 * 240 } };
    expect(starts(apply("fill", [], { every: 2 }, five).notes)).toEqual([0, 480, 960]);
  });
  it("spreads k over n, repeats it to the end of the loop, on swung lines too", () => {
    const cinquillo = apply("fill", [], { way: "spread evenly", hits: 3, over: 8 }, bar).notes;
    expect(starts(cinquillo).map((t) => t / 240)).toEqual([0, 3, 6, 8, 11, 14]);
    const swung = { ...bar, grid: grid(16, "straight", 60) };
    expect(starts(apply("fill", [], { every: 1 }, swung).notes).slice(0, 3)).toEqual([0, 288, 480]);
  });
  it("keeps hits that are there, drift and all, or replaces them; other lanes stay", () => {
    const there = [n(14, { pitch: 42, velocity: 7 }), n(0, { pitch: 36 })];
    const kept = apply("fill", there, { every: 8 }, bar).notes;
    expect(kept).toContain(there[0]);
    expect(starts(kept.filter((note) => note.pitch === 42))).toEqual([14, 1920]);
    const replaced = apply("fill", there, { every: 8, there: "replace them" }, bar);
    expect(starts(replaced.notes.filter((note) => note.pitch === 42))).toEqual([0, 1920]);
    expect(replaced.notes).toContain(there[1]);
    expect(replaced.effect).toMatchObject({ added: 2, removed: 1 });
  });
  it("fills a selected range alone, and says what it did", () => {
    const { notes, effect } = apply("fill", [], { every: 1 }, { ...bar, range: [960, 1920] });
    expect(starts(notes)).toEqual([960, 1200, 1440, 1680]);
    expect(effect.sentence).toBe("4 hits added on 4 steps, on every step");
  });
});

describe("swing", () => {
  it("at 66.67 % is the triplet grid exactly, at any value", () => {
    for (const value of [4, 8, 16, 32, 64]) {
      const cell = gridTicks(grid(value));
      const notes = [0, 1, 2, 3].map((i) => n(i * cell, { pitch: 42 }));
      const after = starts(apply("swing", notes, { amount: 66.67 }, { grid: grid(value) }).notes);
      const triplets = gridLines(grid(value, "triplet"), 0, 4 * cell);
      expect(after).toEqual([0, 2, 3, 5].map((i) => triplets[i]));
    }
  });
  it("moves off-cells only, keeps their drift, and does nothing at 50", () => {
    fc.assert(
      fc.property(anyNotes, fc.double({ min: 50, max: 75, noNaN: true }), (notes, amount) => {
        const after = apply("swing", notes, { amount }, { grid: grid(16) }).notes;
        const by = Math.round((480 * amount) / 100) - 240;
        after.forEach((note, i) => {
          const off = Math.abs(Math.floor(notes[i]!.start / 240 + 0.5)) % 2 === 1;
          expect(note.start - notes[i]!.start).toBe(off ? by : 0);
        });
      }),
    );
    const notes = hats(8);
    expect(apply("swing", notes, { amount: 50 }).notes).toEqual(notes);
  });
});

describe("rotate", () => {
  const loop = { length: 3840, grid: grid(16) };
  it("wraps round the loop of the part, or of the lane, keeping drift", () => {
    const notes = [n(0, { pitch: 42 }), n(3600 + 9, { pitch: 42 })];
    expect(starts(apply("rotate", notes, { steps: 1 }, loop).notes)).toEqual([240, 9]);
    const own = { ...loop, lanePeriods: { 42: 1200 } };
    expect(starts(apply("rotate", [n(960, { pitch: 42 })], { steps: 1 }, own).notes)).toEqual([0]);
    const early = apply("rotate", [n(-20, { pitch: 42 })], { steps: 2 }, loop).notes;
    expect(starts(early)).toEqual([460]);
  });
  it("comes back by the opposite, and by the whole loop, as it sounds", () => {
    const inside = anyNotes.map((notes) =>
      notes.map((note) => ({ ...note, start: note.start % 3840 })),
    );
    const swung = fc.constantFrom(grid(16), grid(8, "triplet"), grid(16, "straight", 62));
    const heard = (notes: readonly Note[]) => notes.map((note) => (note.start + 3840) % 3840);
    fc.assert(
      fc.property(inside, fc.integer({ min: -64, max: 64 }), swung, (notes, by, g) => {
        // Swung cells are unequal: by an odd number of them, drift near the middle changes sides.
        const steps = g.swing === 50 ? by : 2 * Math.trunc(by / 2);
        const context = { ...loop, grid: g };
        const there = apply("rotate", notes, { steps }, context).notes;
        expect(heard(apply("rotate", there, { steps: -steps }, context).notes)).toEqual(
          heard(notes),
        );
        const round = apply("rotate", notes, { steps: 3840 / gridTicks(g) }, context).notes;
        expect(heard(round)).toEqual(heard(notes));
      }),
    );
  });
  it("turns a selected range in itself", () => {
    const notes = [n(960, { pitch: 42 }), n(1680, { pitch: 42 })];
    const after = apply("rotate", notes, { steps: 1 }, { ...loop, range: [960, 1920] });
    expect(starts(after.notes)).toEqual([1200, 960]);
    // One that begins beside the grid has its cells from there on, and drift from those.
    const beside = [n(100, { pitch: 42 }), n(350, { pitch: 42 }), n(820, { pitch: 42 })];
    const turned = apply("rotate", beside, { steps: 1 }, { ...loop, range: [100, 1060] });
    expect(starts(turned.notes)).toEqual([340, 590, 100]);
  });
  it("leaves a hit that is early at the loop's beginning early", () => {
    const early = [n(-20, { pitch: 42 })];
    expect(starts(apply("rotate", early, { steps: 16 }, loop).notes)).toEqual([-20]);
  });
});

describe("velocity", () => {
  const line = [20, 60, 100, 120].map((velocity, i) => n(i * 960, { pitch: 38, velocity }));
  const values = (params: Params) => apply("velocity", line, params).notes.map((x) => x.velocity);
  it("sets, adds, scales, ramps and levels", () => {
    expect(values({ way: "set", value: 5 })).toEqual([5, 5, 5, 5]);
    expect(values({ way: "add", add: 30 })).toEqual([50, 90, 127, 127]);
    expect(values({ way: "scale", scale: 50 })).toEqual([10, 30, 50, 60]);
    expect(values({ way: "ramp", from: 10, to: 100 })).toEqual([10, 40, 70, 100]);
    expect(values({ way: "level", amount: 100 })).toEqual([75, 75, 75, 75]);
    expect(values({ way: "level", amount: 0 })).toEqual([20, 60, 100, 120]);
  });
  it("accents the chosen beats of each bar, late hits on them too", () => {
    const late = [
      n(14, { velocity: 60 }),
      n(960 + 14, { velocity: 60 }),
      n(4800, { velocity: 60 }),
    ];
    const after = apply("velocity", late, { way: "accent", beats: "2 4", add: 25 }).notes;
    expect(after.map((note) => note.velocity)).toEqual([60, 85, 85]);
    expect(() => apply("velocity", late, { beats: "two" })).toThrow(/beats/);
  });
});

describe("thin", () => {
  it("drops the share that chance says, over many seeds", () => {
    let gone = 0;
    for (let seed = 0; seed < 1000; seed++) {
      gone += apply("thin", hats(16), { chance: 25, keep: "nothing", seed }).effect.removed;
    }
    expect(gone / 16_000).toBeGreaterThan(0.24);
    expect(gone / 16_000).toBeLessThan(0.26);
  });
  it("never drops beats when asked, and the same others as without", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999 }), (seed) => {
        const all = apply("thin", hats(32), { chance: 70, keep: "nothing", seed }).notes;
        const kept = apply("thin", hats(32), { chance: 70, keep: "beats", seed }).notes;
        const bars = apply("thin", hats(32), { chance: 70, keep: "first beats", seed }).notes;
        expect(starts(kept).filter((t) => t % 960 === 0)).toHaveLength(8);
        expect(starts(kept).filter((t) => t % 960 !== 0)).toEqual(
          starts(all).filter((t) => t % 960 !== 0),
        );
        for (const t of [0, 3840]) expect(starts(bars)).toContain(t);
      }),
    );
    expect(apply("thin", hats(8), { chance: 0 }).effect.removed).toBe(0);
    expect(apply("thin", hats(8), { chance: 100, keep: "nothing" }).notes).toEqual([]);
  });
});

describe("alternate pan", () => {
  it("goes from side to side by onset", () => {
    const notes = [n(0), n(0, { pitch: 61 }), n(240), n(480)];
    expect(apply("alternate-pan", notes, { width: 50 }).notes.map((x) => x.pan)).toEqual([
      -0.5, -0.5, 0.5, -0.5,
    ]);
    const other = apply("alternate-pan", notes, { first: "right", width: 100 }).notes;
    expect(other.map((x) => x.pan)).toEqual([1, 1, -1, 1]);
  });
});

describe("split", () => {
  it("tiles every note exactly", () => {
    const ways = fc.constantFrom<Params>(
      { value: "8" },
      { value: "16", kind: "triplet" },
      { way: "into equal pieces", count: 7 },
    );
    fc.assert(
      fc.property(anyNotes, ways, (notes, params) => {
        const after = apply("split", notes, params).notes;
        for (const note of notes) {
          const pieces = after
            .filter((p) => p.id === note.id || p.id.startsWith(`${note.id}~`))
            .sort((a, b) => a.start - b.start);
          let at = note.start;
          for (const piece of pieces) {
            expect(piece.start).toBe(at);
            at += piece.length;
          }
          expect(at).toBe(note.start + note.length);
        }
      }),
    );
  });
  it("cuts at the lines that lie inside, swung ones where they truly are", () => {
    const held = [n(100, { length: 700 })];
    expect(starts(apply("split", held, {}, { grid: grid(16) }).notes)).toEqual([
      100, 240, 480, 720,
    ]);
    const swung = { grid: grid(16, "straight", 60) };
    expect(starts(apply("split", held, {}, swung).notes)).toEqual([100, 288, 480, 768]);
  });
});

describe("repeat", () => {
  it("puts copies end to end and lengthens the loop to hold them", () => {
    const bar = [n(0), n(960), n(-20, { pitch: 61 })];
    const result = apply("repeat", bar, { times: 3 }, { length: 3840 });
    expect(result.length).toBe(3 * 3840);
    expect(starts(result.notes)).toEqual([0, 960, -20, 3840, 4800, 3820, 7680, 8640, 7660]);
  });
  it("goes on until the pattern is full, and no further", () => {
    const beat = [n(0, { length: 200 }), n(480, { length: 200 })];
    const context = { length: 3840, patternLength: 3840 };
    const params = { until: "the pattern is full", unit: "whole beats" };
    const result = apply("repeat", beat, params, context);
    expect(starts(result.notes).sort((a, b) => a - b)).toEqual([
      0, 480, 960, 1440, 1920, 2400, 2880, 3360,
    ]);
    expect(result.length).toBeUndefined();
  });
});

describe("quantize to another part", () => {
  it("takes its onsets as lines, round the loop to its beginning, half way to the later", () => {
    const timingOf = (track: string) => (track === "bass" ? [0, 1000, 2500] : null);
    const notes = [n(480), n(500), n(1800), n(3300)];
    const context = { timingOf, length: 3840 };
    const after = apply("quantize", notes, { from: "bass" }, context);
    expect(starts(after.notes)).toEqual([0, 1000, 2500, 0]);
    expect(apply("quantize", notes, { from: "gone" }, context).effect.sentence).toMatch(
      /no onsets/,
    );
    const near = { from: "bass", reach: "within", window: 50 };
    expect(starts(apply("quantize", [n(100), n(450)], near, context).notes)).toEqual([0, 450]);
  });
  it("follows that part when it changes", () => {
    let project = createProject({ bars: 1 });
    const [bass, drums] = ["bass", "drums"].map((track) => ({ pattern: "a", track }));
    project = edits.setNotes(project, bass!, [n(30), n(1000)]);
    project = edits.setNotes(project, drums!, [n(0, { pitch: 36 }), n(960, { pitch: 36 })]);
    project = edits.addStep(project, drums!, {
      id: "q",
      transform: "quantize",
      on: true,
      params: { from: "bass" },
      scope: null,
    });
    const heard = () =>
      starts(
        effectivePart(project, project.tracks[0]!, partOf(project, drums!), { bars: 1 }).notes,
      );
    expect(heard()).toEqual([30, 1000]);
    project = edits.setNotes(project, bass!, [n(40), n(1010)]);
    expect(heard()).toEqual([40, 1010]);
  });
});

describe("a part as it is heard", () => {
  it("is worked out again when the tempo changes, and only then", () => {
    const bass = { pattern: "a", track: "bass" };
    const chord = [60, 64, 67].map((pitch) => n(0, { pitch }));
    const project = edits.addStep(edits.setNotes(createProject(), bass, chord), bass, {
      id: "s",
      transform: "strum",
      on: true,
      params: { unit: "ms", spread: 60 },
      scope: null,
    });
    const heard = (p: typeof project) =>
      effectivePart(p, p.tracks[1]!, partOf(p, bass), { bars: 1 });
    const last = (p: typeof project) => Math.max(...starts(heard(p).notes));
    const [slow, fast] = [60, 120].map((tempo) => last(edits.setTempo(project, tempo)));
    // 60 ms is twice as many ticks at twice the tempo; whole ticks round.
    expect(Math.abs(fast! - 2 * slow!)).toBeLessThanOrEqual(1);
    expect(slow).toBeGreaterThan(0);
    expect(heard(project)).toBe(heard(project));
  });
});

describe("rolls in rolls, and lanes of a chain", () => {
  it("give every piece an id of its own that stays short", () => {
    const roll = (id: string) => ({ id, transform: "roll", on: true, params: {}, scope: null });
    const chain = Array.from({ length: 6 }, (_, i) => roll(`s${i}`));
    const { notes } = applyChain(hats(2, { length: 256 }), chain, { kind: "drums" });
    expect(notes).toHaveLength(2 * 64);
    expect(new Set(notes.map((note) => note.id)).size).toBe(128);
    expect(Math.max(...notes.map((note) => note.id.length))).toBeLessThan(16);
    const next = pieceIds([n(0), { ...n(1), id: "x~7" }, { ...n(2), id: "x~y" }]);
    expect([next("x", 1), next("x~7", 1), next("z", 1)]).toEqual(["x~8", "x~9", "z~1"]);
  });
  it("work on one lane, whatever is put on it later", () => {
    const step = { id: "s", transform: "roll", on: true, params: {}, scope: null, lane: 42 };
    const notes = [...hats(2), n(0, { pitch: 36 })];
    const count = (list: readonly Note[]) => applyChain(list, [step]).notes.length;
    expect(count(notes)).toBe(5);
    expect(count([...notes, makeNote({ id: "later", start: 960, pitch: 42 })])).toBe(7);
  });
});

describe("times a musician knows", () => {
  it("a 1/32 at 160 BPM is 46.875 ms, a 1/8 187.5 ms", () => {
    expect(ticksToMs(gridTicks(grid(32)), 160)).toBe(46.875);
    expect(ticksToMs(gridTicks(grid(8)), 160)).toBe(187.5);
  });
  it("swung lines of a grid and of the transform are the same", () => {
    for (let percent = 50; percent <= 75; percent += 0.5) {
      const swung = grid(16, "straight", percent);
      const moved = apply("swing", hats(8), { amount: percent }, { grid: grid(16) }).notes;
      expect(starts(moved)).toEqual(Array.from({ length: 8 }, (_, i) => lineAt(swung, i)));
    }
  });
});

describe("fill of a selection", () => {
  it("puts no second hit on a step that has one, selected or not", () => {
    const hits = [0, 240, 480, 960].map((start) => n(start, { pitch: 36 }));
    const selection = new Set([hits[0]!.id]);
    const context = { kind: "drums" as const, length: 3840, grid: grid(16), selection };
    for (const there of ["keep them", "replace them"]) {
      const { notes } = apply("fill", hits, { every: 2, there }, context);
      const at = notes.map((note) => note.start);
      expect(new Set(at).size).toBe(at.length);
      for (const hit of hits.slice(1)) expect(notes).toContain(hit);
    }
  });
});
