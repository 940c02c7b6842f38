import type { ChordMark, Generated, PartAddress } from "@/core/score";
import { type Idea, NO_TASTE, type Taste } from "@/core/generate";

/** Rhythms that come from no track: what was tapped, and a groove. No track has such an id. */
export const TAPS = ":taps";
export const A_GROOVE = ":groove";

/** What ideas for a line or for drums are generated with. */
export interface Settings {
  /** A melody, a bass, a pad or stabs. */
  role: string;
  /** Of a bass: how often it steps into the next root. */
  approach: number;
  /** Of a bass: how many of these steps come by a semitone. */
  chromatic: number;
  /**
   * How the rhythm goes with another, empty for not at all, and with which: a track's id, `track pitch` for a lane,
   * `TAPS` or `A_GROOVE`.
   */
  how: string;
  source: string;
  /** The rhythm that was tapped, in ticks from the first bar; the groove, as a text. */
  taps: number[];
  groove: string;
  low: number;
  high: number;
  pool: string;
  density: number;
  rests: number;
  weights: number[];
  leap: number;
  repetition: number;
  form: string;
  /** Of a line of phrases: bars of each, contour, where its climax is, and how strictly beats have chord tones. */
  phraseBars: number;
  contour: string;
  drawn: number[];
  climax: number;
  strict: number;
  pickup: boolean;
  startOn: string;
  endOn: string;
  softest: number;
  loudest: number;
  shape: string;
  voices: number;
  /** Of drums: a way of playing by its id; an empty one for hits by chance. */
  style: string;
  syncopation: number;
  spread: number;
  /** Beats at the end that are a fill. */
  fill: number;
  allLanes: boolean;
  seed: number;
}

/** What of the current notes stays when ideas are generated. */
export interface Keep {
  rhythm: boolean;
  pitches: boolean;
  contour: boolean;
  /** All but the selected notes, or those that were when ideas were last asked for: a preview lets go of the selection. */
  unselected: boolean;
  chosen: readonly string[];
  /** Bars from 0. */
  bars: number[];
}

/** What lines of chords are made with. */
export interface ChordSettings {
  /** Empty for one that suits the round. */
  rate: string;
  end: string;
  sevenths: string;
  /** Bars of a round, which comes again over the pattern; 0 for as long as that is. */
  round: number;
  /** Whether the chords are written as held notes too. */
  asNotes: boolean;
  /** Bars from 0 whose chords stay. */
  keepBars: number[];
  seed: number;
}

/** An idea on a sheet: of a line, of drums, or of chords; one that was kept knows what it was made with. */
export interface SheetIdea extends Idea {
  chords?: readonly ChordMark[];
  generated?: Generated;
}

/** Ideas were generated anew, with these settings. */
interface Generating {
  kind: "line" | "drums";
  settings: Settings;
  /** Of drums: the pitches of the lanes that were asked for. */
  lanes?: ReadonlySet<number>;
}

/** Ideas for the chord line, heard on a track. */
interface Chording {
  kind: "chords";
}

/** Ideas have two parents on a sheet of that kind. */
interface Breeding {
  kind: "children";
  of: "line" | "drums";
}

/** Ideas are variations of what is there: of all of it, or of one lane. */
interface Varying {
  kind: "vary";
  lane: number | null;
  /** Ids of the notes that alone are varied; null for all. */
  ids: readonly string[] | null;
}

/** How far variations go, in changes for each hundred notes, and what stays. */
export interface VarySettings {
  distance: number;
  keepStrong: boolean;
  oneLane: boolean;
  seed: number;
}

/** Kinds of ideas, each with a taste of its own. */
export type TasteKind = "line" | "drums" | "chords";

/** A sheet of ideas to choose from: what is applied goes into the project, the rest is not saved. */
export interface Ideas {
  /** What the list was generated for. */
  of: (PartAddress & (Generating | Varying | Chording | Breeding)) | null;
  list: readonly SheetIdea[];
  /** What ideas are asked for: the current part, or the chord line. */
  aim: "part" | "chords";
  chords: ChordSettings;
  /** What was starred and dropped in this session, of lines, of drums and of lines of chords. */
  taste: Readonly<Record<TasteKind, Taste>>;
  /** What the sheet is sorted by, one of `MEASURES`; empty for as ideas came. */
  sort: string;
  generating: boolean;
  wrong: string;
  /** Wishes that could not be met as they are, and what was done in their place. */
  gave: readonly string[];
  /** Settings by `pattern track`. */
  settings: Readonly<Record<string, Settings>>;
  keep: Keep;
  vary: VarySettings;
  /** The idea that stays previewed when the pointer leaves. */
  held: SheetIdea | null;
}

/** The sheet of ideas, with its setter. */
export interface IdeasSlice {
  ideas: Ideas;
  setIdeas(change: Partial<Ideas>): void;
}

export const NOTHING_KEPT: Keep = {
  rhythm: false,
  pitches: false,
  contour: false,
  unselected: false,
  chosen: [],
  bars: [],
};

/** Variations go so far until one says otherwise. */
export const USUAL_VARY: VarySettings = { distance: 25, keepStrong: true, oneLane: false, seed: 1 };

/** No ideas at first. */
export const ideasSlice = (
  set: (change: Pick<IdeasSlice, "ideas">) => void,
  get: () => Pick<IdeasSlice, "ideas">,
): IdeasSlice => ({
  ideas: {
    of: null,
    list: [],
    aim: "part",
    chords: {
      rate: "",
      end: "leads back",
      sevenths: "none",
      round: 4,
      asNotes: false,
      keepBars: [],
      seed: 1,
    },
    taste: { line: NO_TASTE, drums: NO_TASTE, chords: NO_TASTE },
    sort: "",
    generating: false,
    wrong: "",
    gave: [],
    settings: {},
    keep: NOTHING_KEPT,
    vary: USUAL_VARY,
    held: null,
  },

  setIdeas: (change) => set({ ideas: { ...get().ideas, ...change } }),
});
