import { plural, mustGet, nth } from "../base";
import { DEFAULT_GRID, barTicks } from "../time";
import { padName } from "../pitch";
import {
  LIMITS,
  type Part,
  type Pattern,
  type Project,
  type SongEntry,
  type Track,
  hasTimes,
  makeLane,
  makePart,
  metreOf,
  patternBar,
  patternOf,
  patternTicks,
  withStars,
} from "../score";
import { trackParams } from "../transforms";
import { withoutDeadSources } from "../stored";
import { songOfAll, wholeSong } from "./song";
import { nextPatternName, setBars } from "./project";

/** What of another project is taken: a track, under what name, as what, with what sound. */
export interface TakenTrack {
  id: string;
  taken: boolean;
  name: string;
  kind: Track["kind"];
  sound: string;
}

/** Another project with those of its tracks that are taken, as they are wanted. */
export function chosenTracks(other: Project, choices: readonly TakenTrack[]): Project {
  const taken = choices.filter((choice) => choice.taken);
  const tracks = taken.flatMap((choice) => {
    const track = other.tracks.find(({ id }) => id === choice.id);
    if (!track) return [];
    const named = { ...track, name: choice.name, sound: choice.sound };
    if (choice.kind === track.kind) return [named];
    const { kit: _, shaping: __, ...plain } = named;
    return [
      {
        ...plain,
        kind: choice.kind,
        lanes: choice.kind === "drums" ? lanesOf(other, track.id) : [],
      },
    ];
  });
  const kept = new Set(tracks.map(({ id }) => id));
  const melodic = new Set(tracks.filter(({ kind }) => kind === "melody").map(({ id }) => id));
  return withoutDeadSources({
    ...other,
    tracks,
    patterns: other.patterns.map((pattern) =>
      withStars(
        {
          ...pattern,
          parts: pattern.parts
            .filter((part) => kept.has(part.track))
            .map((part) => {
              const { bend: _, ...straight } = part;
              return melodic.has(part.track) ? part : straight;
            }),
        },
        pattern.stars?.filter(({ track }) => track === null || kept.has(track)) ?? [],
      ),
    ),
    song: other.song.map(({ mutes, ...entry }) => {
      const own = mutes?.filter((id) => kept.has(id)) ?? [];
      return own.length > 0 ? { ...entry, mutes: own } : entry;
    }),
  });
}

/** A lane for each pitch that a track plays. */
function lanesOf({ patterns }: Project, track: string) {
  const pitches = new Set(
    patterns.flatMap((pattern) =>
      pattern.parts
        .filter((part) => part.track === track)
        .flatMap((part) => part.notes.map((note) => note.pitch)),
    ),
  );
  return [...pitches]
    .sort((a, b) => a - b)
    .slice(0, LIMITS.lanes)
    .map((pitch) => ({ ...makeLane(pitch, DEFAULT_GRID), name: padName(pitch) }));
}

/** Tracks of another project with ids of their own here. */
function newTracks(other: Project, newId: () => string): Map<string, Track> {
  const ids = new Map(other.tracks.map((track) => [track.id, newId()]));
  return new Map(
    other.tracks.map((track) => {
      const { mix, ...rest } = track;
      const duckBy = ids.get(mix?.duckBy ?? "") ?? "";
      const own = { ...rest, id: mustGet(ids, track.id), ...(mix && { mix: { ...mix, duckBy } }) };
      return [track.id, own];
    }),
  );
}

/** Chains may take their timing from a track: from the same one here, or from none. */
const moved = (part: Part, tracks: ReadonlyMap<string, Track>): Part => ({
  ...part,
  track: mustGet(tracks, part.track).id,
  chain: part.chain.map((step) => {
    const named = trackParams(step.transform).map(
      (name) => [name, tracks.get(String(step.params[name]))?.id ?? ""] as const,
    );
    if (named.length === 0) return step;
    return { ...step, params: { ...step.params, ...Object.fromEntries(named) } };
  }),
});

/**
 * Puts the tracks of another project beside those here, with what its first pattern plays in a pattern of this one,
 * which grows where it must. Throws a RangeError where they do not fit.
 */
