import { mustGet, plural } from "../base";
import { stepTicks } from "../time";
import {
  LIMITS,
  type Lane,
  type Note,
  type PartAddress,
  type Project,
  type Track,
  changePart,
  ownLoops,
  patternBar,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
  writtenOut,
} from "../score";
import { lanePeriod, notesPastLoop } from "../playback";
import { lengthened } from "./lane-loop";
import { changeLane, setBars } from "./project";

/**
 * Lengthens loops so that every note of a part begins inside its own: the part's by whole bars, and the pattern with
 * it; that of a lane with a loop of its own by its steps, in all patterns. What a loop repeated inside its pattern is
 * written out, but for hits in whose place one is now. Gives what is longer now in words, empty where nothing had to
 * be. Where a limit is reached, notes stay beyond it.
 */
export function growLoops(
  project: Project,
  place: PartAddress,
  idOf: (note: Note) => string,
): { project: Project; message: string } {
  const beyond = notesPastLoop(project, place);
  if (beyond.length === 0) return { project, message: "" };
  const track = trackOf(project, place.track);
  const message: string[] = [];
  let after = project;
  for (const lane of track.lanes) {
    const last = beyond.findLast((note) => note.pitch === lane.pitch);
    if (!lane.steps || !last) continue;
    // By whole loops, so that it goes on in time with all else.
    const needed = Math.floor(last.start / stepTicks(lane.grid)) + 1;
    const steps = Math.min(LIMITS.steps, Math.ceil(needed / lane.steps) * lane.steps);
    after = withLaneSteps(after, track, { ...lane, steps }, idOf);
    message.push(`${lane.name} now loops over ${plural(steps, "step")}`);
  }
  const own = ownLoops(track);
  const last = beyond.findLast((note) => !own.has(note.pitch));
  if (!last) return { project: after, message: message.join(", ") };
  const pattern = patternOf(project, place.pattern);
  const bar = patternBar(project, pattern);
  const bars = Math.min(LIMITS.bars, Math.floor(last.start / bar) + 1);
  after = withBars(after, place.pattern, bars);
  after = changePart(after, place, (part) => {
    const past = new Set(beyond.filter((note) => !own.has(note.pitch)));
    const inside = { ...part, notes: part.notes.filter((note) => !past.has(note)) };
    // Beyond the pattern's end nothing was seen or heard.
    const long = lengthened(track, inside, Math.min(bars, pattern.bars) * bar, idOf);
    return { ...long, length: bars * bar, notes: withoutTaken(long.notes, [...past]) };
  });
  message.push(`the loop is now ${plural(bars, "bar")}`);
  return { project: after, message: message.join(", ") };
}

/** Notes with others put to them, which take the place of those that begin where they do. */
function withoutTaken(notes: readonly Note[], put: readonly Note[]): readonly Note[] {
  const placeOf = ({ start, pitch }: Note) => `${start}:${pitch}`;
  const taken = new Set(put.map(placeOf));
  return sortNotes([...notes.filter((note) => !taken.has(placeOf(note))), ...put]);
}

/** A kit one of whose lanes has a longer loop: what it repeated is written out in every pattern. */
function withLaneSteps(
  project: Project,
  track: Track,
  lane: Lane,
  idOf: (note: Note) => string,
): Project {
  const before = mustGet(ownLoops(track), lane.pitch);
  const period = (lane.steps ?? 1) * stepTicks(lane.grid);
  const patterns = project.patterns.map((pattern) => ({
    ...pattern,
    parts: pattern.parts.map((part) => {
      const hits = part.notes.filter(({ pitch }) => pitch === lane.pitch);
      if (part.track !== track.id || hits.length === 0) return part;
      const seen = Math.min(period, patternTicks(project, pattern));
      const inside = hits.filter(({ start }) => start < before);
      const past = hits.filter(({ start }) => start >= before);
      const others = part.notes.filter(({ pitch }) => pitch !== lane.pitch);
      const long = writtenOut(inside, { period: before, ticks: Math.max(seen, before) }, idOf);
      return { ...part, notes: sortNotes([...others, ...withoutTaken(long, past)]) };
    }),
  }));
  return changeLane({ ...project, patterns }, track.id, lane.id, { steps: lane.steps });
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
