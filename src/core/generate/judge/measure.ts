import type { Metre } from "../../time";
import type { Key } from "../../pitch";
import type { ChordMark, Note } from "../../score";

/** A share 0–1 as it is read. */
export const percent = (x: number): string => `${Math.round(100 * x)} %`;

/** A line or beat to be measured. */
export interface Measured {
  notes: readonly Note[];
  bars: number;
  metre: Metre;
  /** Of a line of chords, with the key it is in. */
  chords?: readonly ChordMark[];
  key?: Key;
}

/** Something that tells one idea from another. */
export interface Measure {
  id: string;
  label: string;
  of(what: Measured): number;
  text(value: number): string;
  /** Only of lines: beats have no intervals. */
  line?: boolean;
}
