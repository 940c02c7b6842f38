import type * as yup from "yup";
import { type Bpm, type MidiPitch, type Ticks, modulo } from "../base";
import {
  DEFAULT_GRID,
  type Grid,
  MAX_EARLY,
  type Metre,
  beatTicks,
  beatsInBar,
  lineAt,
  nearestLine,
  steppedGrid,
} from "../time";
import type { Key } from "../pitch";
import { type Problem, param, problemsOf, type Params } from "../params";
import { type BendPiece, type BendPoint, type Note, pitched, rearranged, rootId } from "../score";

/** What a transform may know of where the notes live. Everything has a default. */
export interface TransformContext {
  tempo: Bpm;
  metre: Metre;
  key: Key;
  kind: "drums" | "melody";
  /** Grid of the part. */
  grid: Grid;
  /** Grids of single drum lanes by pitch, where they differ. */
  laneGrids: Readonly<Record<number, Grid>>;
  /** Loop length of the part in ticks; null when there is none to keep to. */
  length: Ticks | null;
  /** Notes to work on, by id (pieces made of them included); null for all. */
  selection: ReadonlySet<string> | null;
  /** Selected stretch of time `[a, b)` in ticks; null to take it from the notes. */
  range: readonly [number, number] | null;
  /** Work on this pad alone, whatever hits it has; null for all. */
  lane: number | null;
  /** Loop lengths in ticks of drum lanes by pitch, where they have their own. */
  lanePeriods: Readonly<Record<number, number>>;
  /** Length of the whole pattern in ticks; null when there is none. */
  patternLength: Ticks | null;
  /** How many notes a step may make: before it makes more it throws `TooManyNotes`. */
  most: number;
  /** Bend curve of the part; empty where it has none. */
  bend: readonly BendPoint[];
  /** Starts of another track's part, ascending, or null: the timing a part can be pulled to. */
  timingOf(track: string): readonly number[] | null;
}

const DEFAULT_CONTEXT: TransformContext = {
  tempo: 120,
  metre: { beats: 4, unit: 4 },
  key: { root: 0, scale: "major" },
  kind: "melody",
  grid: DEFAULT_GRID,
  laneGrids: {},
  length: null,
  selection: null,
  range: null,
  lane: null,
  lanePeriods: {},
  patternLength: null,
  most: Infinity,
  bend: [],
  timingOf: () => null,
};

/** What a transform did: counts of notes, and one sentence with real numbers. */
export interface Effect {
  added: number;
  removed: number;
  /** Notes whose start or pitch changed. */
  moved: number;
  /** Notes of which anything else changed. */
  changed: number;
  sentence: string;
}

/** What a transform made of notes, and what it did. */
export interface TransformResult {
  notes: readonly Note[];
  effect: Effect;
  /** New loop length in ticks, where the transform changes it too. */
  length?: Ticks;
  /** New bend curve of the part, where the transform takes it along; empty for none. */
  bend?: readonly BendPoint[];
}

/** How a transform is pictured: applied to held notes, over a stretch of time. */
export interface TransformPicture {
  /** Pitches of the notes that are held. */
  pitches: readonly number[];
  /** How long they are held; a bar where it is left out. */
  held?: Ticks;
  /** Ticks that are seen, of a bar's ticks and of the notes it made. */
  ticks(bar: Ticks, made: readonly Note[]): Ticks;
}

/** What transforms are told apart by where they are offered, in that order. */
export const FAMILIES = ["rhythm", "feel", "chords", "line"] as const;
export type Family = (typeof FAMILIES)[number];

/** A hit or note of an example: start and length in ticks, pitch, velocity. */
export type ExampleNote = readonly [
  start: Ticks,
  length: Ticks,
  pitch: MidiPitch,
  velocity: number,
];

/** Hits at even distances from 0, half as long as they are apart, of these velocities. */
export const evenly = (every: Ticks, ...velocities: number[]): ExampleNote[] =>
  velocities.map((velocity, i) => [i * every, every / 2, 60, velocity]);

/** What a transform is shown on in little, where its family's example or its first values would not show it. */
export interface Example {
  notes?: readonly ExampleNote[];
  params?: Params;
  context?: Partial<TransformContext>;
}

