import { type Ticks, nth } from "../base";
import {
  type Note,
  type PartAddress,
  type Project,
  changePart,
  ownLoops,
  partOf,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
  withBend,
  writtenOut,
} from "../score";
import { effectivePart } from "../transforms";
import { bendOver, byLoop } from "./lane-loop";
import { withoutOwnLoops } from "./own-loops";

/** Names a note that is made of another. */
type IdOf = (note: Note) => string;

/** Tells the copies of a note apart until all are named. */
const copyId = ({ id }: Note, copy: number): string => `${id}.${copy}`;

const effectiveAt = (project: Project, place: PartAddress) =>
  effectivePart(
    project,
    trackOf(project, place.track),
    partOf(project, place),
    patternOf(project, place.pattern),
  );

/** The loops that a part goes round in, its own first; those of its lanes where they are to be written out. */
function loopsOf(project: Project, place: PartAddress, lanes: boolean): Ticks[] {
  const { notes, length } = effectiveAt(project, place);
  const groups = byLoop(trackOf(project, place.track), notes, length);
  return groups.flatMap((group, i) =>
    i === 0 || (lanes && group.notes.length > 0) ? [group.period] : [],
  );
}

/** The longest loop, where the others go into it whole and it into the pattern; else the whole pattern. */
function commonLength(loops: readonly Ticks[], full: Ticks): Ticks {
  const longest = Math.min(full, Math.max(...loops));
  return loops.every((loop) => longest % loop === 0) ? longest : full;
}

/** What a part plays in `length` ticks: its chain written, its loop and those of its lanes written out. */
function playedIn(project: Project, place: PartAddress, length: Ticks): Note[] {
  const effective = effectiveAt(project, place);
  return byLoop(trackOf(project, place.track), effective.notes, effective.length).flatMap(
    ({ notes, period }) =>
      writtenOut(
        notes.filter((note) => note.start < period),
        { period, ticks: length },
        copyId,
      ),
  );
}

/** Takes the lanes of a track which others play on too the loops of their own. */
function roomFor(project: Project, into: string, notes: readonly Note[], idOf: IdOf): Project {
  return withoutOwnLoops(project, into, new Set(notes.map(({ pitch }) => pitch)), idOf);
}

/**
 * Puts what other tracks play in a pattern into one part and empties theirs. Loops are written out to the longest of
 * them, to the whole pattern where they do not fit into that; chains are written. Equal notes (start and pitch) are
 * kept once.
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
  const roomy = roomFor(
    project,
    into.track,
    places.flatMap((place) => effectiveAt(project, place).notes),
    idOf,
  );
  const length = commonLength(
    [into, ...places].flatMap((place) => loopsOf(roomy, place, place !== into)),
    patternTicks(roomy, patternOf(roomy, into.pattern)),
  );
  const fresh = places.flatMap((place) => playedIn(roomy, place, length));
  const track = trackOf(roomy, into.track);
  const own = ownLoops(track);
  const now = effectiveAt(roomy, into);
  const before = writtenOut(
    now.notes.filter(({ pitch }) => !own.has(pitch)),
    { period: now.length, ticks: length },
    copyId,
  );
  const taken = new Set<string>();
  const notes = [...before, ...fresh].flatMap((note) => {
    const at = `${note.start}:${note.pitch}`;
    if (taken.has(at)) return [];
    taken.add(at);
    return [{ ...note, id: idOf(note) }];
  });
  const looped = now.notes.filter(({ pitch }) => own.has(pitch));
  const curve = now.bend.length > 0 ? bendOver(now.bend, now.length, length) : [];
  const joined = changePart(roomy, into, (part) =>
    withBend({ ...part, notes: sortNotes([...looped, ...notes]), length, chain: [] }, curve),
  );
  return places.reduce(
    (project, place) => changePart(project, place, (part) => ({ ...part, notes: [], chain: [] })),
    joined,
  );
}

/**
 * Puts what one track plays in a pattern onto another track, with its bend, in the place of what it had there. What
 * lanes with loops of their own play is written out.
 */
export function copyPart(project: Project, from: PartAddress, to: string, idOf: IdOf): Project {
  if (from.track === to) return project;
  const pattern = patternOf(project, from.pattern);
  const source = partOf(project, from);
  const loops = loopsOf(project, from, true);
  const length = commonLength(loops, patternTicks(project, pattern));
  const notes = playedIn(project, from, length).map((note) => ({ ...note, id: idOf(note) }));
  const melodic = trackOf(project, to).kind === "melody";
  const { bend } = effectiveAt(project, from);
  const curve = melodic && bend.length > 0 ? bendOver(bend, nth(loops, 0), length) : null;
  return changePart(
    roomFor(project, to, notes, idOf),
    { pattern: from.pattern, track: to },
    ({ bend: _, generated: __, ...part }) => ({
      ...part,
      length,
      grid: source.grid,
      notes: sortNotes(notes),
      chain: [],
      ...(curve && { bend: curve }),
    }),
  );
}

/**
 * Joins notes: those of one pitch alone into one, from the first start to the last end; of several pitches only what
 * touches and is one chord, which is where all that end at a tick begin there again. So a chord that was split is one
 * again, and a tone that two chords share stays two notes.
 */
export function joinNotes(
  project: Project,
  place: PartAddress,
  ids: ReadonlySet<string>,
): { project: Project; ids: string[] } {
  const wanted = partOf(project, place).notes.filter(({ id }) => ids.has(id));
  const joins = new Set(wanted.map(({ pitch }) => pitch)).size === 1 ? null : seams(wanted);
  const gone = new Set<string>();
  const longer = new Map<string, Note>();
  const last = new Map<number, Note>();
  for (const note of wanted) {
    const first = last.get(note.pitch);
    const so = first && (longer.get(first.id) ?? first);
    if (!first || !so || (joins && !(endOf(so) === note.start && joins.has(note.start)))) {
      last.set(note.pitch, note);
      continue;
    }
    const end = Math.max(endOf(so), endOf(note));
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

const endOf = ({ start, length }: Note): Ticks => start + length;

/** Ticks at which just those pitches begin that end there. */
function seams(notes: readonly Note[]): ReadonlySet<Ticks> {
  const pitchesAt = (tickOf: (note: Note) => Ticks) => {
    const found = new Map<Ticks, Set<number>>();
    for (const note of notes) {
      const tick = tickOf(note);
      const pitches = found.get(tick) ?? new Set();
      found.set(tick, pitches.add(note.pitch));
    }
    return found;
  };
  const [starting, ending] = [pitchesAt(({ start }) => start), pitchesAt(endOf)];
  return new Set(
    [...starting.keys()].filter((tick) => {
      const [begin, end] = [starting.get(tick), ending.get(tick)];
      return begin?.size === end?.size && [...(begin ?? [])].every((pitch) => end?.has(pitch));
    }),
  );
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
