import type { MidiPitch, Ticks } from "../base";
import { type Params } from "../params";
import { type Note, makeNote, sortNotes } from "../score";
import { type ExampleNote, type Family, type TransformContext, evenly } from "./kit";
import { transformOf } from "./registry";

/** What a transform does, in little: some notes as they are, and what becomes of them. */
export interface TransformSketch {
  /** Notes that are not there afterwards, or lie elsewhere. */
  before: readonly SketchedNote[];
  after: readonly SketchedNote[];
}

/** A note in little: where it lies from left (0) to right (1) and from top (0) to bottom (1). */
export interface SketchedNote {
  x: number;
  /** How far its tail reaches, as `x`. */
  end: number;
  y: number;
  velocity: number;
}

/** The notes that a sketch is made on, and where they lie. */
export interface SketchedOn {
  notes: readonly Note[];
  context: Partial<TransformContext>;
  /** Values that it would begin with. */
  params: Params;
}

/** More than this cannot be told apart in little. */
const MOST = 40;
/** Ticks that are seen at least. */
const LEAST = 480;

const BAR = 3840;
const triad = (start: Ticks, length: Ticks, ...pitches: MidiPitch[]): ExampleNote[] =>
  pitches.map((pitch) => [start, length, pitch, 96] as const);

/** What the transforms of each family are shown on where nothing is selected. */
const EXAMPLES: Readonly<Record<Family, readonly ExampleNote[]>> = {
  rhythm: evenly(480, 110, 70, 96, 70, 110, 70, 96, 70),
  feel: evenly(480, 100, 100, 100, 100, 100, 100, 100, 100),
  chords: [...triad(0, 1800, 60, 64, 67), ...triad(1920, 1800, 62, 65, 69)],
  line: [
    [0, 480, 60, 96],
    [960, 360, 64, 96],
    [1440, 480, 67, 96],
    [2400, 360, 65, 96],
    [2880, 480, 62, 96],
  ],
};

const lasting = ([start, length, pitch, velocity]: ExampleNote, i: number): Note =>
  makeNote({ id: `s${i}`, start, length, pitch, velocity });

/** What a transform is shown on where nothing is selected, with the values that show it. */
export function exampleOf(id: string): SketchedOn {
  const { family, example = {}, defaults, starts } = transformOf(id);
  const notes = (example.notes ?? EXAMPLES[family]).map(lasting);
  const melodic = family === "chords" || family === "line";
  return {
    notes,
    params: { ...defaults, ...starts, ...example.params },
    context: {
      kind: melodic ? "melody" : "drums",
      // What moves by milliseconds is to be seen.
      tempo: 240,
      length: BAR,
      patternLength: BAR,
      ...example.context,
    },
  };
}

/**
 * What a transform makes of notes, or of its example where there are none, or it cannot be shown on them. With the
 * values given; where those change nothing, with those of its example.
 */
export function sketchOf(id: string, on: SketchedOn | null = null): TransformSketch {
  const { apply, example } = transformOf(id);
  const shown = on ?? exampleOf(id);
  const notes = sortNotes(shown.notes).slice(0, MOST);
  const made = (params: Params) => {
    try {
      return apply(notes, params, { ...shown.context, most: 400 });
    } catch (error) {
      if (error instanceof RangeError) return null;
      throw error;
    }
  };
  let result = made(shown.params);
  const idle =
    !result || Object.values(result.effect).every((count) => !count || typeof count === "string");
  if (on && idle && example?.params) result = made({ ...shown.params, ...example.params });
  if (!result) return on ? sketchOf(id) : framed(notes, notes);
  return framed(notes, result.notes);
}

function framed(before: readonly Note[], after: readonly Note[]): TransformSketch {
  const placeOf = (note: Note) => `${note.start} ${note.pitch} ${note.length}`;
  const there = new Set(after.map(placeOf));
  const all = [...before, ...after];
  const from = Math.min(...all.map((note) => note.start));
  const to = Math.max(from + LEAST, ...all.map((note) => note.start + note.length));
  // Where all are of one pitch, height tells what is left and right.
  const drums = new Set(all.map((note) => note.pitch)).size < 2;
  const heights = all.map((note) => (drums ? note.pan : note.pitch));
  const [low, high] = [Math.min(...heights), Math.max(...heights)];
  const inLittle = (note: Note): SketchedNote => ({
    x: (note.start - from) / (to - from),
    end: (note.start + note.length - from) / (to - from),
    y: high === low ? 0.5 : (high - (drums ? note.pan : note.pitch)) / (high - low),
    velocity: note.velocity,
  });
  return {
    before: before.filter((note) => !there.has(placeOf(note))).map(inLittle),
    after: sortNotes(after).map(inLittle),
  };
}
