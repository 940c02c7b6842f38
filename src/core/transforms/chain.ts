import type { Ticks } from "../base";
import { type Grid, type Metre, barTicks } from "../time";
import {
  type BendPoint,
  type ChainStep,
  LIMITS,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Track,
  metreOf,
  ownLoops,
  sortNotes,
} from "../score";
import { TooManyNotes, type Effect, type TransformContext } from "./kit";
import { TRANSFORMS, tracksNamedBy } from "./registry";

/** What a chain made of notes. */
export interface ChainResult {
  notes: readonly Note[];
  /** Loop length in ticks after the chain; null when no step was given one. */
  length: Ticks | null;
  /** What each step did, in order; null for a step that is switched off, or that comes after the end. */
  effects: (Effect | null)[];
  /** Index of the step at which the chain ended since it would have made too many notes; null where none did. */
  stopped: number | null;
  /** Bend curve after the chain; empty where there is none. */
  bend: readonly BendPoint[];
}

/** Never more notes than this are made by a chain, unless its context says so. */
const MAX_MADE = 1_000_000;

/**
 * Applies the steps that are on, in order. Pure. A step that would make more notes than it may
 * (`context.most`, a million where it says nothing) ends the chain: what was made up to there is heard,
 * and the step's effect says so. Throws a RangeError for an unknown transform or wrong parameters,
 * naming them.
 */
export function applyChain(
  notes: readonly Note[],
  chain: readonly ChainStep[],
  context: Partial<TransformContext> = {},
): ChainResult {
  return applyWhile(notes, chain, context, () => true);
}

/** Applies a chain as long as what it has made so far is `fine`; what is left out has no effect. */
function applyWhile(
  notes: readonly Note[],
  chain: readonly ChainStep[],
  context: Partial<TransformContext>,
  fine: (notes: readonly Note[]) => boolean,
): ChainResult {
  let current = notes;
  let length = context.length ?? null;
  let bend = context.bend ?? [];
  let stopped: number | null = null;
  const most = context.most ?? MAX_MADE;
  const effects = chain.map((step, i) => {
    if (!step.on || stopped !== null || !fine(current)) return null;
    const transform = TRANSFORMS[step.transform];
    if (!transform) throw new RangeError(`“${step.transform}” is no known transform`);
    try {
      const result = transform.apply(current, step.params, {
        ...context,
        most,
        length,
        bend,
        selection: step.scope ? new Set(step.scope) : null,
        lane: step.lane ?? null,
      });
      current = result.notes;
      if (result.length !== undefined) length = result.length;
      bend = result.bend ?? bend;
      return result.effect;
    } catch (error) {
      if (!(error instanceof TooManyNotes)) throw error;
      stopped = i;
      return tooMany(error);
    }
  });
  return { notes: current, length, effects, stopped, bend };
}

/** What a step says that would have made too many notes. */
const tooMany = (error: TooManyNotes): Effect => ({
  added: 0,
  removed: 0,
  moved: 0,
  changed: 0,
  sentence: `${error.message}: the chain is heard up to here`,
});

/**
 * The notes that a part's chain makes, step by step for as long as a part could hold them: those of
 * the first step that would exceed its limits, else all; null where a step would make more than any
 * chain may. Remembered for `effectivePart` when it went through to the end.
 */
export function chainWithin(
  project: Project,
  track: Track,
  part: Part,
  pattern: Measure,
): readonly Note[] | null {
  const known = recalled(project, track, part, pattern);
  if (known) return known.stopped === null ? known.notes : null;
  const result = applyWhile(
    sortNotes(part.notes),
    part.chain,
    contextOf(project, track, part, pattern),
    fitsPart,
  );
  if (result.stopped !== null) return null;
  if (fitsPart(result.notes)) remember(project, track, part, pattern, result);
  return result.notes;
}

/** Most notes that a step in a part's chain may make: twice what a part can hold written. */
const MAX_HEARD = 2 * LIMITS.notesPerPart;

/** Whether a part can hold these notes: not too many, none too far. */
export const fitsPart = (notes: readonly Note[]): boolean =>
  notes.length <= LIMITS.notesPerPart &&
  notes.every((note) => note.start <= LIMITS.ticks && note.length <= LIMITS.ticks);

/** How long a pattern is: what of it a part's chain depends on. */
export type Measure = Pick<Pattern, "bars" | "metre">;

/** What a transform should know of a part of a pattern: key, tempo, grids, loop. */
export function contextOf(
  project: Project,
  track: Track,
  part: Part,
  measure: Measure,
): TransformContext {
  const laneGrids: Record<number, Grid> = {};
  for (const { pitch, grid } of track.lanes) laneGrids[pitch] = grid;
  const pattern = project.patterns.find((pattern) => pattern.parts.includes(part));
  const metre = metreOf(project, measure);
  return {
    tempo: project.tempo,
    metre,
    key: project.key,
    kind: track.kind,
    grid: part.grid,
    laneGrids,
    length: part.length,
    selection: null,
    range: null,
    lane: null,
    lanePeriods: Object.fromEntries(ownLoops(track)),
    patternLength: pattern ? measure.bars * barTicks(metre) : null,
    most: MAX_HEARD,
    bend: part.bend ?? [],
    timingOf(id) {
      const source = pattern && timingSource(project, pattern, part, id);
      return source ? onsetsOver(source, measure.bars * barTicks(metre)) : null;
    },
  };
}