/** A transform as the interface and the chain know it. */
export interface Transform {
  label: string;
  family: Family;
  example?: Example;
  /** One line for the list of transforms. */
  about: string;
  /** Yup object of the parameters; its metadata (`unit`, `step`) builds the controls. */
  schema: yup.ObjectSchema<yup.AnyObject>;
  defaults: Params;
  /** Values that a new card begins with, where those are not the defaults. */
  starts?: Params;
  /** What it is pictured on, where its shape is worth a picture. */
  picture?: TransformPicture;
  /** It is meant for whole parts, not for a lane or what is selected. */
  whole?: true;
  /**
   * Where notes of a pitch are pulled to, over the loop that they lie in: ticks in order. Left out where a transform
   * pulls to nothing.
   */
  lines?(params: Params, context: Partial<TransformContext>, pitch: MidiPitch): Ticks[];
  /**
   * Pure: input untouched, same parameters and seed, same result; unselected notes come back as
   * they were. Parameters left out take their defaults; wrong ones throw a RangeError naming them.
   */
  apply(
    notes: readonly Note[],
    params?: Params,
    context?: Partial<TransformContext>,
  ): TransformResult;
  /** What is wrong with a set of parameters, those left out taking their defaults; empty when nothing is. */
  problems(params: unknown): Problem[];
}

/** A step would make more notes than it may. */
export class TooManyNotes extends RangeError {
  constructor(readonly most: number) {
    super(`It would make more than ${most.toLocaleString("en-GB")} notes`);
    this.name = "TooManyNotes";
  }
}

/**
 * Counts what a step is about to make: each call adds so many, and throws `TooManyNotes` once they are
 * more than it may make, before time and memory are spent on them.
 */
export function counter({ most }: Pick<TransformContext, "most">): (more: number) => void {
  let made = 0;
  return (more) => {
    made += more;
    if (made > most) throw new TooManyNotes(most);
  };
}

/** What one run hands back: for each selected note, in order, what takes its place. */
interface Run {
  /** Replacements in the order of the input; null deletes the note. */
  replaced: readonly (Note | readonly Note[] | null)[];
  /** Notes that come from none of the input. */
  extra?: readonly Note[];
  sentence: (counts: Omit<Effect, "sentence">) => string;
  length?: Ticks;
}

/** A stretch `[from, to)` of a part's time, and where parts of it are put, in order; the rest stays where it is. */
export interface Retimed {
  from: Ticks;
  to: Ticks;
  put: readonly BendPiece[];
}

interface Definition<P> {
  label: string;
  family: Family;
  example?: Example;
  about: string;
  schema: yup.ObjectSchema<yup.AnyObject>;
  defaults: P;
  starts?: Partial<P>;
  picture?: TransformPicture;
  whole?: true;
  /** Where notes of a pitch are pulled to in `[0, to)`. */
  lines?(params: P, context: TransformContext, pitch: MidiPitch, to: Ticks): Ticks[];
  /** Where it puts the time of the part: a bend goes along, on wish. */
  time?(selected: readonly Note[], params: P, context: TransformContext): Retimed;
  run(selected: readonly Note[], params: P, context: TransformContext, all: readonly Note[]): Run;
}

