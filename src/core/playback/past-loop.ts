import { type Note, type PartAddress, type Project, partOf, trackOf } from "../score";
import { lanePeriod } from "./voices";

/** Notes of a part that begin past the end of their loop, where they are not heard; in order. */
export function notesPastLoop(project: Project, place: PartAddress): Note[] {
  const track = trackOf(project, place.track);
  const { notes, length } = partOf(project, place);
  return notes.filter((note) => note.start >= lanePeriod(track, note.pitch, length));
}
