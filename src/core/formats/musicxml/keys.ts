import { type Key, isScale } from "../../pitch";

/** A key signature as a score says it. */
export interface Signature {
  fifths: number;
  mode: string;
}

/** The church modes, which have names in MusicXML: how far the root of each lies above its signature's major. */
export const MODES: Readonly<Record<string, number>> = {
  major: 0,
  ionian: 0,
  dorian: 2,
  phrygian: 4,
  lydian: 5,
  mixolydian: 7,
  minor: 9,
  aeolian: 9,
  locrian: 11,
};

/** The key of a signature; C major where a score has none. */
export function keyOf(signature: Signature | null): Key {
  const { fifths, mode } = signature ?? { fifths: 0, mode: "major" };
  const major = (((fifths * 7) % 12) + 12) % 12;
  const scale = mode in MODES && isScale(mode) ? mode : "major";
  return { root: (major + MODES[scale]!) % 12, scale };
}
