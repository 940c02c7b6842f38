import type { Ticks } from "@/core/base";

/** A stretch of a line that is played over and over, in ticks. */
export type LoopRange = readonly [from: Ticks, to: Ticks];

/** What plays: the current pattern, or the song; and where in the song the hand is. */
interface Arranging {
  plays: "pattern" | "song";
  /** Whether the sheet stays on what is edited while other patterns play. */
  stay: boolean;
  /** Whether the song strip is open, or one line. */
  songOpen: boolean;
  /** The current section, and all that are selected, of which some may be gone. */
  section: string | null;
  sections: ReadonlySet<string>;
  /** Tick of the song where playing it starts. */
  songStart: Ticks;
  /** What is looped of the song, and of one of its patterns; null for all of it. */
  songLoop: LoopRange | null;
  patternLoop: { pattern: string; range: LoopRange } | null;
}

/** The song under the hand, with its setter. */
export interface ArrangingSlice extends Arranging {
  setArranging(change: Partial<Arranging>): void;
}

/** The pattern plays at first; no section is current. */
export const arrangingSlice = (set: (change: Partial<Arranging>) => void): ArrangingSlice => ({
  plays: "pattern",
  stay: false,
  songOpen: false,
  section: null,
  sections: new Set(),
  songStart: 0,
  songLoop: null,
  patternLoop: null,

  setArranging: set,
});
