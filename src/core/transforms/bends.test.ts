import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyProject } from "../any-project.test-helper";
import * as edits from "../edits";
import { bendLine } from "../playback";
import {
  type BendPoint,
  type Note,
  type Project,
  bendAt,
  changePart,
  createProject,
  makeNote,
  partOf,
  sectionsOf,
  totalTicks,
} from "../score";
import { TRANSFORMS } from "./registry";

const BASS = { pattern: "a", track: "bass" };
const BAR = 3840;
const note = (id: string, start: number, length = 480): Note =>
  makeNote({ id, start, pitch: 45, length });

/** A wheel that is pulled up over the second beat and let go, then pushed down over the third. */
const curve: readonly BendPoint[] = [
  { tick: 0, value: 0 },
  { tick: 960, value: 0 },
  { tick: 1440, value: 8191 },
  { tick: 1441, value: 0 },
  { tick: 1920, value: -4096 },
  { tick: 2400, value: -4096 },
  { tick: 2401, value: 0 },
];
const notes = [note("a", 0), note("b", 960), note("c", 1920)];
const applied = (id: string, params: object, more: object = {}) =>
  TRANSFORMS[id]!.apply(
    notes,
    { bends: true, ...params },
    { length: BAR, patternLength: 2 * BAR, bend: curve, ...more },
  );

/** A curve and what it should be, compared at every tenth tick but for jumps, where the tick itself is rounded. */
function expectCurve(bend: readonly BendPoint[], want: (tick: number) => number | null, to = BAR) {
  for (let tick = 5; tick < to; tick += 10) {
    const value = want(tick);
    if (value === null) continue;
    expect([tick, Math.abs(bendAt(bend, tick) - value) < 140]).toEqual([tick, true]);
  }
}
const was = (tick: number) => bendAt(curve, tick);
const nearJump = (tick: number) => [1440, 2400].some((jump) => Math.abs(tick - jump) < 12);

describe("a bend goes along where time is changed", () => {
  it("turned about with its notes, in the stretch that they take", () => {
    const { bend } = applied("reverse", {});
    expectCurve(bend!, (tick) =>
      tick > 2400 ? 0 : nearJump(2400 - tick) ? null : was(2399 - tick),
    );
    // The pull up over the second note is a let-down over the note that takes its place.
    expect(bendAt(bend!, 960)).toBeGreaterThan(8000);
    expect(bendAt(bend!, 1200)).toBeLessThan(4300);
  });

  it("twice as fast, half as fast, and turned about", () => {
    expectCurve(applied("stretch", { factor: 0.5 }).bend!, (tick) =>
      tick < 1200 ? (nearJump(2 * tick) ? null : was(2 * tick)) : 0,
    );
    const slow = applied("stretch", { factor: 2, loop: true }).bend!;
    expectCurve(slow, (tick) => (nearJump(tick / 2) ? null : was(tick / 2)), 4800);
    const about = applied("stretch", { factor: -1 }).bend!;
    expect(about).toEqual(applied("reverse", {}).bend);
  });

  it("shifted round the loop with its notes", () => {
    const { bend } = applied("rotate", { steps: 4, value: "4" });
    expect(bend).toBeDefined();
    expectCurve(bend!, () => null);
    for (const [value, steps, by] of [
      ["16", 3, 720],
      ["4", -1, -960],
      ["4", 4, 3840],
    ] as const) {
      const made = applied("rotate", { steps, value }).bend!;
      expectCurve(made, (tick) => {
        const from = (((tick - by) % BAR) + BAR) % BAR;
        return nearJump(from) || from < 12 || from > BAR - 12 ? null : was(from);
      });
    }
  });

  it("with every copy", () => {
    const { bend, length } = applied("repeat", { times: 2, unit: "whole bars", loop: true });
    expect(length).toBe(2 * BAR);
    expectCurve(
      bend!,
      (tick) => (nearJump(tick % BAR) || tick % BAR > BAR - 12 ? null : was(tick % BAR)),
      2 * BAR,
    );
  });

  it("but not where it is not asked for, as in cards of before, nor under notes that stay", () => {
    for (const id of ["reverse", "stretch", "rotate", "repeat"]) {
      const { defaults, starts } = TRANSFORMS[id]!;
      expect([id, defaults["bends"], starts!["bends"]]).toEqual([id, false, true]);
      expect(applied(id, { bends: false }).bend).toBeUndefined();
    }
    // Of notes that lie one after another some can be turned about alone.
    const some = applied("reverse", {}, { selection: new Set(["b", "c"]) }).bend!;
    expect(bendAt(some, 500)).toBe(0);
    expect(bendAt(some, 1920)).toBeGreaterThan(8000);
    // Where another note sounds in between, the bend is its too.
    expect(applied("reverse", {}, { selection: new Set(["a", "c"]) }).bend).toBeUndefined();
    expect(applied("reverse", {}, { lane: 99 }).bend).toEqual(curve.slice(1));
  });

  it("never leaves what a part may hold", () => {
    const any = fc.record({
      ticks: fc.uniqueArray(fc.nat(BAR - 1), { minLength: 1, maxLength: 12 }),
      id: fc.constantFrom("reverse", "stretch", "rotate", "repeat"),
      factor: fc.constantFrom(-8, -1.3, 0.05, 0.5, 1, 3, 8),
      steps: fc.integer({ min: -64, max: 64 }),
      starts: fc.array(fc.integer({ min: -480, max: 5000 }), { minLength: 1, maxLength: 4 }),
    });
    fc.assert(
      fc.property(any, ({ ticks, id, factor, steps, starts }) => {
        const bend = ticks
          .sort((a, b) => a - b)
          .map((tick, i) => ({ tick, value: i % 2 ? 8191 : -8192 }));
        const made = TRANSFORMS[id]!.apply(
          starts.map((start, i) => note(`n${i}`, start)),
          {
            ...TRANSFORMS[id]!.starts,
            ...("factor" in TRANSFORMS[id]!.defaults && { factor }),
            ...("steps" in TRANSFORMS[id]!.defaults && { steps }),
          },
          { length: BAR, patternLength: 2 * BAR, bend },
        ).bend!;
        made.forEach(({ tick, value }, i) => {
          expect(tick).toBeGreaterThan(made[i - 1]?.tick ?? -1);
          expect(Number.isInteger(tick) && Number.isInteger(value)).toBe(true);
          expect(Math.abs(value)).toBeLessThanOrEqual(8192);
        });
      }),
      { numRuns: 500 },
    );
  });
});

