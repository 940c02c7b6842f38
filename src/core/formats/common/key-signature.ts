import { type Key, scaleSemitones } from "../../pitch";

/** Sharps (+) or flats (−) of the key signature nearest to a key: by its third major or minor. */
export function signatureOf(key: Key): { fifths: number; minor: boolean } {
  const semitones = scaleSemitones(key.scale);
  const minor = semitones.includes(3) && !semitones.includes(4);
  const major = (key.root + (minor ? 3 : 0)) % 12;
  const fifths = (major * 7) % 12;
  return { fifths: fifths > 6 ? fifths - 12 : fifths, minor };
}
