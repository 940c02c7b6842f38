import type { MidiPitch, Velocity } from "../../base";
import { inRange, oneOf, wholeIn } from "../../params";
import type { Note } from "../../score";
import type { Metre } from "../../time";
import type { Key } from "../../pitch";

/** What a line is for: a melody, a bass under chords, or the chords themselves, held or struck. */
export const ROLES = ["melody", "bass", "pad", "stabs"] as const;
export type Role = (typeof ROLES)[number];
export const FORMS = ["motif", "question and answer", "free"] as const;
export const VELOCITY_SHAPES = ["accents", "even", "rise", "fall", "arch"] as const;

/** A chord that holds for `[from, to)` ticks of the line: its pitch classes, the root first. */
export interface ChordStretch {
  from: number;
  to: number;
  classes: readonly number[];
  /** Pitch class of its bass, where that is not the root. */
  bass?: number;
}

/** The bars that are filled. */
export interface Bars {
  metre: Metre;
  /** Length in bars, 1–64. */
  bars: number;
}

/** The key, and the chords over the bars. */
export interface Harmony extends Bars {
  key: Key;
  /** The chord line; strong beats lean to its tones. Empty for the key's own chord all through. */
  chords: readonly ChordStretch[];
}

/** Lowest and highest MIDI pitch. */
export interface Register {
  low: MidiPitch;
  high: MidiPitch;
}

/** Velocity from … to, and its course. */
export interface Loudness {
  softest: Velocity;
  loudest: Velocity;
  shape: (typeof VELOCITY_SHAPES)[number];
}

/** How what was there comes again. */
export interface Returns {
  /** How often the motif (or the question) returns, 0–100 %. */
  repetition: number;
  /** `motif`: the first bar returns varied; `question and answer`: bars in pairs; `free`: nothing returns. */
  form: (typeof FORMS)[number];
}

/** What stays of notes that are there. */
export interface Locks {
  /** Keep this rhythm and ask only for pitches; null for new rhythms. */
  rhythm: readonly Pick<Note, "start" | "length" | "velocity">[] | null;
  /** Bars (from 0) that stay as they are in `kept`. */
  keepBars: readonly number[];
  kept: readonly Note[];
  /** Only these of the notes get other pitches (melody); all others stay. Null for a whole line. */
  only: { notes: readonly Note[]; ids: readonly string[] } | null;
  /** Vary this line by so much (1–100 %) instead of making one from nothing. */
  like: { notes: readonly Note[]; amount: number } | null;
}

export const commonDefaults = {
  key: { root: 0, scale: "minor" },
  metre: { beats: 4, unit: 4 },
  bars: 2,
  chords: [],
  low: 36,
  high: 60,
  softest: 70,
  loudest: 112,
  shape: "accents",
  repetition: 60,
  form: "motif",
  rhythm: null,
  keepBars: [],
  kept: [],
  only: null,
  like: null,
} satisfies Harmony & Register & Loudness & Returns & Locks;

/** What is checked of them by its range alone. */
export const commonShape = {
  bars: wholeIn(1, 64),
  low: wholeIn(0, 127),
  high: wholeIn(0, 127),
  repetition: inRange(0, 100),
  form: oneOf(FORMS),
  softest: wholeIn(1, 127),
  loudest: wholeIn(1, 127),
  shape: oneOf(VELOCITY_SHAPES),
};
