import { type MidiPitch, nth } from "../base";
import { type Key, degreeOf, degreePitch, inKey, pitchName } from "../pitch";
import { param, params } from "../params";
import { counted, defineTransform, foldPitch } from "./kit";

const AXES = ["the middle of the notes", "a pitch"] as const;

/**
 * `pitch' = hi + lo − pitch`, or about a chosen pitch; in the key the same is done on degree
 * numbers, and the pitches outside it are mirrored among themselves. Twice gives all notes back that
 * stay in range. On drums it turns the tunes of the hits about.
 */
export const invert = defineTransform({
  label: "Invert",
  family: "line",
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
        sentence: (counts) =>
          `${counted(counts.changed, context)} of ${selected.length} tuned the other way`,
      };
    }
    const about = p.axis === "a pitch" ? p.pitch : null;
    const pitches = selected.map((note) => note.pitch);
    const low = about ?? pitches.reduce((a, b) => Math.min(a, b), 127);
    const high = about ?? pitches.reduce((a, b) => Math.max(a, b), 0);
    const mirror = p.inKey ? mirrorInKey(context.key, pitches, about) : null;
    // The bounds it goes by: in a key the outermost of its own pitches.
    const ends = p.inKey ? extremes(settingMiddle(context.key, pitches)) : ([low, high] as const);
    const known: number[] = [];
    const mirrored = (pitch: MidiPitch) =>
      (known[pitch] ??= foldPitch(mirror ? mirror(pitch) : low + high - pitch));
    return {
      replaced: selected.map((note) => ({ ...note, pitch: mirrored(note.pitch) })),
      sentence: (counts) =>
        selected.length === 0
          ? "Nothing to invert"
          : `${counted(counts.moved, context)} of ${selected.length} mirrored ${about === null ? `between ${pitchName(ends[0])} and ${pitchName(ends[1])}` : `about ${pitchName(about)}`}`,
    };
  },
});

/**
 * A mirror that sends pitches of the key to pitches of it and all others to others, both about one axis,
 * so that twice is nothing. The axis is the chosen pitch, else the middle of the notes that are in the
 * key, or of all where none is.
 */
function mirrorInKey(key: Key, pitches: readonly MidiPitch[], about: MidiPitch | null) {
  const outside = outsideOf(key);
  const [low, high] = extremes(about !== null ? [about] : settingMiddle(key, pitches));
  const above = (pitch: MidiPitch) => degreeOf(key, pitch).degree + (inKey(key, pitch) ? 0 : 1);
  // The sums of mirrored degrees, and of mirrored numbers among the pitches outside the key.
  const degrees = degreeOf(key, low).degree + above(high);
  const others = inKey(key, low)
    ? outside.below(degreePitch(key, Math.floor(degrees / 2))) +
      outside.below(degreePitch(key, Math.ceil(degrees / 2))) -
      1
    : outside.below(low) + outside.below(high);
  return (pitch: MidiPitch) =>
    inKey(key, pitch)
      ? degreePitch(key, degrees - degreeOf(key, pitch).degree)
      : outside.at(others - outside.below(pitch));
}

/** The pitches outside a key, counted upward. */
function outsideOf(key: Key) {
  const steps = Array.from({ length: 12 }, (_, i) => i).filter((i) => !inKey(key, key.root + i));
  return {
    /** How many lie below a pitch, from the root near 0 on. */
    below(pitch: MidiPitch): number {
      const octave = Math.floor((pitch - key.root) / 12);
      const step = pitch - key.root - 12 * octave;
      return octave * steps.length + steps.filter((s) => s < step).length;
    },
    at(index: number): MidiPitch {
      const octave = Math.floor(index / steps.length);
      return key.root + 12 * octave + nth(steps, index - octave * steps.length);
    },
  };
}

/** The pitches whose middle notes are mirrored at: those of the key, or all where none is. */
function settingMiddle(key: Key, pitches: readonly MidiPitch[]): readonly MidiPitch[] {
  const inside = pitches.filter((pitch) => inKey(key, pitch));
  return inside.length > 0 ? inside : pitches;
}

const extremes = (pitches: readonly MidiPitch[]): readonly [low: MidiPitch, high: MidiPitch] => [
  pitches.reduce((a, b) => Math.min(a, b), 127),
  pitches.reduce((a, b) => Math.max(a, b), 0),
];
