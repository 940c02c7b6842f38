import {
  type ChainStep,
  type ChordMark,
  type KitShape,
  LIMITS,
  type Note,
  PLAIN_KIT,
  type Part,
  type Pattern,
  type Project,
  type SongEntry,
  type Starred,
  type Track,
  makePart,
  patternTicks,
  sortChords,
  sortNotes,
  starSign,
  withStars,
} from "../score";
import { partIn } from "./part-edit";
import { withoutDeadSources } from "./sources";
import { mapTuple, nth } from "../base";

/**
 * Three-way merge: what `mine` changed since `base`, laid over `theirs`. Works down to single notes
 * and fields, so two tabs editing different things lose nothing; where both changed the same field,
 * mine stands; where one changed what the other deleted, the change stands: a track that got notes
 * comes back with all it had (see `returning`).
 * Undo is the same step: base = after, mine = before.
 */
export function mergeProjects(base: Project, mine: Project, theirs: Project): Project {
  if (base === theirs || same(base, theirs)) return mine;
  if (base === mine) return theirs;
  const order = new Map(
    [theirs, mine, base].flatMap(({ tracks }) => tracks).map(({ id }, i) => [id, i] as const),
  );
  const [was, my, their] = mapTuple([base, mine, theirs], (one) => inOrder(one, order));
  return merge(was, withReturned(was, my, their), withReturned(was, their, my));
}

/**
 * Tracks that one of two sides deleted while the other changed what they play: they come back in the
 * merge of the two, on both sides.
 */
export function returning(base: Project, mine: Project, theirs: Project): Track[] {
  return base.tracks.filter(
    (track) =>
      isDeletedChanged(base, track, mine, theirs) || isDeletedChanged(base, track, theirs, mine),
  );
}

function isDeletedChanged(base: Project, track: Track, deleter: Project, other: Project): boolean {
  if (deleter.tracks.some((t) => t.id === track.id)) return false;
  const now = other.tracks.find(({ id }) => id === track.id);
  if (!now) return false;
  if (!same(track, now)) return true;
  return other.patterns.some(({ id }) => {
    const now = partIn(other, id, track.id);
    const was = partIn(base, id, track.id);
    // In a pattern that is new, notes are what was changed.
    if (!now) return false;
    // That an empty part is as long as a pattern that was changed is no change of the track.
    const isBare = (part: Part) => part.notes.length === 0 && part.chain.length === 0 && !part.bend;
    return was ? !same(was, now) && !(isBare(was) && isBare(now)) : now.notes.length > 0;
  });
}

/** One side with the tracks again that it deleted and the other changed, as they were. */
function withReturned(base: Project, side: Project, other: Project): Project {
  const back = base.tracks.filter((track) => isDeletedChanged(base, track, side, other));
  if (back.length === 0) return side;
  return {
    ...side,
    // Where they stood among the tracks, as nearly as can be.
    tracks: back.reduce((tracks, track) => {
      const at = base.tracks.indexOf(track);
      return [...tracks.slice(0, at), track, ...tracks.slice(at)];
    }, side.tracks),
    patterns: side.patterns.map((pattern) => ({
      ...pattern,
      parts: [
        ...pattern.parts,
        ...back.flatMap((track) => partIn(base, pattern.id, track.id) ?? []),
      ],
    })),
  };
}

function merge(base: Project, mine: Project, theirs: Project): Project {
  const merged: Project = {
    ...mergeFields(base, mine, theirs),
    tracks: mergeList(base.tracks, mine.tracks, theirs.tracks, byId, mergeTrack),
    patterns: mergeList(
      base.patterns,
      mine.patterns,
      theirs.patterns,
      byId,
      mergePattern,
      isSamePattern,
    ),
    song: mergeList(base.song, mine.song, theirs.song, byId, mergeFields<SongEntry>),
  };
  const room = mergeSparse(base.room, mine.room, theirs.room);
  delete merged.room;
  if (room) merged.room = room;
  // Each side may have deleted what the other left as the last pattern.
  return complete(merged.patterns.length > 0 ? merged : mine, base);
}

