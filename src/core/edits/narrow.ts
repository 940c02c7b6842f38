import type { MidiPitch } from "../base";
import type { Project } from "../score";

/** A part of a project: one track, of it one lane, or notes of one pattern. */
export interface Narrow {
  track: string;
  lane?: MidiPitch;
  /** Ids of the notes in `pattern`. */
  notes?: { pattern: string; ids: ReadonlySet<string> };
}

/**
 * The project with nothing but one track in it, of that one lane or a few notes on wish; it sounds, even if it is
 * muted. Cards of the chain work on what is left. Throws a RangeError for a track that is not there.
 */
export function narrowed(project: Project, { track: id, lane, notes }: Narrow): Project {
  const track = project.tracks.find((track) => track.id === id);
  if (!track) throw new RangeError(`“${id}” is no track of this project`);
  const { mix, ...rest } = track;
  const alone = { ...rest, mute: false, solo: false };
  return {
    ...project,
    tracks: [mix ? { ...alone, mix: { ...mix, duckBy: "" } } : alone],
    song: project.song.map(({ mutes: _, ...entry }) => entry),
    patterns: project.patterns.map((pattern) => ({
      ...pattern,
      parts: pattern.parts
        .filter((part) => part.track === id)
        .map((part) => ({
          ...part,
          notes: part.notes.filter(
            (note) =>
              (lane === undefined || note.pitch === lane) &&
              (!notes || (pattern.id === notes.pattern && notes.ids.has(note.id))),
          ),
        })),
    })),
  };
}