export function bringTracks(
  project: Project,
  other: Project,
  patternId: string,
  newId: () => string,
): Project {
  room("track", project.tracks.length + other.tracks.length, LIMITS.tracks);
  const tracks = newTracks(other, newId);
  const first = nth(other.patterns, 0);
  const needed = Math.ceil(
    patternTicks(other, first) / patternBar(project, patternOf(project, patternId)),
  );
  const { bars } = patternOf(project, patternId);
  const grown = needed > bars ? setBars(project, patternId, needed) : project;
  const ticks = patternTicks(grown, patternOf(grown, patternId));
  return {
    ...grown,
    tracks: [...grown.tracks, ...tracks.values()],
    patterns: grown.patterns.map((pattern) => ({
      ...pattern,
      parts: [
        ...pattern.parts,
        ...[...tracks].map(([from, track]) => {
          const part = first.parts.find((one) => one.track === from);
          if (pattern.id !== patternId || !part)
            return makePart(track.id, patternTicks(grown, pattern));
          return { ...moved(part, tracks), length: Math.min(part.length, ticks) };
        }),
      ],
    })),
  };
}

/**
 * Puts the patterns of another project after those here, on tracks of their own, and its song after the one here; of
 * patterns without a song one is made where it is needed for both to play. Their tempo and metre come along. Throws a
 * RangeError where they do not fit.
 */
export function bringPatterns(project: Project, other: Project, newId: () => string): Project {
  room("track", project.tracks.length + other.tracks.length, LIMITS.tracks);
  room("pattern", project.patterns.length + other.patterns.length, LIMITS.patterns);
  room("section", project.song.length + other.song.length, LIMITS.song);
  const tracks = newTracks(other, newId);
  const here = project.tracks.map(({ id }) => id);
  const ids = new Map(other.patterns.map(({ id }) => [id, newId()]));
  let named = project;
  for (const pattern of other.patterns) {
    const metre = metreOf(other, pattern);
    const same = metre.beats === project.metre.beats && metre.unit === project.metre.unit;
    const { metre: _, stars = [], ...rest } = pattern;
    const starred = stars.flatMap(({ track, ...star }) => {
      const own = track === null ? null : tracks.get(track)?.id;
      return own === undefined ? [] : [{ ...star, track: own }];
    });
    const own: Pattern = {
      ...rest,
      id: mustGet(ids, pattern.id),
      name: nextPatternName(named, pattern.name),
      ...(!same && { metre }),
      ...(starred.length > 0 && { stars: starred }),
      parts: [
        ...here.map((track) => makePart(track, pattern.bars * barTicks(metre))),
        ...pattern.parts.map((part) => moved(part, tracks)),
      ],
    };
    named = { ...named, patterns: [...named.patterns, own] };
  }
  const empty = (pattern: Pattern) =>
    [...tracks.values()].map((track) => makePart(track.id, patternTicks(project, pattern)));
  const before = new Set(project.patterns.map(({ id }) => id));
  // Without a song all patterns play in order: a song of one side alone would silence the other's.
  const withSong =
    project.song.length > 0 || other.song.length > 0 || other.tempo !== project.tempo;
  return {
    ...named,
    tracks: [...project.tracks, ...tracks.values()],
    patterns: named.patterns.map((pattern) =>
      before.has(pattern.id)
        ? { ...pattern, parts: [...pattern.parts, ...empty(pattern)] }
        : pattern,
    ),
    song: [
      ...(withSong ? songHere(project, newId) : []),
      ...(withSong ? wholeSong(other) : []).map(({ tempo = other.tempo, mutes, ...entry }) => ({
        ...entry,
        id: newId(),
        pattern: mustGet(ids, entry.pattern),
        ...(tempo !== project.tempo && { tempo }),
        ...(mutes && { mutes: mutes.flatMap((id) => tracks.get(id)?.id ?? []) }),
      })),
    ],
  };
}

/** The song of a project that gets more: where it has none, of all its patterns, if anything is in them. */
function songHere(project: Project, newId: () => string): readonly SongEntry[] {
  if (project.song.length > 0) return project.song;
  return hasTimes(project) ? songOfAll(project, newId) : [];
}

function room(what: string, wanted: number, most: number): void {
  if (wanted > most)
    throw new RangeError(`${plural(wanted, what)} would be there; at most ${most} fit`);
}
