import type { Note, Part, Project } from "../score";
import { nth, lastOf } from "../base";

const NONE: ReadonlySet<string> = new Set();

/** Whether two notes stand at one place: the same start, the same pitch, or both without one. */
const isTwin = (a: Note, b: Note) =>
  a.start === b.start && a.pitch === b.pitch && a.unpitched === b.unpitched;

/**
 * An edited project in which no two notes of a part stand at one place, but where they did so before the
 * edit. Of two the one that is `preferred` stays, else the one that the edit made or changed, else the
 * louder, else the longer. Only parts that differ from `before` are looked at. Gives how many notes went.
 */
export function withoutDuplicates(
  before: Project,
  after: Project,
  preferred: ReadonlySet<string> = NONE,
): { project: Project; replaced: number } {
  if (before.patterns === after.patterns) return { project: after, replaced: 0 };
  let replaced = 0;
  const patterns = after.patterns.map((pattern) => {
    const was = before.patterns.find((p) => p.id === pattern.id);
    if (was === pattern || was?.parts === pattern.parts) return pattern;
    let differs = false;
    const parts = pattern.parts.map((part) => {
      const old = was?.parts.find((p) => p.track === part.track);
      if (old?.notes === part.notes) return part;
      const single = singled(part, old, preferred);
      replaced += part.notes.length - single.notes.length;
      differs ||= single !== part;
      return single;
    });
    return differs ? { ...pattern, parts } : pattern;
  });
  return { project: replaced > 0 ? { ...after, patterns } : after, replaced };
}

function singled(part: Part, old: Part | undefined, preferred: ReadonlySet<string>): Part {
  const { notes } = part;
  // Notes are in order of start and pitch, so that duplicates are neighbours.
  let first = 1;
  while (first < notes.length && !isTwin(nth(notes, first - 1), nth(notes, first))) first++;
  if (first >= notes.length) return part;
  const untouched = new Set(old?.notes);
  const byId = new Map(old?.notes.map((note) => [note.id, note]));
  const wereTwins = (a: Note, b: Note) => {
    const [x, y] = [byId.get(a.id), byId.get(b.id)];
    return x !== undefined && y !== undefined && isTwin(x, y);
  };
  const kept = notes.slice(0, first);
  for (let i = first; i < notes.length; i++) {
    const [last, note] = [lastOf(kept), nth(notes, i)];
    if (!isTwin(last, note) || wereTwins(last, note)) kept.push(note);
    else if (rank(note) > rank(last)) kept[kept.length - 1] = note;
  }
  return kept.length === notes.length ? part : { ...part, notes: kept };

  function rank(note: Note): number {
    const mine = preferred.has(note.id) ? 2 : untouched.has(note) ? 0 : 1;
    return mine * 2 ** 40 + note.velocity * 2 ** 30 + note.length;
  }
}
