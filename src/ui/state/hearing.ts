import type { Ticks } from "@/core/base";
import type { AskedTransform } from "../geometry/pull-lines";
import type { ChordMark, KitShape, Note, PartAddress, Project } from "@/core/score";

/** Notes previewed in place of a part's own: heard and drawn, not written. */
export interface Preview {
  place: PartAddress;
  notes: readonly Note[];
  label: string;
  /** Loop length that is heard with it, where that is not the part's own. */
  length?: Ticks;
  /** Chords that stand in for the pattern's. */
  chords?: readonly ChordMark[];
  /** Parts of other tracks that are previewed along with it. */
  also?: readonly { place: PartAddress; notes: readonly Note[] }[];
}

/** A project as a transform would make it: heard and drawn as long as the project is the one it was made of. */
export interface Trial {
  of: Project;
  result: Project;
  /** What is being set. */
  asked?: AskedTransform;
}

/** What is heard, and drawn as heard, where that is not the project as it is. */
interface Hearing {
  playing: boolean;
  /** Tick of the pattern where playing starts. */
  playStart: number;
  /** Whether the metronome is heard. */
  click: boolean;
  preview: Preview | null;
  /** What a transform that is being set would do. */
  trial: Trial | null;
  /** A sound, or a kit with the shape of its pads, that a track is heard with before it is chosen. */
  soundPreview: { track: string; sound: string; kit?: KitShape } | null;
  /** Whether the current part is heard and drawn as it is without its chain, or without a trial where there is one. */
  bypassed: boolean;
  /** The project as it was kept, to be heard against what it is now; and whether it is heard. */
  keptBefore: Project;
  hearingBefore: boolean;
  /** What is heard of a recording behind the pattern and of the music: −1 only the one, 0 both, 1 only the other. */
  balance: number;
}

/** Playing, previewing and comparing, with their setters. */
export interface HearingSlice extends Hearing {
  setHearing(change: Partial<Omit<Hearing, "keptBefore">>): void;
  /** Keeps a state of the project as Before. */
  keepAsBefore(project: Project): void;
}

/** Silence at first, with Before as the project was opened. */
export const hearingSlice = (
  project: Project,
  set: (change: Partial<Hearing>) => void,
): HearingSlice => ({
  playing: false,
  playStart: 0,
  click: false,
  preview: null,
  trial: null,
  soundPreview: null,
  bypassed: false,
  keptBefore: project,
  hearingBefore: false,
  balance: 0,

  setHearing: set,
  keepAsBefore: (keptBefore) => set({ keptBefore, hearingBefore: false }),
});
