import { degreeOf, degreePitch, pitchName } from "../pitch/scales";
import { counted, defineTransform, foldPitch, param, params } from "./kit";
import type { MidiPitch } from "../units";

const AXES = ["the middle of the notes", "a pitch"] as const;

/**
 * `pitch' = hi + lo − pitch`, or about a chosen pitch; in the key the same is done on degree
 * numbers, and notes outside it keep their distance to the degree below. Twice gives the notes of
 * the key back. On drums it turns the tunes of the hits about.
 */
export const invert = defineTransform({
  label: "Invert",
  about: "Turns the line upside down, by semitones or in the key",
  schema: params({
    inKey: param.flag("In the key"),
    axis: param.choice("About", AXES),
    pitch: param.whole("Pitch", 0, 127, { when: { param: "axis", is: ["a pitch"] } }),
  }),
  defaults: { inKey: true, axis: "the middle of the notes" as string, pitch: 60 },
  run(selected, p, context) {
    if (context.kind === "drums") {
      // A pad is no height; what goes up and down on drums is their tune.
      const tunes = selected.map((note) => note.tune);
      const low = tunes.reduce((a, b) => Math.min(a, b), 48);
      const high = tunes.reduce((a, b) => Math.max(a, b), -48);
      const sum = low + high;
      return {
        replaced: selected.map((note) => ({ ...note, tune: sum - note.tune })),
        sentence: (c) => `${counted(c.changed, context)} of ${selected.length} tuned the other way`,
      };
    }
    const about = p.axis === "a pitch" ? p.pitch : null;
    const pitches = selected.map((note) => note.pitch);
    const low = about ?? pitches.reduce((a, b) => Math.min(a, b), 127);
    const high = about ?? pitches.reduce((a, b) => Math.max(a, b), 0);
    const { key } = context;
    const degrees = degreeOf(key, low).degree + degreeOf(key, high).degree;
    const mirrored = (pitch: MidiPitch) => {
      if (!p.inKey) return low + high - pitch;
      const { degree, above } = degreeOf(key, pitch);
      return degreePitch(key, degrees - degree) + above;
    };
    return {
      replaced: selected.map((note) => ({ ...note, pitch: foldPitch(mirrored(note.pitch)) })),
      sentence: (c) =>
        selected.length === 0
          ? "Nothing to invert"
          : `${counted(c.moved, context)} of ${selected.length} mirrored ${about === null ? `between ${pitchName(low)} and ${pitchName(high)}` : `about ${pitchName(about)}`}`,
    };
  },
});
