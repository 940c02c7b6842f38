import type { Note, Part, Pattern, Project, Track } from "./model";

/** Where an edit happens: one track in one pattern. */
export interface PartAddress {
  pattern: string;
  track: string;
}

/** The pattern of an id, or a RangeError that names it. */
export function patternOf(project: Project, id: string): Pattern {
  const pattern = project.patterns.find((pattern) => pattern.id === id);
  if (!pattern) throw new RangeError(`“${id}” is no pattern of this project`);
  return pattern;
}

/** The track of an id, or a RangeError that names it. */
export function trackOf(project: Project, id: string): Track {
  const track = project.tracks.find((track) => track.id === id);
  if (!track) throw new RangeError(`“${id}” is no track of this project`);
  return track;
}

/** The part a track plays in a pattern, or a RangeError that names what is missing. */
export function partOf(project: Project, place: PartAddress): Part {
  const part = patternOf(project, place.pattern).parts.find((part) => part.track === place.track);
  if (!part) throw new RangeError(`“${place.track}” has no part in pattern “${place.pattern}”`);
  return part;
}

/** Changes one track by what it is; nothing where there is no such track. */
export function changeTrackOf(
  project: Project,
  id: string,
  change: (track: Track) => Track,
): Project {
  const tracks = project.tracks.map((track) => (track.id === id ? change(track) : track));
  return { ...project, tracks };
}

/** Changes one pattern; the same project when the pattern comes back unchanged. */
export function changePattern(
  project: Project,
  id: string,
  change: (pattern: Pattern) => Pattern,
): Project {
  const before = patternOf(project, id);
  const after = change(before);
  if (after === before) return project;
  return {
    ...project,
    patterns: project.patterns.map((pattern) => (pattern === before ? after : pattern)),
  };
}

/** Changes one part; the same project when the part comes back unchanged. */
export function changePart(
  project: Project,
  place: PartAddress,
  change: (part: Part) => Part,
): Project {
  const before = partOf(project, place);
  const after = change(before);
  if (after === before) return project;
  return changePattern(project, place.pattern, (pattern) => ({
    ...pattern,
    parts: pattern.parts.map((part) => (part === before ? after : part)),
  }));
}

/** A tapped note whose pitch was chosen is a note like any other. */
export function pitched(before: Note, after: Note): Note {
  if (!after.unpitched || after.pitch === before.pitch) return after;
  const { unpitched: _, ...rest } = after;
  return rest;
}

/** Whether anything stands in time, so that a change of metre has to ask what stays. */
export const hasTimes = ({ patterns }: Pick<Project, "patterns">): boolean =>
  patterns.some(
    ({ parts, chords = [] }) => chords.length > 0 || parts.some((part) => part.notes.length > 0),
  );
