import { type MidiPitch, mustGet, nth } from "../base";
import { type Key, degreeOf, degreePitch, snapPitch } from "../pitch";

/** How keys lie: as a piano on one row or on two, as sixteen pads, or as rows of a scale. */
export const KEY_LAYOUTS = ["piano", "two-row piano", "pads", "scale rows"] as const;
export type KeyLayout = (typeof KEY_LAYOUTS)[number];

const letters = (text: string) => [...text].map((c) => (/\d/.test(c) ? `Digit${c}` : `Key${c}`));

/** Rows of the keyboard by place, the one nearest to the player first. */
const ROWS: readonly (readonly string[])[] = [
  letters("ZXCVBNM"),
  [...letters("ASDFGHJKL"), "Semicolon"],
  letters("QWERTYUIOP"),
  letters("1234567890"),
];

/** Places that are keys of a piano on one row and the row above, by semitones above the lowest. */
export const PIANO_PLACES: readonly string[] = [
  ...["KeyA", "KeyW", "KeyS", "KeyE", "KeyD", "KeyF", "KeyT", "KeyG", "KeyY"],
  ...["KeyH", "KeyU", "KeyJ", "KeyK", "KeyO", "KeyL", "KeyP", "Semicolon", "Quote"],
];
/** The same on two rows: an octave below, and above it more than one and a third. */
const TWO_ROWS: readonly string[] = [...letters("ZSXDCVGBHNJM"), ...letters("Q2W3ER5T6Y7UI9O0P")];
/** Sixteen pads, the first at the lower left (common practice). */
const PADS: readonly string[] = ROWS.flatMap((row) => row.slice(0, 4));

/** A key of a layout: where it is on the keyboard, and its number from the lowest. */
export interface KeyPlace {
  code: string;
  /** Row from the nearest, and place in it. */
  row: number;
  column: number;
  index: number;
}

const listed = (codes: readonly string[]): readonly KeyPlace[] =>
  codes.map((code, index) => {
    const row = Math.max(
      0,
      ROWS.findIndex((keys) => keys.includes(code)),
    );
    return { code, row, column: Math.max(0, nth(ROWS, row).indexOf(code)), index };
  });

const PLACES: Readonly<Record<KeyLayout, readonly KeyPlace[]>> = {
  piano: listed(PIANO_PLACES),
  "two-row piano": listed(TWO_ROWS),
  pads: listed(PADS),
  "scale rows": listed(ROWS.flat()),
};

/** The keys of a layout, from the lowest. */
export const keyPlaces = (layout: KeyLayout): readonly KeyPlace[] => PLACES[layout];

const byCode = new Map(
  KEY_LAYOUTS.map((layout) => [layout, new Map(PLACES[layout].map((p) => [p.code, p]))]),
);

/** The key of a layout at a place of the keyboard; undefined where there is none. */
export const keyAt = (layout: KeyLayout, code: string): KeyPlace | undefined =>
  mustGet(byCode, layout).get(code);

/** What the keys are tuned to. */
export interface KeyTuning {
  key: Key;
  /** MIDI pitch of the lowest key, a C. */
  low: MidiPitch;
  /** Degrees that each row of the scale lies above the one below it. */
  rowStep: number;
  /** Whether the piano is held to the scale. */
  inScale: boolean;
}

/** The pitch of a key; null where it would leave 0–127. */
export function keyPitch(
  layout: KeyLayout,
  place: Pick<KeyPlace, "row" | "column" | "index">,
  { key, low, rowStep, inScale }: KeyTuning,
): number | null {
  let pitch: number;
  if (layout === "scale rows" || layout === "pads") {
    // The lowest key is the first root at or above the low C.
    const first = degreeOf(key, low + ((((key.root - low) % 12) + 12) % 12)).degree;
    const up = layout === "pads" ? place.index : place.row * rowStep + place.column;
    pitch = degreePitch(key, first + up);
  } else {
    pitch = low + place.index;
    if (inScale) pitch = snapPitch(key, pitch);
  }
  return pitch >= 0 && pitch <= 127 ? pitch : null;
}
