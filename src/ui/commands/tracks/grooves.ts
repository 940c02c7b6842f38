import type { Grid } from "@/core/time";
import { type Note, type Project, metreOf, partOf, patternOf, trackOf } from "@/core/score";
import { fromSource, grooveOf, grooveText } from "@/core/groove";
import { effectivePart } from "@/core/transforms";
import { FormatError, readSmf } from "@/core/formats";
import type { Session } from "../../state/store";
import { nth } from "@/core/base";

/** Where a groove may be taken from: a part of this pattern, or one lane of a kit. */
export interface GrooveSource {
  id: string;
  label: string;
}

/** Parts and lanes of the current pattern that have notes. */
export function grooveSources({ project, pattern }: Session): readonly GrooveSource[] {
  return project.tracks.flatMap((track) => {
    const { notes } = partOf(project, { pattern, track: track.id });
    if (notes.length === 0) return [];
    const lanes = track.lanes.filter((lane) => notes.some((note) => note.pitch === lane.pitch));
    return [
      { id: track.id, label: track.name },
      ...(lanes.length > 1
        ? lanes.map((lane) => ({
            id: `${track.id} ${lane.pitch}`,
            label: `${track.name}: ${lane.name}`,
          }))
        : []),
    ];
  });
}

/** The groove of a source as a text; null where it has no notes. */
export function grooveFrom({ project, pattern }: Session, source: string): string | null {
  const [id = "", pitch] = source.split(" ");
  const text = grooveIn(project, pattern, id, pitch === undefined ? null : Number(pitch));
  const { name, lanes } = trackOf(project, id);
  const lane = lanes.find((lane) => String(lane.pitch) === pitch);
  return text && fromSource(text, lane ? `${name}: ${lane.name}` : name);
}

function grooveIn(
  project: Project,
  pattern: string,
  id: string,
  pitch: number | null,
): string | null {
  const track = trackOf(project, id);
  const part = partOf(project, { pattern, track: id });
  const whole = patternOf(project, pattern);
  const { notes } = effectivePart(project, track, part, whole);
  const own = pitch === null ? notes : notes.filter((note) => note.pitch === pitch);
  const gridOf = (note: Pick<Note, "pitch">): Grid =>
    track.lanes.find((lane) => lane.pitch === note.pitch)?.grid ?? part.grid;
  const groove = grooveOf(own, metreOf(project, whole), gridOf);
  return groove && grooveText(groove);
}

/** The groove of the track with the most notes of a MIDI file. Throws a `FormatError` for what is none. */
export function grooveOfFile(bytes: Uint8Array, name: string): string {
  const { project } = readSmf(bytes);
  const pattern = nth(project.patterns, 0);
  const fullest = [...pattern.parts].sort((a, b) => b.notes.length - a.notes.length)[0];
  const text = fullest && grooveIn(project, pattern.id, fullest.track, null);
  if (!text) throw new FormatError("The file holds no notes");
  return fromSource(text, name);
}
