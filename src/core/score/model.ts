import type { Params } from "../params";
import {
  type Bpm,
  type Decibels,
  type MidiPitch,
  type Pan,
  type Seconds,
  type Semitones,
  type Ticks,
  type Velocity,
} from "../base";
import type { Grid, Metre } from "../time";
import type { Key } from "../pitch";
import type { Mix, SendEffects, Shaping } from "../sound";
import type { Condition } from "./condition";
import type { Colour } from "./colours";
import type { KitShape, SampleRef } from "./kit-shape";

/**
 * A hit or a note. Times in ticks from the start of its part; `start` may be negative by up to
 * half a quarter (an early hit on the first step). `pan` −1 left … 1 right; `tune` in semitones,
 * heard on drums; `slide` means it glides into the next note.
 */
export interface Note {
  id: string;
  start: Ticks;
  length: Ticks;
  pitch: MidiPitch;
  velocity: Velocity;
  pan: Pan;
  tune: Semitones;
  slide: boolean;
  /** MIDI channel 1–16 of its own; left out for the track's. */
  channel?: number;
  /** A rhythm tapped, its pitch not chosen yet: `pitch` is what it sounds at meanwhile. */
  unpitched?: true;
  /** In how many of a hundred loops it sounds, 1–99; left out where it always does. */
  chance?: number;
  /** In which loops it sounds at all; left out for every one. */
  when?: Condition;
}

/**
 * A chord of a pattern's chord line. It holds from `start` (ticks of the pattern) to the next one;
 * an empty name is a rest. `inversion` counts the tones moved up an octave.
 */
export interface ChordMark {
  id: string;
  start: Ticks;
  name: string;
  inversion: number;
  spread: Spread;
}

/** How far the tones of a chord lie apart. */
export const SPREADS = ["close", "open", "wide"] as const;
export type Spread = (typeof SPREADS)[number];

/** What a part's notes were generated with, so that it can be changed later. */
export interface Generated {
  kind: "line" | "drums";
  seed: number;
  settings: Readonly<Record<string, unknown>>;
}

/**
 * A transform not yet written into the notes. `scope` lists the notes it works on (what earlier
 * steps made of them is included), or is null for the whole part.
 */
export interface ChainStep {
  id: string;
  transform: string;
  on: boolean;
  params: Params;
  scope: string[] | null;
  /** Works on the hits of this pad alone, those put on later too; left out for no such limit. */
  lane?: number;
}

/** A point of a bend curve: at a tick of the part, −8192…8191 of the wheel (its ends two semitones). */
export interface BendPoint {
  tick: Ticks;
  value: number;
}

/** What one track plays in one pattern. It repeats when `length` (ticks) is below the pattern's. */
export interface Part {
  track: string;
  length: Ticks;
  grid: Grid;
  notes: readonly Note[];
  chain: readonly ChainStep[];
  /** Left out where the notes were not generated. */
  generated?: Generated;
  /** Pitch bend of a melodic part, in order of time, straight between its points; left out where there is none. */
  bend?: readonly BendPoint[];
}

/** One row of a drum track; `pitch` says which pad. `steps` is its own loop length in its own grid, or null. */
export interface Lane {
  id: string;
  name: string;
  pitch: MidiPitch;
  grid: Grid;
  steps: number | null;
  mute: boolean;
  solo: boolean;
}

/** `level` in dB (−60 is silent, up to +6), `pan` −1…1. Melodic tracks have no lanes. */
export interface Track {
  id: string;
  kind: "drums" | "melody";
  name: string;
  sound: string;
  level: Decibels;
  pan: Pan;
  mute: boolean;
  solo: boolean;
  lanes: readonly Lane[];
  /** How the kit and its pads are shaped; left out while nothing is. Drums only. */
  kit?: KitShape;
  /** How the sound is shaped; left out while it is plain. Melodic tracks only. */
  shaping?: Shaping;
  /** What the track goes through, and where to; left out while it goes through as it is. */
  mix?: Mix;
}

/**
 * A recording that a pattern was made from: it sounds behind the pattern on wish, to compare by ear, and is no part
 * of the music. `first` is when its first bar begins, in seconds.
 */
export interface Recording {
  sample: SampleRef;
  tempo: Bpm;
  first: Seconds;
}

/** An idea that was starred: kept with the pattern, not part of the music. */
export interface Starred {
  /** The track it is for; null for one of the chord line. */
  track: string | null;
  seed: number;
  notes: readonly Note[];
  /** What it is, in a sentence. */
  says?: string;
  /** Of one of the chord line. */
  chords?: readonly ChordMark[];
  /** What it was generated with. */
  generated?: Generated;
}

