import { changePart, partOf } from "./parts";
import * as fc from "fast-check";
import { parseMidi } from "midi-file";
import { describe, expect, it } from "vitest";
import * as edits from "../edits";
import { bendLine, bendSteps } from "../playback";
import { parseProject } from "../stored";
import { readSmf, writeSmf } from "../formats";
import { createProject, makeNote } from "./create";
import type { BendPoint } from "./model";
import { bendAt, bendSemitones, overlaid, repeated, thinned, bendCurve } from "./bend";

const place = { pattern: "a", track: "bass" };
const curve = fc.uniqueArray(fc.nat(3839), { minLength: 1, maxLength: 40 }).chain((ticks) =>
  fc
    .array(fc.integer({ min: -8192, max: 8191 }), {
      minLength: ticks.length,
      maxLength: ticks.length,
    })
    .map((values) =>
      ticks.sort((a, b) => a - b).map((tick, i): BendPoint => ({ tick, value: values[i]! })),
    ),
);
const withBend = (bend: readonly BendPoint[], bars = 1) =>
  changePart(
    edits.addNotes(createProject({ bars }), place, [makeNote({ id: "n", start: 0, length: 960 })]),
    place,
    (part) => ({ ...part, bend }),
  );

describe("a bend curve", () => {
  it("is straight between its points, held before the first and after the last", () => {
    const points = [
      { tick: 100, value: 0 },
      { tick: 200, value: 1000 },
    ];
    expect([0, 100, 150, 200, 999].map((tick) => bendAt(points, tick))).toEqual([
      0, 0, 500, 1000, 1000,
    ]);
    expect(bendAt([], 5)).toBe(0);
  });

  it("bends its ends by two semitones (MIDI 1.0, RPN 0: the default range; from memory)", () => {
    expect([bendSemitones(-8192), bendSemitones(0), bendSemitones(4096)]).toEqual([-2, 0, 1]);
  });

  it("thinned lies nowhere farther than asked from what it was, and has no point that it does not need", () => {
    fc.assert(
      fc.property(curve, fc.integer({ min: 1, max: 2000 }), (points, within) => {
        const few = thinned(points, within);
        for (const { tick, value } of points)
          expect(Math.abs(bendAt(few, tick) - value)).toBeLessThanOrEqual(within + 1e-9);
        expect(few.length).toBeLessThanOrEqual(points.length);
      }),
    );
    const line = Array.from({ length: 500 }, (_, i) => ({ tick: i * 4, value: i * 10 }));
    expect(thinned(line)).toHaveLength(2);
  });

  it("of a wheel that stands still is level until it moves, then a step and no ramp", () => {
    const points = bendCurve([
      { tick: 0, value: 0 },
      { tick: 20, value: 500 },
      { tick: 900, value: 0 },
    ]);
    expect(bendAt(points, 850)).toBe(500);
    expect(bendAt(points, 900)).toBe(0);
  });

  it("laid over another changes nothing outside its stretch", () => {
    fc.assert(
      fc.property(curve, curve, (under, over) => {
        const both = overlaid(under, over);
        const [from, to] = [over[0]!.tick, over.at(-1)!.tick];
        for (let tick = 0; tick < 3840; tick += 37) {
          // Each point is a whole number: what lies between two may be half a step off.
          const want = tick >= from && tick <= to ? bendAt(over, tick) : null;
          if (want !== null) expect(Math.abs(bendAt(both, tick) - want)).toBeLessThanOrEqual(1);
          else if (
            under[0]!.tick < from - 1 &&
            under.at(-1)!.tick > to + 1 &&
            tick > under[0]!.tick &&
            tick < under.at(-1)!.tick &&
            (tick < from - 1 || tick > to + 1)
          )
            expect(Math.abs(bendAt(both, tick) - bendAt(under, tick))).toBeLessThanOrEqual(60);
        }
        expect(both.every((p, i) => i === 0 || p.tick > both[i - 1]!.tick)).toBe(true);
      }),
    );
  });

  it("gone round repeats itself, and doubling the loop keeps it", () => {
    const points = [
      { tick: 100, value: 0 },
      { tick: 200, value: 4000 },
      { tick: 300, value: 0 },
    ];
    const twice = repeated(points, 1000, 2000);
    for (let tick = 0; tick < 999; tick += 7)
      expect(bendAt(twice, tick + 1000)).toBeCloseTo(bendAt(points, tick), 0);
    const project = edits.doubleLoop(withBend(points), place, () => "c");
    expect(bendAt(partOf(project, place).bend!, 3840 + 200)).toBeCloseTo(4000, 0);
  });

  it("is heard in any windows as in one, round after round of the loop", () => {
    fc.assert(
      fc.property(
        curve,
        fc.array(fc.integer({ min: 1, max: 900 }), { minLength: 20, maxLength: 30 }),
        (bend, widths) => {
          const project = withBend(bend);
          let from = 0;
          for (const width of widths) {
            const line = bendLine(project, "bass", [from, from + width], { pattern: "a" });
            expect(line[0]!.tick).toBe(from);
            for (let tick = from; tick < from + width; tick += 13)
              expect(bendAt(line, tick)).toBeCloseTo(bendAt(bend, tick % 3840), 6);
            from += width;
          }
        },
      ),
    );
    expect(bendLine(createProject(), "bass", [0, 100])).toEqual([]);
  });

  it("is recorded over a stretch, thinned, and none when it says nothing", () => {
    const wheel = Array.from({ length: 200 }, (_, i) => ({
      tick: 500 + i * 5,
      value: Math.round(8000 * Math.sin(i / 63.6)),
    }));
    const part = partOf(edits.recordBend(withBend([]), place, wheel), place);
    expect(part.bend!.length).toBeLessThan(40);
    for (const { tick, value } of wheel)
      expect(Math.abs(bendAt(part.bend!, tick) - value)).toBeLessThan(42);
    const level = edits.recordBend(createProject(), place, [
      { tick: 0, value: 0 },
      { tick: 90, value: 0 },
    ]);
    expect(partOf(level, place).bend).toBeUndefined();
    expect(partOf(edits.deleteBend(withBend(wheel), place), place).bend).toBeUndefined();
  });
});

