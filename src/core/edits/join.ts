import type { Ticks } from "../base";
import {
  type Note,
  type PartAddress,
  type Project,
  changePart,
  partOf,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
} from "../score";
import { effectivePart } from "../transforms";

/** Names a note that is made of another. */
type IdOf = (note: Note) => string;

/** What a part plays, its chain written, its loop written out to `length` ticks. */
function writtenOut(project: Project, place: PartAddress, length: Ticks): Note[] {
  const pattern = patternOf(project, place.pattern);
  const part = partOf(project, place);
  const effective = effectivePart(project, trackOf(project, place.track), part, pattern);
  const notes: Note[] = [];
  for (let at = 0; at < length; at += effective.length) {
    for (const note of effective.notes) {
      if (note.start < effective.length && note.start + at < length) {
        notes.push(at === 0 ? note : { ...note, start: note.start + at });
      }
    }
  }
  return notes;
}

/**
 * Puts what other tracks play in a pattern into one part and empties theirs. All loops are written out to
 * the longest of them, chains are written. Equal notes (start and pitch) are kept once.
 */
export function joinParts(
  project: Project,
  into: PartAddress,
  from: readonly string[],
  idOf: IdOf,
): Project {
  const places = from
    .filter((track) => track !== into.track)
    .map((track) => ({ pattern: into.pattern, track }));
  if (places.length === 0) return project;
  const full = patternTicks(project, patternOf(project, into.pattern));
  const lengths = [into, ...places].map((place) => Math.min(full, partOf(project, place).length));
  const length = Math.max(...lengths);
  const notes: Note[] = [];
  const taken = new Set<string>();
  for (const place of [into, ...places]) {
    for (const note of writtenOut(project, place, length)) {
      const at = `${note.start}:${note.pitch}`;
      if (taken.has(at)) continue;
      taken.add(at);
      notes.push({ ...note, id: idOf(note) });
    }
  }
  const joined = changePart(project, into, (part) => ({
    ...part,
    notes: sortNotes(notes),
    length,
    chain: [],
  }));
  return places.reduce(
    (project, place) => changePart(project, place, (part) => ({ ...part, notes: [], chain: [] })),
    joined,
  );
}

/** Puts what one track plays in a pattern onto another track, in the place of what it had there. */
export function copyPart(project: Project, from: PartAddress, to: string, idOf: IdOf): Project {
  if (from.track === to) return project;
  const source = partOf(project, from);
  const notes = writtenOut(project, from, source.length).map((note) => ({
    ...note,
    id: idOf(note),
  }));
  return changePart(project, { pattern: from.pattern, track: to }, (part) => ({
    ...part,
    length: source.length,
    grid: source.grid,
    notes: sortNotes(notes),
    chain: [],
  }));
}

/** Makes notes of one pitch each into one, from the first start to the last end. */
export function joinNotes(
  project: Project,
  place: PartAddress,
  ids: ReadonlySet<string>,
): { project: Project; ids: string[] } {
  const { notes } = partOf(project, place);
  const firsts = new Map<number, Note>();
  const gone = new Set<string>();
  const longer = new Map<string, Note>();
  for (const note of notes) {
    if (!ids.has(note.id)) continue;
    const first = firsts.get(note.pitch);
    if (!first) {
      firsts.set(note.pitch, note);
      continue;
    }
    const so = longer.get(first.id) ?? first;
    const end = Math.max(so.start + so.length, note.start + note.length);
    longer.set(first.id, { ...so, length: end - so.start, slide: note.slide });
    gone.add(note.id);
  }
  if (gone.size === 0) return { project, ids: [...ids] };
  const joined = changePart(project, place, (part) => ({
    ...part,
    notes: part.notes
      .filter((note) => !gone.has(note.id))
      .map((note) => longer.get(note.id) ?? note),
  }));
  return { project: joined, ids: [...ids].filter((id) => !gone.has(id)) };
}

/** Cuts notes at a tick of the part; those it does not cross stay. Gives the ids of the later pieces. */
export function cutNotes(
  project: Project,
  place: PartAddress,
  { ids, tick }: { ids: ReadonlySet<string>; tick: Ticks },
  idOf: IdOf,
): { project: Project; fresh: string[] } {
  const fresh: string[] = [];
  const changed = changePart(project, place, (part) => {
    const notes = part.notes.flatMap((note) => {
      const end = note.start + note.length;
      if (!ids.has(note.id) || tick <= note.start || tick >= end) return [note];
      const later = { ...note, id: idOf(note), start: tick, length: end - tick };
      fresh.push(later.id);
      return [{ ...note, length: tick - note.start, slide: false }, later];
    });
    return fresh.length === 0 ? part : { ...part, notes: sortNotes(notes) };
  });
  return { project: changed, fresh };
}
