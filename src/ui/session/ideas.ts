import type { Idea, Place } from "@/core";

/** What ideas for a line or for drums are generated with. */
export interface Settings {
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
  allLanes: boolean;
  seed: number;
}

/** What of the current notes stays when ideas are generated. */
export interface Keep {
  rhythm: boolean;
  pitches: boolean;
  /** Bars from 0. */
  bars: number[];
}

/** Ideas were generated anew, with these settings. */
interface Generating {
  kind: "line" | "drums";
  settings: Settings;
}

/** Ideas are variations of what is there: of all of it, or of one lane. */
interface Varying {
  kind: "vary";
  lane: number | null;
}

/** How far variations go, in changes for each hundred notes, and what stays. */
export interface VarySettings {
  distance: number;
  keepStrong: boolean;
  oneLane: boolean;
  seed: number;
}

/** A sheet of ideas to choose from: what is applied goes into the project, the rest is not saved. */
export interface Ideas {
  /** What the list was generated for. */
  of: (Place & (Generating | Varying)) | null;
  list: readonly Idea[];
  /** Ideas that stay when others are generated. */
  starred: readonly Idea[];
  generating: boolean;
  wrong: string;
  /** Settings by `pattern track`. */
  settings: Readonly<Record<string, Settings>>;
  keep: Keep;
  vary: VarySettings;
  /** The idea that stays previewed when the pointer leaves. */
  held: Idea | null;
}

/** The sheet of ideas, with its setter. */
export interface IdeasSlice {
  ideas: Ideas;
  setIdeas(change: Partial<Ideas>): void;
}

const NOTHING_KEPT: Keep = { rhythm: false, pitches: false, bars: [] };

/** No ideas at first. */
export const ideasSlice = (
  set: (change: Pick<IdeasSlice, "ideas">) => void,
  get: () => Pick<IdeasSlice, "ideas">,
): IdeasSlice => ({
  ideas: {
    of: null,
    list: [],
    starred: [],
    generating: false,
    wrong: "",
    settings: {},
    keep: NOTHING_KEPT,
    vary: { distance: 25, keepStrong: true, oneLane: false, seed: 1 },
    held: null,
  },

  setIdeas: (change) => set({ ideas: { ...get().ideas, ...change } }),
});
