import { type Ticks, plural } from "../base";
import type { Params } from "../params";
import {
  LIMITS,
  type Note,
  type PartAddress,
  type Project,
  changePart,
  partOf,
  patternBar,
  patternOf,
  sortNotes,
  trackOf,
  withBend,
} from "../score";
import { type Effect, TRANSFORMS, contextOf, spanOf } from "../transforms";
import { withBars } from "./past-loop";
import { asOwn } from "./pieces";

/** What of a part a transform works on. */
export interface TransformScope {
  /** Ids of notes; null for all. */
  selection: ReadonlySet<string> | null;
  /** One pad; null for all. */
  lane: number | null;
  /** Stretch of time `[from, to)` in ticks, or null to take it from the notes. */
  range: readonly [number, number] | null;
}

export const WHOLE_PART: TransformScope = { selection: null, lane: null, range: null };

/** What a transform made of a project. */
export interface Transformed {
  project: Project;
  effect: Effect;
  /** Ids of notes that came from none of the input: pieces and copies, named by `idOf`. */
  fresh: string[];
}

/** A transform by its id, and its values. */
export interface TransformWish {
  transform: string;
  params: Params;
}

/**
 * Applies a transform to a part's own notes at once. Pieces become notes of their own, so that they can
 * be worked on again. Throws a RangeError for wrong parameters or an unknown transform.
 */
export function transformPart(
  project: Project,
  place: PartAddress,
  { transform: id, params, scope }: TransformWish & { scope: TransformScope },
  idOf: () => string,
): Transformed {
  const transform = TRANSFORMS[id];
  if (!transform) throw new RangeError(`“${id}” is no known transform`);
  const part = partOf(project, place);
  const track = trackOf(project, place.track);
  const pattern = patternOf(project, place.pattern);
  const context = { ...contextOf(project, track, part, pattern), ...scope };
  const result = transform.apply(part.notes, params, context);
  const known = new Set(part.notes.map((note) => note.id));
  const fresh: string[] = [];
  const notes = result.notes.map((note) => {
    if (known.has(note.id)) return note;
    const named = asOwn(note, idOf);
    fresh.push(named.id);
    return named;
  });
  const { project: roomy, bars, length } = holding(project, place, result.length ?? part.length);
  const made = { ...part, notes: sortNotes(notes), length };
  const changed = changePart(roomy, place, () =>
    result.bend ? withBend(made, result.bend) : made,
  );
  if (bars === null) return { project: changed, effect: result.effect, fresh };
  const sentence = `${result.effect.sentence}; the pattern is now ${plural(bars, "bar")}`;
  return { project: changed, effect: { ...result.effect, sentence }, fresh };
}

/**
 * A project whose pattern holds a loop of so many ticks, with its bars where it had to grow for that, and
 * the loop's length, which no pattern holds beyond its limit.
 */
export function holding(
  project: Project,
  { pattern }: PartAddress,
  length: Ticks,
): { project: Project; bars: number | null; length: Ticks } {
  const bar = patternBar(project, patternOf(project, pattern));
  const bars = Math.min(LIMITS.bars, Math.ceil(length / bar));
  const roomy = withBars(project, pattern, bars);
  const held = Math.min(length, LIMITS.bars * bar);
  return { project: roomy, bars: roomy === project ? null : bars, length: held };
}

/**
 * Applies a transform to several parts, as one edit: to all of each, or to the notes named for it, which then are
 * worked on as one in time: from the first start of all to the last end. Gives one sentence for all, and the ids of
 * the notes made anew, by place.
 */
export function transformParts(
  project: Project,
  places: readonly PartAddress[],
  {
    transform,
    params,
    ids = null,
  }: TransformWish & { ids?: readonly (readonly string[])[] | null },
  idOf: () => string,
): { project: Project; sentence: string; fresh: string[][] } {
  const range = ids && spanOf(notesOf(project, places, ids), { range: null });
  let after = project;
  let [count, parts] = [0, 0];
  const fresh = places.map((place, i) => {
    if (partOf(after, place).notes.length === 0) return [];
    const scope = { ...WHOLE_PART, range, selection: ids && new Set(ids[i]) };
    const done = transformPart(after, place, { transform, params, scope }, idOf);
    const { added, removed, moved, changed } = done.effect;
    count += added + removed + moved + changed;
    parts++;
    after = done.project;
    return done.fresh;
  });
  const sentence = `${plural(count, "note")} changed in ${plural(parts, "part")}`;
  return { project: after, sentence, fresh };
}

/** The notes of several parts that are named for each. */
const notesOf = (
  project: Project,
  places: readonly PartAddress[],
  ids: readonly (readonly string[])[],
): Note[] =>
  places.flatMap((place, i) => {
    const own = new Set(ids[i]);
    return partOf(project, place).notes.filter(({ id }) => own.has(id));
  });
