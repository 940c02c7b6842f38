import { type Semitones, clamp, nth } from "../base";
import { degreeOf, degreePitch } from "../pitch";
import { param, params } from "../params";
import { counted, defineTransform, foldPitch } from "./kit";

/**
 * Moves pitches by semitones, octaves and degrees of the key; notes outside the key keep their
 * distance to the degree below. On drums it changes the tune of each hit, not its pad. A note
 * that would leave 0–127 stays in the nearest octave that holds it.
 */
export const transpose = defineTransform({
  label: "Transpose",
  family: "line",
  example: { params: { degrees: 2 } },
  about: "Moves the line up or down: semitones, degrees of the key, octaves",
  schema: params({
    semitones: param.whole("Semitones", -48, 48),
    degrees: param.whole("Degrees", -28, 28),
    octaves: param.whole("Octaves", -8, 8),
  }),
  defaults: { semitones: 0, degrees: 0, octaves: 0 },
  run(selected, { semitones, degrees, octaves }, context) {
    let folded = 0;
    const by = semitones + 12 * octaves;
    if (context.kind === "drums") {
      const tune = (t: number) => clamp(t + by, -48, 48);
      return {
        replaced: selected.map((note) => ({ ...note, tune: tune(note.tune) })),
        sentence: (counts) =>
          `${counted(counts.changed, context)} tuned by ${signed(by)} semitones`,
      };
    }
    const goesTo = Array.from({ length: 128 }, (_, pitch) => {
      const { degree, above } = degreeOf(context.key, pitch);
      return (degrees ? degreePitch(context.key, degree + degrees) + above : pitch) + by;
    });
    const replaced = selected.map((note) => {
      const wanted = nth(goesTo, note.pitch);
      const pitch = foldPitch(wanted);
      if (pitch !== wanted) folded++;
      return { ...note, pitch };
    });
    return {
      replaced,
      sentence: (counts) =>
        `${counted(counts.moved, context)} moved by ${describe(semitones, degrees, octaves)}` +
        (folded ? `, ${folded} held inside the range` : ""),
    };
  },
});

const signed = (n: number) => (n > 0 ? `+${n}` : String(n));

function describe(semitones: Semitones, degrees: number, octaves: number): string {
  const parts = [
    [octaves, "octave"],
    [degrees, "degree"],
    [semitones, "semitone"],
  ] as const;
  const words = parts
    .filter(([n]) => n !== 0)
    .map(([n, word]) => `${signed(n)} ${word}${Math.abs(n) === 1 ? "" : "s"}`);
  return words.join(", ") || "nothing";
}
