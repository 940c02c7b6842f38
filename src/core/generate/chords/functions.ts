import { type Key, chordOnDegree, parseChord, scaleSemitones } from "../../pitch";
import { nth } from "../../base";

/** What a chord does in its key: rests, leaves, or leads back (tonic, subdominant, dominant; common practice). */
export type Harmony = "tonic" | "subdominant" | "dominant";

/** A chord that a key has, by its degree. */
export interface DegreeChord {
  /** From 1. */
  degree: number;
  /** As chords are named, with the seventh where it is asked for. */
  name: string;
  /** Its Roman numeral: small where the third is minor, ° where it is diminished. */
  numeral: string;
  does: Harmony;
  /** Whether its fifth is perfect. */
  perfect: boolean;
  /** How often it is met, next to the others (common practice). */
  weight: number;
}

export const SEVENTHS = ["none", "on the dominant", "on all"] as const;
export type Sevenths = (typeof SEVENTHS)[number];

const DOES: readonly Harmony[] = [
  "tonic",
  "subdominant",
  "tonic",
  "subdominant",
  "dominant",
  "tonic",
  "dominant",
];
const WEIGHTS = [3, 2, 0.7, 2.5, 3, 2, 0.8] as const;
const NUMERALS = ["I", "II", "III", "IV", "V", "VI", "VII"] as const;
/** Chords without a perfect fifth are met so much less. */
const IMPERFECT = 0.3;

/**
 * The key whose chords stand for those of a scale: the scale itself where its seven notes make chords of thirds, else
 * the major or minor scale nearest to it, by its third.
 */
export function harmonicKey(key: Key): Key {
  const degrees = [1, 2, 3, 4, 5, 6, 7];
  const own = degrees.filter((degree) => chordOnDegree(key, degree) !== null);
  if (own.length >= 6 && own.includes(1) && own.includes(5)) return key;
  const scale = scaleSemitones(key.scale);
  const minor = scale.includes(3) && !scale.includes(4);
  return { root: key.root, scale: minor ? "minor" : "major" };
}

/**
 * The chords of a key with what they do. In a minor key the dominant has the leading note, as in the harmonic minor
 * (common practice).
 */
export function degreeChords(key: Key, sevenths: Sevenths): DegreeChord[] {
  const raised: Key = { root: key.root, scale: "harmonic minor" };
  return NUMERALS.flatMap((roman, at) => {
    const degree = at + 1;
    const does = nth(DOES, at);
    const from = key.scale === "minor" && degree === 5 ? raised : key;
    const four = sevenths === "on all" || (sevenths === "on the dominant" && degree === 5);
    const triad = chordOnDegree(from, degree);
    if (triad === null) return [];
    const name = (four ? chordOnDegree(from, degree, 4) : null) ?? triad;
    const { tones } = parseChord(triad)!;
    const minor = tones.includes(3);
    const perfect = tones.includes(7);
    const sign = perfect ? "" : minor ? "°" : "+";
    const numeral = `${minor ? roman.toLowerCase() : roman}${sign}${name === triad ? "" : "7"}`;
    const weight = nth(WEIGHTS, at) * (perfect ? 1 : IMPERFECT);
    return [{ degree, name, numeral, does, perfect, weight }];
  });
}

/**
 * How readily one function goes to another: from the tonic anywhere, from the subdominant to the dominant, from there
 * home, never back (common practice).
 */
const GOES: Readonly<Record<Harmony, Readonly<Record<Harmony, number>>>> = {
  tonic: { tonic: 0.8, subdominant: 3, dominant: 2 },
  subdominant: { tonic: 0.5, subdominant: 0.5, dominant: 3 },
  dominant: { tonic: 4, subdominant: 0, dominant: 0.2 },
};

/** Whether functions may follow one another. */
export const mayFollow = (from: Harmony, to: Harmony): boolean => GOES[from][to] > 0;

/** How likely one chord is followed by another; 0 for itself and for what leads backwards. */
export function goesOn(from: DegreeChord, to: DegreeChord): number {
  if (from.degree === to.degree) return 0;
  let weight = GOES[from.does][to.does] * to.weight;
  // Roots a fifth down, a third down or a step up carry on; a third up within one function stands still.
  const down = (from.degree - to.degree + 7) % 7;
  if (down === 4) weight *= 1.6;
  else if (from.does === to.does && down === 5) weight *= 0.2;
  // From the subdominant home goes the fourth degree, not the second; from the fifth rarely to the third.
  if (from.does === "subdominant" && to.does === "tonic" && from.degree !== 4) weight = 0;
  if (from.does === "subdominant" && to.does === "tonic" && to.degree !== 1) weight = 0;
  if (from.degree === 5 && to.degree === 7) weight = 0;
  if (from.degree === 5 && to.degree === 3) weight *= 0.3;
  if (from.degree === 6 && to.degree === 5) weight *= 0.5;
  if (from.degree === 7 && to.degree === 6) weight *= 0.5;
  return weight;
}