/** A stretch of music of so many bars that all tracks play together: one part for each track. */
export interface Pattern {
  id: string;
  name: string;
  bars: number;
  /** What it is known by in the list and in the song; left out while it has none. */
  colour?: Colour;
  /** A metre of its own; left out for the project's. */
  metre?: Metre;
  /** The chord line, in order of time; left out while there is none. */
  chords?: readonly ChordMark[];
  /** What it was made from, to compare with; left out where there is none. */
  recording?: Recording;
  /** Ideas that were starred, in that order; left out while there are none. */
  stars?: readonly Starred[];
  parts: readonly Part[];
}

/** A section of the song: one pattern, played `times` times. What is plain is left out. */
export interface SongEntry {
  id: string;
  pattern: string;
  times: number;
  name?: string;
  /** So many bars are played in place of whole loops. */
  bars?: number;
  /** Begins so many bars into its pattern. */
  skip?: number;
  /** A tempo of its own. */
  tempo?: Bpm;
  /** Tracks that are silent in it. */
  mutes?: readonly string[];
  /** Stands in for its pattern's chord line. */
  chords?: readonly ChordMark[];
  /** Goes on with the section before it, of the same pattern: loops are counted on, as if the two were one. */
  continues?: true;
}

/** `tempo` in quarter notes per minute. The whole is immutable data: edits return a new one. */
export interface Project {
  name: string;
  tempo: Bpm;
  metre: Metre;
  key: Key;
  tracks: readonly Track[];
  patterns: readonly Pattern[];
  song: readonly SongEntry[];
  /** What hits with a chance are drawn from; left out for 0. */
  seed?: number;
  /** Reverb, echo and level of the whole; left out while they are plain. */
  room?: SendEffects;
}

/** What bounds every project, from whatever source. */
export const LIMITS = {
  name: 80,
  tempo: { min: 20, max: 400 },
  bars: 1024,
  tracks: 64,
  lanes: 64,
  patterns: 128,
  song: 512,
  times: 999,
  seed: 2 ** 31 - 1,
  notesPerPart: 100_000,
  chain: 32,
  chords: 512,
  bend: 20_000,
  ticks: 100_000_000,
  /** Notes that one round of a pattern may play, its loops unfolded. */
  unfolded: 1_000_000,
  /** Notes and ticks of what is written as a line of events; a Standard MIDI File counts 28 bits. */
  written: 1_000_000,
  songTicks: 0x0fffffff,
  /** Starred ideas of a pattern, and the notes of each. */
  stars: 64,
  starNotes: 8192,
  /** Seconds of a recording. */
  recording: 600,
  level: { min: -60, max: 6 },
  tune: { min: -48, max: 48 },
  steps: 256,
} as const;

/** Order in which parts keep their notes: by start, then pitch, then id. */
export function compareNotes(a: Note, b: Note): number {
  return a.start - b.start || a.pitch - b.pitch || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}

/** Sorted copy; the same array when it already is in order. */
export function sortNotes(notes: readonly Note[]): readonly Note[] {
  let before: Note | null = null;
  for (const note of notes) {
    if (before && compareNotes(before, note) > 0) return [...notes].sort(compareNotes);
    before = note;
  }
  return notes;
}

/** Chords in order of time, one at most at each start: of two, the later in the list. */
export function sortChords(chords: readonly ChordMark[]): readonly ChordMark[] {
  const byStart = new Map(chords.map((chord) => [chord.start, chord]));
  return [...byStart.values()].sort((a, b) => a.start - b.start);
}

/** The id of the note that a transform's piece came from (`n4~2` came from `n4`). */
export function rootId(id: string): string {
  const at = id.indexOf("~");
  return at < 0 ? id : id.slice(0, at);
}

/** Between a note's own id and that of the hit it is drawn with, where it has a chance: `x9^n4` sounds where `n4` does. */
const DRAWN_WITH = "^";
/** Ids are no longer than this. */
const ID_LENGTH = 64;

/** What a hit with a chance is drawn by: all pieces of one hit by the same. */
export function drawId(id: string): string {
  const root = rootId(id);
  return root.slice(root.indexOf(DRAWN_WITH) + 1);
}

/** An id for a note that is to sound where another one does, by chance. */
export const drawnWith = (id: string, other: string): string =>
  `${id}${DRAWN_WITH}${drawId(other)}`.slice(0, ID_LENGTH);