/** Makes a transform of its definition: adds checking, selection, order and the counting of its effect. */
export function defineTransform<P extends Params>(definition: Definition<P>): Transform {
  const { label, family, example, about, picture, whole: forParts } = definition;
  const { schema, defaults, starts } = definition.time ? withBendChoice(definition) : definition;
  const problems = (params: unknown) =>
    problemsOf(schema, isObject(params) ? { ...defaults, ...params } : params);
  return {
    label,
    family,
    ...(example && { example }),
    about,
    schema,
    defaults,
    ...(starts && { starts: starts as Params }),
    ...(picture && { picture }),
    ...(forParts && { whole: forParts }),
    ...(definition.lines && {
      lines: (params, context, pitch) => {
        const whole = { ...DEFAULT_CONTEXT, ...context };
        const to = loopOf(pitch, whole) ?? whole.patternLength ?? 0;
        return definition.lines?.({ ...defaults, ...params } as P, whole, pitch, to) ?? [];
      },
    }),
    problems,
    apply(notes, params = {}, context = {}) {
      const full = { ...defaults, ...params } as P;
      const wrong = problemsOf(schema, full);
      if (wrong.length > 0) {
        throw new RangeError(
          `${label}: ${wrong.map((problem) => `${problem.path} ${problem.reason}`).join("; ")}`,
        );
      }
      const whole: TransformContext = { ...DEFAULT_CONTEXT, ...context };
      const { selection, lane } = whole;
      const bent = full["bends"] === true && whole.bend.length > 0;
      const along = (result: TransformResult, of: readonly Note[]) =>
        definition.time && bent
          ? { ...result, bend: retimed(definition.time(of, full, whole), result, whole) }
          : result;
      if (!selection && lane === null)
        return along(merge(notes, null, definition.run(notes, full, whole, notes)), notes);
      // Asked once for each note: looking up ids is what a run over many notes spends its time with.
      const wanted = new Uint8Array(notes.length);
      const selected: Note[] = [];
      notes.forEach((note, i) => {
        if (lane !== null && note.pitch !== lane) return;
        if (selection && !isSelected(note.id, selection)) return;
        wanted[i] = 1;
        selected.push(note);
      });
      const merged = merge(notes, wanted, definition.run(selected, full, whole, notes));
      if (!bent) return merged;
      // A bend is all notes' that sound then: it goes along where none of them stays.
      const [a, b] = spanOf(selected, whole);
      const stays = notes.some(
        (note, i) => wanted[i] === 0 && note.start < b && note.start + note.length > a,
      );
      return stays ? merged : along(merged, selected);
    },
  };
}

/**
 * Whether the bend of a part goes along with its notes, as a parameter: on for new cards, off for those of before it
 * was a choice.
 */
const withBendChoice = <P extends Params>({ schema, defaults, starts }: Definition<P>) => ({
  schema: schema.shape({ bends: param.flag("Bends go along", { role: "bends" }) }),
  defaults: { ...defaults, bends: false },
  starts: { ...starts, bends: true },
});

/** A part's bend with a stretch of its time put elsewhere. */
function retimed(
  { from, to, put }: Retimed,
  { length }: TransformResult,
  context: TransformContext,
): BendPoint[] {
  const ends = put.map(
    (piece) => piece.at + Math.round((piece.to - piece.from) * Math.abs(piece.scale)),
  );
  const rest = Math.max(to, ...ends);
  const end = Math.max(rest, length ?? context.length ?? rest);
  return rearranged(context.bend, [
    { from: 0, to: from, at: 0, scale: 1 },
    ...put,
    { from: rest, to: end, at: rest, scale: 1 },
  ]);
}

const isSelected = (id: string, selection: ReadonlySet<string>) =>
  selection.has(id) || (id.includes("~") && selection.has(rootId(id)));

/** Puts a run's notes in the place of those it worked on; `wanted` says which those are, null all. */
function merge(notes: readonly Note[], wanted: Uint8Array | null, run: Run): TransformResult {
  const counts = { added: 0, removed: 0, moved: 0, changed: 0 };
  const { replaced, extra = [] } = run;
  // Room for most of what there will be: a list that grows is copied time and again.
  const result = new Array<Note>(notes.length + extra.length);
  let [at, next, to] = [0, 0, 0];
  for (const before of notes) {
    if (wanted?.[at++] === 0) {
      result[to++] = before;
      continue;
    }
    const after = replaced[next++];
    if (!after) counts.removed++;
    else if (!isList(after)) {
      count(before, after, counts);
      result[to++] = after === before ? after : pitched(before, after);
    } else {
      counts.added += after.length - 1;
      for (const piece of after) result[to++] = piece;
      if (after[0]) count(before, after[0], counts);
    }
  }
  for (const note of extra) result[to++] = note;
  result.length = to;
  counts.added += extra.length;
  const merged: TransformResult = {
    notes: result,
    effect: { ...counts, sentence: run.sentence(counts) },
  };
  if (run.length !== undefined) merged.length = run.length;
  return merged;
}

const isObject = (value: unknown): value is Params =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const isList = (value: Note | readonly Note[]): value is readonly Note[] => Array.isArray(value);

function count(before: Note, after: Note, counts: { moved: number; changed: number }) {
  if (before === after) return;
  if (before.start !== after.start || before.pitch !== after.pitch) counts.moved++;
  else if (
    before.length !== after.length ||
    before.velocity !== after.velocity ||
    before.pan !== after.pan ||
    before.tune !== after.tune ||
    before.slide !== after.slide ||
    before.chance !== after.chance ||
    before.when !== after.when
  ) {
    counts.changed++;
  }
}