describe("a card that takes the bend along", () => {
  const bent = (chain: boolean): Project => {
    const plain = changePart(
      edits.setNotes(createProject({ bars: 1 }), BASS, notes),
      BASS,
      (part) => ({ ...part, bend: curve }),
    );
    const step = { id: "k", transform: "reverse", on: true, scope: null, params: { bends: true } };
    return chain ? edits.addStep(plain, BASS, step) : plain;
  };
  const line = (project: Project) => bendLine(project, "bass", [0, 2 * BAR], { pattern: "a" });

  it("is heard with it, in every loop, and written with it", () => {
    const project = bent(true);
    expect(bendAt(line(project), 960)).toBeGreaterThan(8000);
    expect(bendAt(line(project), BAR + 960)).toBeGreaterThan(8000);
    let next = 0;
    const written = edits.writeChain(project, BASS, () => `w${next++}`);
    expect(partOf(written, BASS).chain).toEqual([]);
    expect(line(written)).toEqual(line(project));
    const now = edits.transformPart(
      bent(false),
      BASS,
      { transform: "reverse", params: { bends: true }, scope: edits.WHOLE_PART },
      () => "x",
    );
    expect(line(now.project)).toEqual(line(project));
  });

  it("is, in any project, heard the same once it is written", () => {
    fc.assert(
      fc.property(anyProject(), (project) => {
        const [pattern] = project.patterns;
        const total = totalTicks(sectionsOf(project, pattern!.id));
        let next = 0;
        for (const { track } of pattern!.parts) {
          const heard = (any: Project) =>
            bendLine(any, track, [0, 3 * total], { pattern: pattern!.id });
          const written = edits.writeChain(
            project,
            { pattern: pattern!.id, track },
            () => `w${next++}`,
          );
          const [one, two] = [heard(project), heard(written)];
          for (let tick = 0; tick < 3 * total; tick += 97)
            expect(Math.abs(bendAt(one, tick) - bendAt(two, tick))).toBeLessThan(3);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe("a bend that is drawn", () => {
  const draw = (project: Project, drawn: readonly BendPoint[]) =>
    partOf(edits.drawBend(project, BASS, drawn), BASS).bend;
  const plain = edits.setNotes(createProject({ bars: 1 }), BASS, notes);

  it("is where it was drawn, and nothing of it anywhere else", () => {
    const bend = draw(plain, [
      { tick: 960, value: 0 },
      { tick: 1920, value: 8191 },
    ])!;
    expect([0, 500, 959].map((tick) => bendAt(bend, tick))).toEqual([0, 0, 0]);
    expect(bendAt(bend, 1440)).toBeCloseTo(4095.5, 0);
    expect([1921, 3000, 3839].map((tick) => bendAt(bend, tick))).toEqual([0, 0, 0]);
  });

  it("lies over what there was, which keeps its shape on both sides", () => {
    const project = changePart(plain, BASS, (part) => ({ ...part, bend: curve }));
    const bend = draw(project, [
      { tick: 1200, value: -8192 },
      { tick: 1210, value: -8192 },
    ])!;
    expectCurve(bend, (tick) => (nearJump(tick) || Math.abs(tick - 1205) < 12 ? null : was(tick)));
    expect(bendAt(bend, 1205)).toBe(-8192);
  });

  it("drawn level in the middle everywhere is none; past the loop there is nothing to draw on", () => {
    const project = changePart(plain, BASS, (part) => ({ ...part, bend: curve }));
    const level = [
      { tick: 0, value: 0 },
      { tick: BAR - 1, value: 0 },
    ];
    expect(draw(project, level)).toBeUndefined();
    expect(draw(project, [{ tick: BAR, value: 99 }])).toEqual(curve);
  });
});
