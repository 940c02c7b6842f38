import type { MidiPitch } from "../base";
import type { Note, Project, Track } from "../score";

/** A part of a project: one track, of it one lane, or notes of one pattern. */
export interface Narrow {
  track: string;
  lane?: MidiPitch;
  /** Ids of the notes in `pattern`. */
  notes?: { pattern: string; ids: ReadonlySet<string> };
}

/**
 * The project with nothing in it but a few tracks, of each one lane or a few notes on wish; they sound, even if they
 * are muted. Cards of the chain work on what is left. Throws a RangeError for a track that is not there.
 */
export function narrowed(project: Project, ...wanted: readonly Narrow[]): Project {
  const by = new Map(wanted.map((one) => [one.track, one]));
  for (const id of by.keys()) {
    const known = project.tracks.some((track) => track.id === id);
    if (!known) throw new RangeError(`“${id}” is no track of this project`);
  }
  return {
    ...project,
    tracks: project.tracks.filter(({ id }) => by.has(id)).map(alone),
    song: project.song.map(({ mutes: _, ...entry }) => entry),
    patterns: project.patterns.map((pattern) => ({
      ...pattern,
      parts: pattern.parts.flatMap((part) => {
        const one = by.get(part.track);
        return one ? [{ ...part, notes: part.notes.filter(isIn(one, pattern.id)) }] : [];
      }),
    })),
  };
}

const isIn =
  ({ lane, notes }: Narrow, pattern: string) =>
  (note: Note): boolean =>
    (lane === undefined || note.pitch === lane) &&
    (!notes || (pattern === notes.pattern && notes.ids.has(note.id)));

/** A track that sounds, and is ducked by none. */
function alone({ mix, ...track }: Track): Track {
  const heard = { ...track, mute: false, solo: false };
  return mix ? { ...heard, mix: { ...mix, duckBy: "" } } : heard;
}
