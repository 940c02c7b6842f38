import { describe, expect, it } from "vitest";
import { chordClasses, parseChord, scalePitches } from "../pitch";
import { chordSpans } from "../score";
import { parseProject } from "../stored";
import { DRUM_STYLES } from "./drums/styles/registry";
import { STARTS, startOf, type StartOptions } from "./start";

const options = (more: Partial<StartOptions>): StartOptions => ({
  start: "band",
  name: "Ferry Steps",
  tempo: 96,
  kit: { id: "foghorn", label: "Foghorn kit" },
  style: "straight",
  seed: 1,
  ...more,
});

describe("what a project begins with", () => {
  it("is a project that may be stored, the same from the same wish", () => {
    for (const start of STARTS)
      for (const { id: style } of DRUM_STYLES)
        for (let seed = 0; seed < 20; seed++) {
          const made = startOf(options({ start, style, seed }));
          expect(parseProject(JSON.parse(JSON.stringify(made)))).toEqual(made);
          expect(startOf(options({ start, style, seed }))).toEqual(made);
          expect([made.name, made.tempo, made.tracks[0]!.sound]).toEqual([
            "Ferry Steps",
            96,
            "foghorn",
          ]);
          const filled = made.patterns[0]!.parts.filter(({ notes }) => notes.length > 0).length;
          expect(filled).toBe({ empty: 0, beat: 1, band: 3 }[start]);
        }
  });

  it("has a beat in all its bars, and other ones from other seeds", () => {
    const beats = Array.from({ length: 40 }, (_, seed) => startOf(options({ seed })).patterns[0]!);
    for (const { bars, parts } of beats)
      for (let bar = 0; bar < bars; bar++)
        expect(parts[0]!.notes.some(({ start }) => Math.floor(start / 3840) === bar)).toBe(true);
    expect(new Set(beats.map(({ parts }) => JSON.stringify(parts[0]!.notes))).size).toBeGreaterThan(
      30,
    );
  });

  it("has chords of its key, a bass on their roots where they change, and nothing out of the scale", () => {
    let [onRoot, changes, outside] = [0, 0, 0];
    for (let seed = 0; seed < 200; seed++) {
      const project = startOf(options({ seed }));
      const pattern = project.patterns[0]!;
      const of = (track: string) => pattern.parts.find((part) => part.track === track)!.notes;
      const scale = new Set(scalePitches(project.key, 0, 127));
      for (const { mark, from, to } of chordSpans(project, pattern)) {
        const classes = chordClasses(parseChord(mark.name)!);
        const held = of("keys").filter(({ start }) => start >= from && start < to);
        expect(held.length).toBeGreaterThan(2);
        expect(held.every(({ pitch }) => classes.has(pitch % 12))).toBe(true);
        // A dominant of a minor key has its leading note, which the scale has not.
        const low = of("bass").filter(({ start }) => start >= from && start < to);
        for (const { pitch } of low) {
          expect(pitch >= 36 && pitch <= 55).toBe(true);
          if (!scale.has(pitch) && !classes.has(pitch % 12)) outside++;
        }
        const first = of("bass").find(({ start }) => start >= from && start < to);
        changes++;
        if (first && first.pitch % 12 === [...classes][0]) onRoot++;
      }
    }
    expect(outside).toBe(0);
    // By chance one of seven tones of the scale.
    expect(onRoot / changes).toBeGreaterThan(0.7);
  });

  it("refuses a seed that is none", () => {
    expect(() => startOf(options({ seed: -1 }))).toThrow(RangeError);
  });
});
