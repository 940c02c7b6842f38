import {
  type Note,
  type Part,
  type PartAddress,
  type Project,
  type Track,
  partOf,
  trackOf,
} from "../score";
import { lanePeriod } from "./voices";

/** What was found of a part, as long as it and its track are the same: views ask at each change of anything. */
const known = new WeakMap<Part, { track: Track; notes: readonly Note[] }>();

/** Notes of a part that begin past the end of their loop, where they are not heard; in order. */
export function notesPastLoop(project: Project, place: PartAddress): readonly Note[] {
  const track = trackOf(project, place.track);
  const part = partOf(project, place);
  const found = known.get(part);
  if (found?.track === track) return found.notes;
  const notes = part.notes.filter(
    (note) => note.start >= lanePeriod(track, note.pitch, part.length),
  );
  known.set(part, { track, notes });
  return notes;
}