/** Parts in one order of tracks for all sides: a track that was moved is no change of a pattern. */
function inOrder(project: Project, order: ReadonlyMap<string, number>): Project {
  const placeOf = ({ track }: Part) => order.get(track) ?? order.size;
  const isSorted = ({ parts }: Pattern) =>
    parts.every((part, i) => i === 0 || placeOf(nth(parts, i - 1)) <= placeOf(part));
  if (project.patterns.every(isSorted)) return project;
  const patterns = project.patterns.map((pattern) =>
    isSorted(pattern)
      ? pattern
      : { ...pattern, parts: [...pattern.parts].sort((a, b) => placeOf(a) - placeOf(b)) },
  );
  return { ...project, patterns };
}

/**
 * Whether a pattern is what it was, but for tracks that came empty or went: these are changes of the tracks, and
 * do not keep a pattern that the other side deleted.
 */
function isSamePattern(was: Pattern, now: Pattern): boolean {
  const { parts: before, ...head } = was;
  const { parts: after, ...headNow } = now;
  if (!same(head, headNow)) return false;
  const known = new Map(before.map((part) => [part.track, part]));
  return after.every((part) => {
    const old = known.get(part.track);
    return old ? same(old, part) : part.notes.length === 0;
  });
}

/** Whether two pieces of score are equal in value; quick when they are the same object. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => same((a as never)[key], (b as never)[key]))
  );
}

const byId = (item: { id: string }) => item.id;

/** Field by field: mine where I changed it, else theirs. */
function mergeFields<T extends object>(base: T, mine: T, theirs: T): T {
  const merged = { ...theirs };
  for (const key of Object.keys(mine) as (keyof T)[]) {
    if (!same(mine[key], base[key])) merged[key] = mine[key];
  }
  // A field that may be left out, which I deleted.
  for (const key of Object.keys(base) as (keyof T)[]) if (!(key in mine)) delete merged[key];
  return merged;
}

function mergeTrack(base: Track, mine: Track, theirs: Track): Track {
  const merged = {
    ...mergeFields(base, mine, theirs),
    lanes: mergeList(base.lanes, mine.lanes, theirs.lanes, byId, mergeFields),
  };
  const kit = mergeKit(base.kit, mine.kit, theirs.kit);
  const shaping = mergeSparse(base.shaping, mine.shaping, theirs.shaping);
  const mix = mergeSparse(base.mix, mine.mix, theirs.mix);
  for (const field of ["kit", "shaping", "mix"] as const) delete merged[field];
  return { ...merged, ...(kit && { kit }), ...(shaping && { shaping }), ...(mix && { mix }) };
}

/** Values of which those that are plain are left out, and all of them where none is left. */
function mergeSparse<T extends object>(
  base: T | undefined,
  mine: T | undefined,
  theirs: T | undefined,
): T | undefined {
  const none = {} as T;
  const merged = mergeFields(base ?? none, mine ?? none, theirs ?? none);
  return Object.keys(merged).length > 0 ? merged : undefined;
}

/** Pad by pad and field by field; a kit that is left out is a plain one. */
function mergeKit(
  base: KitShape = PLAIN_KIT,
  mine: KitShape = PLAIN_KIT,
  theirs: KitShape = PLAIN_KIT,
): KitShape | undefined {
  const merged = {
    ...mergeFields(base, mine, theirs),
    pads: mergeList(base.pads, mine.pads, theirs.pads, (pad) => String(pad.pitch), mergeFields),
  };
  return same(merged, PLAIN_KIT) ? undefined : merged;
}

