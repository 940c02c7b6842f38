import { plural } from "../base";
import { LIMITS, type Note, type Part, type Pattern, type Project, type Track } from "../score";
import { chainWithin, fitsPart } from "../transforms";
import { patternTooLarge, unfoldedNotes } from "../playback";

/** “The project would hold 65 tracks; the limit is 64.”, or null where it fits. */
const tooMany = (what: string, count: number, most: number, thing: string): string | null =>
  count > most
    ? `${what} would hold ${plural(count, thing)}; the limit is ${most.toLocaleString("en-GB")}.`
    : null;

/**
 * What keeps an edited project from being one: the first limit of the model that the edit exceeds,
 * as a sentence with the numbers, or null. Only what differs from `before` is looked at, so that an
 * edit of one part costs no more than that part.
 */
export function limitProblem(before: Project, after: Project): string | null {
  const { tracks, patterns, song } = after;
  return (
    tooMany("The project", tracks.length, LIMITS.tracks, "track") ??
    tooMany("The project", patterns.length, LIMITS.patterns, "pattern") ??
    tooMany("The song", song.length, LIMITS.song, "section") ??
    firstProblem(before.tracks, tracks, trackProblem) ??
    firstProblem(before.patterns, patterns, (pattern, was) =>
      patternProblem(after, pattern, was),
    ) ??
    unfoldProblem(before, after)
  );
}

/** What plays must not unfold to more than can be shown, unless it did before and does not grow. */
function unfoldProblem(before: Project, after: Project): string | null {
  const all = before.tracks !== after.tracks || before.metre !== after.metre;
  if (!all && before.patterns === after.patterns) return null;
  for (const pattern of after.patterns) {
    const was = before.patterns.find((p) => p.id === pattern.id);
    if (!all && was === pattern) continue;
    const problem = patternTooLarge(after, pattern);
    if (!problem) continue;
    const grows = !was || unfoldedNotes(after, pattern) > unfoldedNotes(before, was);
    if (grows) return problem;
  }
  return null;
}

function firstProblem<T extends { id: string }>(
  before: readonly T[],
  after: readonly T[],
  problem: (item: T, was: T | undefined) => string | null,
): string | null {
  if (before === after) return null;
  const old = new Map(before.map((item) => [item.id, item]));
  for (const item of after) {
    const was = old.get(item.id);
    const found = was === item ? null : problem(item, was);
    if (found) return found;
  }
  return null;
}

const trackProblem = (track: Track) =>
  tooMany(`“${track.name}”`, track.lanes.length, LIMITS.lanes, "lane");

function patternProblem(
  project: Project,
  pattern: Pattern,
  was: Pattern | undefined,
): string | null {
  const chords = pattern.chords?.length ?? 0;
  const many = tooMany(`The chord line of “${pattern.name}”`, chords, LIMITS.chords, "chord");
  if (many) return many;
  const old = new Set(was?.parts);
  for (const part of pattern.parts) {
    if (old.has(part)) continue;
    const before = was?.parts.find((p) => p.track === part.track);
    const found = partProblem(project, part) ?? chainProblem(project, pattern, part, before);
    if (found) return found;
  }
  return null;
}

function partProblem(project: Project, part: Part): string | null {
  const name = project.tracks.find((track) => track.id === part.track)?.name ?? part.track;
  const { notes, chain } = part;
  return (
    tooMany(`The part of “${name}”`, notes.length, LIMITS.notesPerPart, "note") ??
    tooMany(`The chain of “${name}”`, chain.length, LIMITS.chain, "card") ??
    farNote(name, notes)
  );
}

/** Notes are in order of their starts, but a long one may end later than those after it. */
function farNote(name: string, notes: readonly Note[]): string | null {
  const last = notes[notes.length - 1];
  const far = (last?.start ?? 0) > LIMITS.ticks || notes.some((note) => note.length > LIMITS.ticks);
  return far ? `A note of “${name}” would lie beyond ${plural(LIMITS.ticks, "tick")}.` : null;
}

/**
 * What a part's chain makes must fit a part too, or it could never be written. A part that an earlier
 * version let grow beyond may be changed as long as it does not grow.
 */
function chainProblem(
  project: Project,
  pattern: Pattern,
  part: Part,
  before: Part | undefined,
): string | null {
  const track = project.tracks.find((track) => track.id === part.track);
  if (!track || !part.chain.some((step) => step.on)) return null;
  const made = chainWithin(project, track, part, pattern);
  if (made && fitsPart(made)) return null;
  const was = before ? chainWithin(project, track, before, pattern) : [];
  if (!was || (made && !fitsPart(was) && made.length <= was.length)) return null;
  if (!made) {
    return `The part of “${track.name}” with its chain would hold far more than ${plural(LIMITS.notesPerPart, "note")}, which is the limit.`;
  }
  return (
    tooMany(
      `The part of “${track.name}” with its chain`,
      made.length,
      LIMITS.notesPerPart,
      "note",
    ) ?? `The chain of “${track.name}” would put a note beyond ${plural(LIMITS.ticks, "tick")}.`
  );
}
