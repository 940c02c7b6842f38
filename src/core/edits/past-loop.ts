import { plural } from "../base";
import { stepTicks } from "../time";
import {
  LIMITS,
  type Note,
  type PartAddress,
  type Project,
  changePart,
  patternBar,
  patternOf,
  sortNotes,
  trackOf,
} from "../score";
import { lanePeriod, notesPastLoop } from "../playback";
import { changeLane, setBars } from "./project";

/**
 * Lengthens loops so that every note of a part begins inside its own: the part's by whole bars, and the
 * pattern with it; that of a lane with a loop of its own by its steps. Gives what is longer now in words,
 * empty where nothing had to be. Where a limit is reached, notes stay beyond it.
 */
export function growLoops(
  project: Project,
  place: PartAddress,
): { project: Project; message: string } {
  const beyond = notesPastLoop(project, place);
  if (beyond.length === 0) return { project, message: "" };
  const { lanes } = trackOf(project, place.track);
  const message: string[] = [];
  let after = project;
  for (const lane of lanes) {
    const last = beyond.findLast((note) => note.pitch === lane.pitch);
    if (!lane.steps || !last) continue;
    const steps = Math.min(LIMITS.steps, Math.floor(last.start / stepTicks(lane.grid)) + 1);
    after = changeLane(after, place.track, lane.id, { steps });
    message.push(`${lane.name} now loops over ${plural(steps, "step")}`);
  }
  const own = new Set(lanes.flatMap((lane) => (lane.steps ? [lane.pitch] : [])));
  const last = beyond.findLast((note) => !own.has(note.pitch));
  if (!last) return { project: after, message: message.join(", ") };
  const bar = patternBar(project, patternOf(project, place.pattern));
  const bars = Math.min(LIMITS.bars, Math.floor(last.start / bar) + 1);
  after = withBars(after, place.pattern, bars);
  after = changePart(after, place, (part) => ({ ...part, length: bars * bar }));
  message.push(`the loop is now ${plural(bars, "bar")}`);
  return { project: after, message: message.join(", ") };
}

/** A pattern of at least so many bars. */
export function withBars(project: Project, pattern: string, bars: number): Project {
  return bars > patternOf(project, pattern).bars ? setBars(project, pattern, bars) : project;
}

/** Brings notes past the end of their loop in at its beginning, as the loop goes round. */
export function wrapPastLoop(project: Project, place: PartAddress): Project {
  const track = trackOf(project, place.track);
  return changePart(project, place, (part) => {
    const round = (note: Note) => {
      const period = lanePeriod(track, note.pitch, part.length);
      return note.start >= period ? { ...note, start: note.start % period } : note;
    };
    return { ...part, notes: sortNotes(part.notes.map(round)) };
  });
}

/** Deletes notes past the end of their loop. */
export function deletePastLoop(project: Project, place: PartAddress): Project {
  const gone = new Set(notesPastLoop(project, place));
  return changePart(project, place, (part) => ({
    ...part,
    notes: part.notes.filter((note) => !gone.has(note)),
  }));
}
