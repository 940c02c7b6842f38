import type { Problem } from "../params";
import type { ChordMark, Part, Project, SongEntry, Track } from "../score";
import { TRANSFORMS, trackParams } from "../transforms";

/** Ids used twice, and what refers to a track, pattern or transform that is not there. */
export function referenceProblems(project: Project): Problem[] {
  const { tracks, patterns, song } = project;
  const trackIds = new Set(tracks.map((track) => track.id));
  const patternIds = new Set(patterns.map((pattern) => pattern.id));
  return [
    ...twice(tracks, "tracks"),
    ...twice(patterns, "patterns"),
    ...tracks.flatMap((track, i) => trackProblems(track, `tracks[${i}]`)),
    ...patterns.flatMap(({ chords = [], parts }, i) => {
      const path = `patterns[${i}]`;
      return [
        ...chordProblems(chords, `${path}.chords`),
        ...memberProblems(parts, trackIds, path),
        ...parts.flatMap((part, j) => partProblems(part, trackIds, `${path}.parts[${j}]`)),
      ];
    }),
    ...songProblems(song, "song"),
    ...song.flatMap(({ pattern, mutes = [] }, i) => [
      ...(patternIds.has(pattern)
        ? []
        : [{ path: `song[${i}].pattern`, reason: `“${pattern}” is no pattern of this project` }]),
      ...mutes.flatMap((track, j) =>
        trackIds.has(track)
          ? []
          : [{ path: `song[${i}].mutes[${j}]`, reason: `“${track}” is no track of this project` }],
      ),
    ]),
  ];
}

/** What is wrong inside a track: a lane or a pad that is there twice, a kit where none belongs. */
export function trackProblems({ kind, lanes, kit, shaping }: Track, path: string): Problem[] {
  const problems = twice(lanes, `${path}.lanes`);
  const pads = new Set<number>();
  kit?.pads.forEach(({ pitch }, j) => {
    if (pads.has(pitch)) {
      problems.push({
        path: `${path}.kit.pads[${j}].pitch`,
        reason: `pad ${pitch} is shaped twice`,
      });
    }
    pads.add(pitch);
  });
  if (kit && kind !== "drums") {
    problems.push({ path: `${path}.kit`, reason: "belongs to drum tracks only" });
  }
  if (shaping && kind !== "melody") {
    problems.push({ path: `${path}.shaping`, reason: "belongs to melodic tracks only" });
  }
  return problems;
}

/** Chords that are in a chord line twice. */
export const chordProblems = (chords: readonly ChordMark[], path: string): Problem[] =>
  twice(chords, path);

/** Sections that are in a song twice; those of earlier versions have no ids. Chords twice in one of them. */
export const songProblems = (song: readonly SongEntry[], path: string): Problem[] => [
  ...twice(
    song.filter((entry) => entry.id !== undefined),
    path,
  ),
  ...song.flatMap(({ chords = [] }, i) => twice(chords, `${path}[${i}].chords`)),
];

/**
 * What is wrong inside a part: the steps of its chain; what they name among the tracks, where their ids
 * are given.
 */
export function partProblems(
  { chain }: Part,
  tracks: ReadonlySet<string> | null,
  path: string,
): Problem[] {
  return [
    ...twice(chain, `${path}.chain`),
    ...chain.flatMap((step, k): Problem[] => {
      const at = `${path}.chain[${k}]`;
      const transform = TRANSFORMS[step.transform];
      if (!transform) {
        return [{ path: `${at}.transform`, reason: `“${step.transform}” is no known transform` }];
      }
      const wrong = transform
        .problems(step.params)
        .map((problem) => ({ path: `${at}.params.${problem.path}`, reason: problem.reason }));
      if (wrong.length > 0) return wrong;
      return trackParams(step.transform).flatMap((name) => {
        const value = step.params[name];
        if (typeof value !== "string" || value === "" || tracks?.has(value) !== false) return [];
        return [{ path: `${at}.params.${name}`, reason: `“${value}” is no track of this project` }];
      });
    }),
  ];
}

/** One part for each track, and none besides. */
function memberProblems(
  parts: readonly Part[],
  tracks: ReadonlySet<string>,
  path: string,
): Problem[] {
  const problems: Problem[] = [];
  const seen = new Set<string>();
  parts.forEach(({ track }, j) => {
    const at = `${path}.parts[${j}].track`;
    if (!tracks.has(track)) {
      problems.push({ path: at, reason: `“${track}” is no track of this project` });
    }
    if (seen.has(track)) problems.push({ path: at, reason: `“${track}” already has a part here` });
    seen.add(track);
  });
  for (const track of tracks) {
    if (!seen.has(track)) {
      problems.push({ path: `${path}.parts`, reason: `has no part for track “${track}”` });
    }
  }
  return problems;
}

function twice(items: readonly { id: string }[], path: string): Problem[] {
  const ids = new Set<string>();
  return items.flatMap(({ id }, i) => {
    if (ids.has(id)) return [{ path: `${path}[${i}].id`, reason: `“${id}” is used twice` }];
    ids.add(id);
    return [];
  });
}
