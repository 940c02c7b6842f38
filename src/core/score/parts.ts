import { sortNotes, type Note, type Part, type Pattern, type Project, type Track } from "./model";

/** Where an edit happens: one track in one pattern. */
export interface Place {
  pattern: string;
  track: string;
}

/** The pattern of an id, or a RangeError that names it. */
export function patternOf(project: Project, id: string): Pattern {
  const pattern = project.patterns.find((p) => p.id === id);
  if (!pattern) throw new RangeError(`“${id}” is no pattern of this project`);
  return pattern;
}

/** The track of an id, or a RangeError that names it. */
export function trackOf(project: Project, id: string): Track {
  const track = project.tracks.find((t) => t.id === id);
  if (!track) throw new RangeError(`“${id}” is no track of this project`);
  return track;
}

/** The part a track plays in a pattern, or a RangeError that names what is missing. */
export function partOf(project: Project, place: Place): Part {
  const part = patternOf(project, place.pattern).parts.find((p) => p.track === place.track);
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
  return { ...project, patterns: project.patterns.map((p) => (p === before ? after : p)) };
}

/** Changes one part; the same project when the part comes back unchanged. */
export function changePart(project: Project, place: Place, change: (part: Part) => Part): Project {
  const before = partOf(project, place);
  const after = change(before);
  if (after === before) return project;
  return changePattern(project, place.pattern, (pattern) => ({
    ...pattern,
    parts: pattern.parts.map((p) => (p === before ? after : p)),
  }));
}

/** Adds notes to a part. */
export function addNotes(project: Project, place: Place, notes: readonly Note[]): Project {
  if (notes.length === 0) return project;
  return changePart(project, place, (part) => ({
    ...part,
    notes: sortNotes([...part.notes, ...notes]),
  }));
}

/** Takes notes away by id. */
export function deleteNotes(project: Project, place: Place, ids: ReadonlySet<string>): Project {
  return changePart(project, place, (part) => {
    const notes = part.notes.filter((note) => !ids.has(note.id));
    return notes.length === part.notes.length ? part : { ...part, notes };
  });
}

/** Changes the notes with these ids by a function; held to the ranges of the model by the caller. */
export function changeNotes(
  project: Project,
  place: Place,
  ids: ReadonlySet<string>,
  change: (note: Note) => Note,
): Project {
  return changePart(project, place, (part) => {
    let touched = false;
    const notes = part.notes.map((note) => {
      if (!ids.has(note.id)) return note;
      const after = pitched(note, change(note));
      touched ||= after !== note;
      return after;
    });
    return touched ? { ...part, notes: sortNotes(notes) } : part;
  });
}

/** A tapped note whose pitch was chosen is a note like any other. */
export function pitched(before: Note, after: Note): Note {
  if (!after.unpitched || after.pitch === before.pitch) return after;
  const { unpitched: _, ...rest } = after;
  return rest;
}

/** Puts other notes in the place of all notes of a part. */
export function setNotes(project: Project, place: Place, notes: readonly Note[]): Project {
  return changePart(project, place, (part) => ({ ...part, notes: sortNotes(notes) }));
}
