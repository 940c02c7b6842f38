import { describe, expect, it } from "vitest";
import { LIMITS, type Note, type Part, type Project, createProject } from "../score";
import { TRANSFORMS, applyChain, effectivePart } from "../transforms";
import { limitProblem } from "../stored";
import { writeSmf } from "../formats";
import { playbackEvents } from "./events";
import { lineTooLong, patternTooLarge, unfoldedNotes } from "./unfold";

const note = (id: string, start: number, length = 1, pitch = 36): Note => ({
  id,
  start,
  length,
  pitch,
  velocity: 96,
  pan: 0,
  tune: 0,
  slide: false,
});

/** A project whose first part is as given, in a pattern of so many bars. */
function withPart(change: Partial<Part>, bars = 1, more: Partial<Project> = {}): Project {
  const project = createProject({ name: "Large" });
  const [first, ...rest] = project.patterns;
  const [part, ...others] = first!.parts;
  const pattern = { ...first!, bars, parts: [{ ...part!, ...change }, ...others] };
  return { ...project, patterns: [pattern, ...rest], ...more };
}

const steps = (transform: string, params: object, times: number) =>
  Array.from({ length: times }, (_, i) => ({
    id: `s${i}`,
    transform,
    on: true,
    params: { ...TRANSFORMS[transform]!.defaults, ...params },
    scope: null,
  }));

describe("what is small to write and vast to play", () => {
  it("is counted as playback unfolds it, over loops shorter and longer than the pattern", () => {
    for (const [length, starts, bars] of [
      [960, [0, 240, 959], 1],
      [700, [-100, 0, 650], 2],
      [9000, [0, 3839, 3840, 8000], 1],
      [1, [0], 1],
    ] as const) {
      const notes = starts.map((start, i) => note(`n${i}`, start));
      const project = withPart({ length, notes }, bars);
      const pattern = project.patterns[0]!;
      // Over many loops an early hit of the next loop stands in for the first one's.
      const events = playbackEvents(project, 3840 * bars, 7680 * bars, {
        pattern: pattern.id,
        all: true,
      });
      const early = starts.filter((s) => s < 0).length;
      expect(Math.abs(unfoldedNotes(project, pattern) - events.length)).toBeLessThanOrEqual(early);
    }
  });

  it("is refused as an edit, and when it is written, with the numbers", () => {
    const vast = withPart({ length: 1, notes: [note("n", 0)] }, 1024, {
      metre: { beats: 32, unit: 2 },
    });
    const started = performance.now();
    expect(patternTooLarge(vast, vast.patterns[0]!)).toContain("62,914,560 notes");
    expect(() => writeSmf(vast)).toThrow(RangeError);
    expect(performance.now() - started).toBeLessThan(5000);
    const fine = withPart({ length: 960, notes: [note("n", 0)] }, 1024, { metre: vast.metre });
    expect(limitProblem(fine, vast)).toContain("at most 1,000,000");
    // What is so already may be mended.
    expect(limitProblem(vast, { ...vast, name: "Other" })).toBeNull();
    expect(limitProblem(vast, fine)).toBeNull();
  });

  it("a song of 512 sections, 999 times each, plays window by window and is not written whole", () => {
    const project = withPart({ notes: [note("n", 0)] });
    const id = project.patterns[0]!.id;
    const song = Array.from({ length: 512 }, (_, i) => ({ id: `s${i}`, pattern: id, times: 999 }));
    const long = { ...project, song };
    expect(lineTooLong(long)).toMatch(/ticks long/);
    expect(() => writeSmf(long)).toThrow(/ticks long/);
    const at = 3840 * 400_000;
    for (let i = 0; i < 2000; i++) {
      const events = playbackEvents(long, at + i * 3840, at + (i + 1) * 3840);
      expect(events.map((event) => event.start - at)).toEqual([i * 3840]);
    }
  });
});

describe("a chain that would make more than it may", () => {
  const hits = Array.from({ length: 16 }, (_, i) => note(`n${i}`, i * 240, 240));

  it("is heard up to the card that would, and the card says so", () => {
    const project = withPart({ notes: hits, chain: steps("repeat", { times: 64 }, 4) }, 8);
    const heard = effectivePart(project, project.tracks[0]!, project.patterns[0]!.parts[0]!, {
      bars: 8,
    });
    expect(heard.stopped).toBe(2);
    expect(heard.notes).toHaveLength(16 * 64 * 64);
    expect(heard.effects[2]!.sentence).toBe(
      "It would make more than 200,000 notes: the chain is heard up to here",
    );
    expect(heard.effects[3]).toBeNull();
  });

  it("whatever multiplies notes stops before it makes them", () => {
    const long = [note("a", 0, LIMITS.ticks), note("b", 480, LIMITS.ticks)];
    const many = Array.from({ length: 20_000 }, (_, i) => note(`n${i}`, i * 120, 120));
    for (const [transform, params, notes] of [
      ["split", { way: "at grid lines", value: "128" }, long],
      ["split", { way: "in a rhythm", rhythm: "1", value: "128" }, long],
      ["split", { way: "into equal pieces", count: 64 }, many],
      ["roll", { count: 64 }, many],
      ["repeat", { times: 64 }, many],
      ["echo", { number: 16, decay: 0, unit: "ms", ms: 333 }, many],
      ["fill", { every: 1, value: "128" }, many],
      ["stutter", { first: "128", last: "128" }, many],
      ["arpeggiate", { value: "128", octaves: 5, mode: "chord" }, many],
    ] as const) {
      const chain = steps(transform, params, 1);
      const most = transform === "stutter" || transform === "arpeggiate" ? 20_000 : 200_000;
      const length = ["fill", "echo"].includes(transform) ? LIMITS.ticks : 3840;
      const result = applyChain(notes, chain, { most, length });
      expect([transform, result.stopped]).toEqual([transform, 0]);
      expect(result.notes).toBe(notes);
    }
  });

  it("cannot be set in the first place", () => {
    const one = withPart({ notes: hits, chain: steps("repeat", { times: 64 }, 2) }, 8);
    const three = withPart({ notes: hits, chain: steps("repeat", { times: 64 }, 3) }, 8);
    expect(limitProblem(one, three)).toContain("which is the limit");
    // One that is there already can be taken apart.
    expect(limitProblem(three, one)).toBeNull();
  });
});