describe("a bend in a MIDI file", () => {
  const bend = [
    { tick: 0, value: 0 },
    { tick: 960, value: 8191 },
    { tick: 1920, value: -8192 },
    { tick: 2880, value: 0 },
  ];

  it("is written as pitch bend and read back, nowhere two hundredths of a semitone off", () => {
    const { project, report } = readSmf(writeSmf(withBend(bend)));
    const back = project.patterns[0]!.parts[0]!.bend!;
    for (let tick = 0; tick < 3840; tick += 11)
      expect(Math.abs(bendAt(back, tick) - bendAt(bend, tick)) / 8192).toBeLessThan(0.011);
    expect(report.notKept).toEqual([]);
  });

  it("is what another reader finds (midi-file): 14 bits about the middle, before the note at its tick", () => {
    const { tracks } = parseMidi(writeSmf(withBend([{ tick: 0, value: 2000 }])));
    const events = tracks[1]!.filter((e) => e.type === "pitchBend" || e.type === "noteOn");
    expect(events.map((e) => e.type)).toEqual(["pitchBend", "noteOn"]);
    expect(events[0]).toMatchObject({ value: 2000 });
  });

  it("says each value once, and steps no wider than the ear", () => {
    const steps = bendSteps(bendLine(withBend(bend), "bass", [0, 3840], { pattern: "a" }));
    steps.slice(1).forEach((step, i) => {
      expect(step.value).not.toBe(steps[i]!.value);
      // From one end to the other in a beat is 17 values a tick: every ten ticks is as often as is sent.
      expect(step.tick - steps[i]!.tick).toBeGreaterThanOrEqual(5);
    });
  });
});

describe("a bend in a project from outside", () => {
  const file = (bend: unknown) => {
    const project = createProject();
    const parts = project.patterns[0]!.parts.map((part) => ({ ...part, bend }));
    return { ...project, patterns: [{ ...project.patterns[0]!, parts }] };
  };

  it.each([
    ["no list", "must be a list of points"],
    [
      [
        { tick: 5, value: 0 },
        { tick: 5, value: 1 },
      ],
      "[1].tick must come after the one before",
    ],
    [[{ tick: -1, value: 0 }], "[0].tick must be a whole number"],
    [[{ tick: 0, value: 9000 }], "[0].value must be a whole number from −8192 to 8191"],
    [[{ tick: 0, value: 0, more: 1 }], "[0] has unknown fields"],
    [[null], "[0] must be a point"],
    [Array.from({ length: 20_001 }, (_, tick) => ({ tick, value: 0 })), "holds 20001 points"],
  ])("is refused and named where it is none: %j", (bend, reason) => {
    expect(() => parseProject(file(bend))).toThrow(reason);
  });

  it("is kept where it is one, and may be left out", () => {
    const bend = [
      { tick: 0, value: -8192 },
      { tick: 9, value: 8191 },
    ];
    expect(parseProject(file(bend)).patterns[0]!.parts[0]!.bend).toEqual(bend);
    expect("bend" in parseProject(createProject()).patterns[0]!.parts[0]!).toBe(false);
  });
});