/**
 * Grid a note is worked on with: its lane's own, else the part's. One that is off has no lines to
 * count by: the straight one of its value stands in for it, in every transform alike.
 */
export function gridOf(note: Pick<Note, "pitch">, context: TransformContext): Grid {
  return steppedGrid(context.laneGrids[note.pitch] ?? context.grid);
}

/** Loop length of the lane or part a note lies in; null when there is none. */
export function loopOf(pitch: MidiPitch, context: TransformContext): number | null {
  return context.lanePeriods[pitch] ?? context.length;
}

/**
 * The beat of the bar (from 1) whose line a note belongs to, drift aside; null between beats.
 * `on` is the grid it is measured against.
 */
export function beatOf(note: Note, context: TransformContext): number | null {
  const grid = gridOf(note, context);
  // On a grid that has no lines on some beats the nearest sixteenth decides.
  const lined = grid.kind === "dotted" ? DEFAULT_GRID : grid;
  const gridLine = lineAt(lined, nearestLine(lined, note.start));
  const beat = beatTicks(context.metre);
  if (gridLine % beat !== 0) return null;
  const beats = beatsInBar(context.metre);
  return modulo(gridLine / beat, beats) + 1;
}

/**
 * Gives pieces of notes ids that no other note has: `n4` cut in three becomes `n4`, `n4~1`, `n4~2`,
 * and cut again goes on counting, so that ids stay short. `k` counts the pieces of this very note
 * from 1.
 */
export function pieceIds(all: readonly Note[]): (id: string, k: number) => string {
  // Where nothing was cut before, each note is its own root.
  if (!all.some(({ id }) => id.includes("~"))) return (id, k) => `${id}~${k}`;
  const last = new Map<string, number>();
  for (const { id } of all) {
    const at = id.indexOf("~");
    if (at < 0) continue;
    const root = id.slice(0, at);
    const count = Number(id.slice(at + 1));
    if (count > (last.get(root) ?? 0)) last.set(root, count);
  }
  return (id) => {
    const root = rootId(id);
    const count = (last.get(root) ?? 0) + 1;
    last.set(root, count);
    return `${root}~${count}`;
  };
}

/**
 * Where a note that was moved from inside its loop is heard: one that was pushed onto the loop's end
 * or past it comes in at the beginning, as the loop goes round.
 */
export function roundLoop(note: Note, start: Ticks, context: TransformContext): Ticks {
  const loop = loopOf(note.pitch, context);
  return loop !== null && note.start < loop && start >= loop ? start - loop : start;
}

/** Span `[a, b)` worked on: the selected range, else from the first start to the last end. */
export function spanOf(
  notes: readonly Note[],
  context: Pick<TransformContext, "range">,
): [number, number] {
  if (context.range) return [context.range[0], context.range[1]];
  let a = Infinity;
  let b = -Infinity;
  for (const note of notes) {
    if (note.start < a) a = note.start;
    if (note.start + note.length > b) b = note.start + note.length;
  }
  return a === Infinity ? [0, 0] : [a, b];
}

// Adding 0 turns −0, which rounding can give, into 0.
/** A start as a whole tick, no earlier than half a quarter before the loop. */
export const clampStart = (tick: Ticks) => Math.max(-MAX_EARLY, Math.round(tick) + 0);
/** A length as whole ticks, at least 1. */
export const clampLength = (ticks: Ticks) => Math.max(1, Math.round(ticks));

/** A pitch that would leave 0–127 in the nearest octave that holds it. */
export function foldPitch(pitch: MidiPitch): number {
  let p = pitch;
  while (p < 0) p += 12;
  while (p > 127) p -= 12;
  return p;
}

/** “1 hit”, “3 hits” or “3 notes”, by the kind of track. */
export function counted(n: number, context: Pick<TransformContext, "kind">): string {
  const word = context.kind === "drums" ? "hit" : "note";
  return `${n} ${word}${n === 1 ? "" : "s"}`;
}

/** A number as a musician reads it: whole from 20 up, one place below. */
export function figure(n: number): string {
  return Math.abs(n) >= 20 || Number.isInteger(n) ? String(Math.round(n)) : n.toFixed(1);
}
