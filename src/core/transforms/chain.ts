import {
  sortNotes,
  type ChainStep,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Track,
} from "../score/model";
import { stepTicks, type Grid } from "../time/grid";
import { barTicks } from "../time/ticks";
import type { Effect, TransformContext } from "./kit";
import { TRANSFORMS } from "./registry";
import type { Ticks } from "../units";

/** What a chain made of notes. */
export interface ChainResult {
  notes: readonly Note[];
  /** Loop length in ticks after the chain; null when no step was given one. */
  length: Ticks | null;
  /** What each step did, in order; null for a step that is switched off. */
  effects: (Effect | null)[];
}

/**
 * Applies the steps that are on, in order. Pure. Throws a RangeError for an unknown transform or
 * wrong parameters, naming them.
 */
export function applyChain(
  notes: readonly Note[],
  chain: readonly ChainStep[],
  context: Partial<TransformContext> = {},
): ChainResult {
  let current = notes;
  let length = context.length ?? null;
  const effects = chain.map((step) => {
    if (!step.on) return null;
    const transform = TRANSFORMS[step.transform];
    if (!transform) throw new RangeError(`“${step.transform}” is no known transform`);
    const result = transform.apply(current, step.params, {
      ...context,
      length,
      selection: step.scope ? new Set(step.scope) : null,
      lane: step.lane ?? null,
    });
    current = result.notes;
    if (result.length !== undefined) length = result.length;
    return result.effect;
  });
  return { notes: current, length, effects };
}

/** What a transform should know of a part: key, tempo, grids, loop. */
export function contextOf(project: Project, track: Track, part: Part): TransformContext {
  const laneGrids: Record<number, Grid> = {};
  const lanePeriods: Record<number, number> = {};
  for (const { pitch, grid, steps } of track.lanes) {
    laneGrids[pitch] = grid;
    if (steps) lanePeriods[pitch] = steps * stepTicks(grid);
  }
  const pattern = project.patterns.find((p) => p.parts.includes(part));
  return {
    tempo: project.tempo,
    metre: project.metre,
    key: project.key,
    kind: track.kind,
    grid: part.grid,
    laneGrids,
    length: part.length,
    selection: null,
    range: null,
    lane: null,
    lanePeriods,
    patternLength: pattern ? pattern.bars * barTicks(project.metre) : null,
    timingOf: (id) => otherPart(pattern, id)?.notes.map((note) => note.start) ?? null,
  };
}

/** The part another track has in the same pattern. */
const otherPart = (pattern: Pattern | undefined, track: string) =>
  pattern?.parts.find((p) => p.track === track);

/** Parts that a chain takes its timing from: when their notes change, so does what it gives. */
function partsLeanedOn(project: Project, part: Part): readonly (readonly Note[] | undefined)[] {
  const names = part.chain.flatMap(({ on, params }) =>
    on && typeof params.from === "string" && params.from !== "" ? [params.from] : [],
  );
  if (names.length === 0) return [];
  const pattern = project.patterns.find((p) => p.parts.includes(part));
  return names.map((name) => otherPart(pattern, name)?.notes);
}

/**
 * A part as it is heard: its notes in order, its loop length, and what each step of its chain did.
 */
export interface HeardPart {
  notes: readonly Note[];
  /** Loop length in ticks, never beyond the pattern's. */
  length: Ticks;
  effects: readonly (Effect | null)[];
}

interface Remembered {
  project: Pick<Project, "tempo" | "metre" | "key">;
  track: Track;
  bars: number;
  leanedOn: readonly (readonly Note[] | undefined)[];
  heard: HeardPart;
}
const remembered = new WeakMap<Part, Remembered>();

/**
 * The notes of a part as they are heard and drawn: its own, with its chain applied, sorted.
 * Remembered for as long as the part and what its chain depends on stay the same objects.
 */
export function heardPart(project: Project, track: Track, part: Part, bars: number): HeardPart {
  const known = remembered.get(part);
  const leanedOn = partsLeanedOn(project, part);
  if (
    known &&
    known.bars === bars &&
    known.track === track &&
    known.project.tempo === project.tempo &&
    known.project.metre === project.metre &&
    known.project.key === project.key &&
    known.leanedOn.every((notes, i) => notes === leanedOn[i])
  ) {
    return known.heard;
  }
  const longest = bars * barTicks(project.metre);
  let heard: HeardPart;
  if (part.chain.length === 0) {
    heard = { notes: sortNotes(part.notes), length: Math.min(part.length, longest), effects: [] };
  } else {
    const result = applyChain(sortNotes(part.notes), part.chain, contextOf(project, track, part));
    heard = {
      notes: sortNotes(result.notes),
      length: Math.min(result.length ?? part.length, longest),
      effects: result.effects,
    };
  }
  remembered.set(part, { project, track, bars, leanedOn, heard });
  return heard;
}
