import { type MidiPitch, nth } from "../../base";
import { padName } from "../../pitch";
import type { Lane } from "../../score";

/** Where a pad is written on five lines, as if with a treble clef, and its head. Common practice. */
export interface StaffPosition {
  step: string;
  octave: number;
  head: "normal" | "x" | "circle-x" | "diamond";
}

const at = (name: string, head: StaffPosition["head"] = "normal"): StaffPosition => ({
  step: name[0]!,
  octave: Number(name.slice(1)),
  head,
});

const PLACES: Readonly<Record<number, StaffPosition>> = {
  35: at("F4"),
  36: at("F4"),
  37: at("C5", "x"),
  38: at("C5"),
  39: at("C5", "diamond"),
  40: at("C5"),
  41: at("A4"),
  42: at("G5", "x"),
  43: at("A4"),
  44: at("D4", "x"),
  45: at("B4"),
  46: at("G5", "circle-x"),
  47: at("D5"),
  48: at("D5"),
  49: at("A5", "x"),
  50: at("E5"),
  51: at("F5", "x"),
  52: at("B5", "x"),
  53: at("F5", "diamond"),
  55: at("B5", "x"),
  56: at("E5", "x"),
  57: at("A5", "x"),
  59: at("F5", "x"),
};
/** Other pads, one after another. */
const OTHERS = ["E4", "G4", "B4", "D5", "E5", "C6"].map((name) => at(name, "diamond"));

/** A pad of a kit in a score. */
export interface Drum {
  pitch: MidiPitch;
  name: string;
  place: StaffPosition;
}

/** The pads in use with their places, no two of one place and head alike. */
export function drumsOf(pitches: readonly MidiPitch[], lanes: readonly Lane[]): Drum[] {
  let other = 0;
  return [...pitches]
    .sort((a, b) => a - b)
    .map((pitch) => ({
      pitch,
      name: lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch),
      place: PLACES[pitch] ?? nth(OTHERS, other++ % OTHERS.length),
    }));
}

/** What stands for what, in words: “Kick F4, Closed hat G5 ×”. */
export const legend = (drums: readonly Drum[]): string =>
  drums
    .map(({ name, place: { step, octave, head } }) => {
      const mark = { normal: "", x: " ×", "circle-x": " ⊗", diamond: " ◇" }[head];
      return `${name} ${step}${octave}${mark}`;
    })
    .join(", ");