/** What another part's timing is read from. */
interface TimingSource {
  track: Track;
  notes: readonly Note[];
  length: Ticks;
}

/**
 * A part that another one takes its timing from, as it is heard. Where it leans back on the one that
 * asks, by whatever way, its notes stand as they are written: a circle has no other beginning.
 */
function timingSource(
  project: Project,
  pattern: Pattern,
  asking: Part,
  id: string,
): TimingSource | null {
  const part = pattern.parts.find((part) => part.track === id);
  const track = project.tracks.find((track) => track.id === id);
  if (!part || !track) return null;
  if (leansOn(pattern, part, asking.track))
    return { track, notes: part.notes, length: part.length };
  const { notes, length } = effectivePart(project, track, part, pattern);
  return { track, notes, length };
}

/** Tracks that a part's chain takes its timing from. */
const namedBy = (part: Part): string[] =>
  part.chain.flatMap((step) => (step.on ? tracksNamedBy(step) : []));

/** Whether a part takes its timing from a track, by itself or through others; each part from itself too. */
function leansOn(pattern: Pattern, part: Part, track: string): boolean {
  const seen = new Set<string>();
  const open = [part];
  for (let next = open.pop(); next; next = open.pop()) {
    if (next.track === track) return true;
    if (seen.has(next.track)) continue;
    seen.add(next.track);
    for (const name of namedBy(next)) {
      const other = pattern.parts.find((part) => part.track === name);
      if (other) open.push(other);
    }
  }
  return false;
}

/** Never more onsets than this are taken from a part, however short its loop. */
const MAX_ONSETS = 200_000;

/** All onsets of a part over so many ticks, its loops unfolded; ascending. */
function onsetsOver({ track, notes, length }: TimingSource, total: Ticks): number[] {
  const own = ownLoops(track);
  const onsets: number[] = [];
  for (const note of notes) {
    const period = own.get(note.pitch) ?? length;
    if (note.start >= period) continue;
    for (let at = note.start; at < total && onsets.length < MAX_ONSETS; at += period) {
      onsets.push(at);
    }
  }
  return onsets.sort((a, b) => a - b);
}

/** What a chain takes its timing from: when any of it changes, so does what the chain gives. */
function leanedOn(project: Project, part: Part): readonly unknown[] {
  const names = namedBy(part);
  if (names.length === 0) return [];
  const pattern = project.patterns.find((pattern) => pattern.parts.includes(part));
  return names.flatMap((name) => {
    const source = pattern && timingSource(project, pattern, part, name);
    return source ? [source.track, source.notes, source.length] : [null];
  });
}

/**
 * A part as it is heard: its notes in order, its loop length, and what each step of its chain did.
 */
export interface EffectivePart {
  notes: readonly Note[];
  /** Loop length in ticks, never beyond the pattern's. */
  length: Ticks;
  effects: readonly (Effect | null)[];
  /** Index of the step at which its chain ended; null where it went through. */
  stopped: number | null;
  /** Its bend curve; empty where it has none. */
  bend: readonly BendPoint[];
}

interface Remembered {
  project: Pick<Project, "tempo" | "key">;
  track: Track;
  bars: number;
  metre: Metre;
  leaned: readonly unknown[];
  effective: EffectivePart;
}
const remembered = new WeakMap<Part, Remembered>();

/**
 * The notes of a part as they are heard and drawn: its own, with its chain applied, sorted.
 * Remembered for as long as the part and what its chain depends on stay the same objects.
 */
export function effectivePart(
  project: Project,
  track: Track,
  part: Part,
  pattern: Measure,
): EffectivePart {
  const known = recalled(project, track, part, pattern);
  if (known) return known;
  const notes = sortNotes(part.notes);
  const { chain } = part;
  return remember(
    project,
    track,
    part,
    pattern,
    chain.length === 0
      ? { notes, length: part.length, effects: [], stopped: null, bend: part.bend ?? [] }
      : applyChain(notes, chain, contextOf(project, track, part, pattern)),
  );
}

function remember(
  project: Project,
  track: Track,
  part: Part,
  measure: Measure,
  { notes, length, effects, stopped, bend }: ChainResult,
): EffectivePart {
  const { bars } = measure;
  const metre = metreOf(project, measure);
  const longest = bars * barTicks(metre);
  const effective: EffectivePart = {
    notes: sortNotes(notes),
    length: Math.min(length ?? part.length, longest),
    effects,
    stopped,
    bend,
  };
  remembered.set(part, { project, track, bars, metre, leaned: leanedOn(project, part), effective });
  return effective;
}

/** What is remembered of a part, where nothing that it depends on has changed. */
function recalled(
  project: Project,
  track: Track,
  part: Part,
  measure: Measure,
): EffectivePart | null {
  const known = remembered.get(part);
  if (
    !known ||
    known.bars !== measure.bars ||
    known.track !== track ||
    known.project.tempo !== project.tempo ||
    known.metre !== metreOf(project, measure) ||
    known.project.key !== project.key
  ) {
    return null;
  }
  const leaned = leanedOn(project, part);
  const same =
    known.leaned.length === leaned.length && known.leaned.every((one, i) => one === leaned[i]);
  return same ? known.effective : null;
}