function mergePattern(base: Pattern, mine: Pattern, theirs: Pattern): Pattern {
  const merged = {
    ...mergeFields(base, mine, theirs),
    parts: mergeList(base.parts, mine.parts, theirs.parts, (part) => part.track, mergePart),
  };
  const [was, my, their] = mapTuple([base, mine, theirs], (pattern) => pattern.chords ?? []);
  const chords = mergeList(was, my, their, byId, mergeFields<ChordMark>);
  delete merged.chords;
  const [wasStars, myStars, theirStars] = mapTuple(
    [base, mine, theirs],
    (pattern) => pattern.stars ?? [],
  );
  // One that is starred on both sides is the same.
  const stars = mergeList(wasStars, myStars, theirStars, starSign, (_, star) => star);
  const whole = withStars(merged, stars.slice(0, LIMITS.stars));
  return chords.length > 0 ? { ...whole, chords: sortChords(chords) } : whole;
}

function mergePart(base: Part, mine: Part, theirs: Part): Part {
  return {
    ...mergeFields(base, mine, theirs),
    notes: sortNotes(mergeList(base.notes, mine.notes, theirs.notes, byId, mergeFields<Note>)),
    chain: mergeList(base.chain, mine.chain, theirs.chain, byId, mergeFields<ChainStep>),
  };
}

function mergeList<T extends object>(
  base: readonly T[],
  mine: readonly T[],
  theirs: readonly T[],
  idOf: (item: T) => string,
  mergeItem: (base: T, mine: T, theirs: T) => T,
  isSame: (was: T, now: T) => boolean = same,
): readonly T[] {
  if (base === mine) return theirs;
  if (base === theirs) return mine;
  const [was, my, their] = mapTuple(
    [base, mine, theirs],
    (list) => new Map(list.map((item) => [idOf(item), item])),
  );
  const pick = (id: string): T | null => {
    const [b, m, t] = [was.get(id), my.get(id), their.get(id)];
    if (m && t) return m === t ? m : mergeItem(b ?? t, m, t);
    if (m) return b && isSame(b, m) ? null : m;
    if (t) return b && isSame(b, t) ? null : t;
    return null;
  };
  // My order where they left the order alone, else theirs; what only one has goes to the end.
  const theirsKeptOrder = base.every((item, i) => theirs[i] && idOf(theirs[i]) === idOf(item));
  const [lead, follow] = theirsKeptOrder ? [mine, theirs] : [theirs, mine];
  const order = new Set([...lead.map(idOf), ...follow.map(idOf)]);
  return [...order].map(pick).filter((item) => item !== null);
}

/**
 * Gives every pattern exactly one part per track again, in their order and no longer than itself, and the song only
 * patterns that exist.
 */
function complete(project: Project, base: Project): Project {
  const tracks = project.tracks.map(byId);
  const patterns = new Set(project.patterns.map(byId));
  const whole: Project = {
    ...project,
    song: project.song.every((entry) => patterns.has(entry.pattern))
      ? project.song
      : project.song.filter((entry) => patterns.has(entry.pattern)),
    patterns: project.patterns.map((pattern) => {
      const living = withLivingStars(pattern, new Set(tracks));
      const length = patternTicks(project, pattern);
      const have = new Map(pattern.parts.map((part) => [part.track, part]));
      const parts = tracks.map((track) => {
        const part = have.get(track);
        if (!part) return makePart(track, length);
        // One that came while the other side changed the bars is as long as it would have been made.
        const isNew = part.notes.length === 0 && !partIn(base, pattern.id, track);
        return part.length > length || (isNew && part.length !== length)
          ? { ...part, length }
          : part;
      });
      const fits =
        parts.length === pattern.parts.length &&
        parts.every((part, i) => part === pattern.parts[i]);
      return fits ? living : { ...living, parts };
    }),
  };
  return withoutDeadSources(whole);
}

/** A pattern without starred ideas of tracks that are gone. */
function withLivingStars(pattern: Pattern, tracks: ReadonlySet<string>): Pattern {
  const living = pattern.stars?.filter(
    ({ track }: Pick<Starred, "track">) => track === null || tracks.has(track),
  );
  return living && living.length !== pattern.stars?.length ? withStars(pattern, living) : pattern;
}
