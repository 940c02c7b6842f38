import { type Bpm, type Ticks, clampTo } from "../base";
import type { Key } from "../pitch";
import {
  LIMITS,
  type Lane,
  type Part,
  type PartAddress,
  type Project,
  type Track,
  changePart,
  changePattern,
  changeTrackOf,
  makePart,
  patternBar,
  patternOf,
  patternTicks,
  withStars,
} from "../score";
import { withoutDeadSources } from "../stored";

/** Renames the project; an empty name changes nothing. */
export function renameProject(project: Project, name: string): Project {
  const trimmed = name.trim().slice(0, LIMITS.name);
  return trimmed === "" || trimmed === project.name ? project : { ...project, name: trimmed };
}

/** Tempo in BPM, held to its range and to hundredths. */
export function setTempo(project: Project, bpm: Bpm): Project {
  const tempo = Math.round(clampTo(bpm, LIMITS.tempo) * 100) / 100;
  return tempo === project.tempo || !Number.isFinite(tempo) ? project : { ...project, tempo };
}

/** Changes the key; the notes stay as they are. */
export function setKey(project: Project, key: Key): Project {
  return { ...project, key };
}

/**
 * Length of a pattern in bars. When it grows, parts with notes keep their loop and repeat under
 * the rest; empty parts grow with it. When it shrinks, no loop is longer than the pattern; notes
 * past the end stay in the score.
 */
export function setBars(project: Project, patternId: string, bars: number): Project {
  const whole = Math.round(clampTo(bars, { min: 1, max: LIMITS.bars }));
  return changePattern(project, patternId, (pattern) => {
    if (whole === pattern.bars) return pattern;
    const length = whole * patternBar(project, pattern);
    const resize = (part: Part) =>
      part.notes.length === 0 || part.length > length ? { ...part, length } : part;
    return { ...pattern, bars: whole, parts: pattern.parts.map(resize) };
  });
}

/** Loop length of one part in ticks, from 1 to the pattern's length. */
export function setPartLength(project: Project, place: PartAddress, ticks: Ticks): Project {
  const longest = patternTicks(project, patternOf(project, place.pattern));
  const length = Math.round(clampTo(ticks, { min: 1, max: longest }));
  return changePart(project, place, (part) =>
    part.length === length ? part : { ...part, length },
  );
}

/** Changes a track's own fields. */
export function changeTrack(
  project: Project,
  id: string,
  change: Partial<Omit<Track, "id" | "kind" | "lanes">>,
): Project {
  return changeTrackOf(project, id, (track) => ({ ...track, ...change }));
}

/** Changes a lane of a drum track. */
export function changeLane(
  project: Project,
  trackId: string,
  laneId: string,
  change: Partial<Omit<Lane, "id">>,
): Project {
  return {
    ...project,
    tracks: project.tracks.map((track) =>
      track.id === trackId
        ? {
            ...track,
            lanes: track.lanes.map((lane) => (lane.id === laneId ? { ...lane, ...change } : lane)),
          }
        : track,
    ),
  };
}

/** Adds a track with an empty part in every pattern. */
export function addTrack(project: Project, track: Track): Project {
  return {
    ...project,
    tracks: [...project.tracks, track],
    patterns: project.patterns.map((pattern) => ({
      ...pattern,
      parts: [...pattern.parts, makePart(track.id, patternTicks(project, pattern))],
    })),
  };
}

/** Takes a track and its parts away; chains that took their timing from it take it from none. */
export function deleteTrack(project: Project, id: string): Project {
  return withoutDeadSources({
    ...project,
    tracks: project.tracks.filter((track) => track.id !== id),
    patterns: project.patterns.map((pattern) =>
      withStars(
        { ...pattern, parts: pattern.parts.filter((part) => part.track !== id) },
        pattern.stars?.filter((star) => star.track !== id) ?? [],
      ),
    ),
  });
}

/** A name for the next pattern, after the one that it is made of: “Main”, “Main 2”, “Main 3” … */
export function nextPatternName(project: Project, of = "New"): string {
  const taken = new Set(project.patterns.map((pattern) => pattern.name));
  const base = of.replace(/ \d+$/, "").slice(0, LIMITS.name - 5);
  let name = base;
  for (let n = 2; taken.has(name); n++) name = `${base} ${n}`;
  return name;
}

/** Adds a pattern: a copy of another to vary, or an empty one as long as it and in its metre. */
export function addPattern(
  project: Project,
  id: string,
  from: string,
  how: "copy" | "empty",
): Project {
  const source = patternOf(project, from);
  const made = { id, name: nextPatternName(project, how === "copy" ? source.name : undefined) };
  if (how === "copy")
    return { ...project, patterns: [...project.patterns, { ...source, ...made }] };
  const { chords: _, colour: __, ...plain } = source;
  const length = patternTicks(project, source);
  const parts = source.parts.map(({ track, grid }) => makePart(track, length, grid));
  return { ...project, patterns: [...project.patterns, { ...plain, ...made, parts }] };
}

/** Takes a pattern away, from the song too; the last one stays. */
export function deletePattern(project: Project, id: string): Project {
  if (project.patterns.length < 2) return project;
  return {
    ...project,
    patterns: project.patterns.filter((pattern) => pattern.id !== id),
    song: project.song.filter((entry) => entry.pattern !== id),
  };
}
