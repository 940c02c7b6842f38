import { type Ticks, nth } from "../base";
import {
  type BendPoint,
  type ChordMark,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type SongEntry,
  bendAt,
  patternBar,
  patternOf,
  patternTicks,
  repeated,
  sectionBars,
  sortNotes,
  trackOf,
} from "../score";
import { effectivePart } from "../transforms";
import { nextPatternName } from "./project";

/** Names for what is made: patterns and sections. */
export interface CutIds {
  pattern(): string;
  section(): string;
}

/**
 * Cuts a long pattern into patterns of so many bars each. Equal ones are one, named again in the song, which
 * plays what it did: sections keep their tempo, mutes and names, and equal neighbours become repeats. Without
 * a song one is made of all patterns in order. Chains are written first, since a piece has notes of its own. The
 * same project where there is nothing to cut.
 */
export function cutPattern(project: Project, id: string, bars: number, ids: CutIds): Project {
  const pattern = patternOf(project, id);
  if (bars < 1 || bars >= pattern.bars) return project;
  const bar = patternBar(project, pattern);
  const whole = pattern.parts.map((part) => unfoldedPart(project, pattern, part));
  const known = new Map<string, Pattern>();
  const pieces: Pattern[] = [];
  let named = { ...project, patterns: project.patterns.filter((p) => p !== pattern) };
  for (let from = 0; from < pattern.bars; from += bars) {
    const count = Math.min(bars, pattern.bars - from);
    const parts = whole.map((part) => pieceOf(part, from * bar, (from + count) * bar));
    const chords = chordsIn(pattern.chords ?? [], from * bar, (from + count) * bar);
    const sign = JSON.stringify([
      count,
      chords.map(({ id: _, ...chord }) => chord),
      parts.map(plain),
    ]);
    let piece = known.get(sign);
    if (!piece) {
      const name = nextPatternName(named);
      const { colour, metre } = pattern;
      piece = {
        id: ids.pattern(),
        name,
        bars: count,
        ...(colour && { colour }),
        ...(metre && { metre }),
        ...(chords.length > 0 && { chords }),
        parts,
      };
      known.set(sign, piece);
      named = { ...named, patterns: [...named.patterns, piece] };
    }
    pieces.push(piece);
  }
  const at = project.patterns.indexOf(pattern);
  const patterns = [
    ...project.patterns.slice(0, at),
    ...known.values(),
    ...project.patterns.slice(at + 1),
  ];
  const song: readonly SongEntry[] =
    project.song.length > 0
      ? project.song
      : project.patterns.map((pattern) => ({ id: ids.section(), pattern: pattern.id, times: 1 }));
  const cut = song.flatMap((entry) =>
    entry.pattern === id ? sectionsOver(entry, pattern, pieces, bars, ids) : [entry],
  );
  return { ...project, patterns, song: merged(cut) };
}

/** A part with its chain and its loop written out over the pattern; lanes with their own loops stay as they are. */
function unfoldedPart(project: Project, pattern: Pattern, part: Part): Unfolded {
  const track = trackOf(project, part.track);
  const effective = effectivePart(project, track, part, pattern);
  const total = patternTicks(project, pattern);
  const own = new Set(track.lanes.flatMap((lane) => (lane.steps ? [lane.pitch] : [])));
  const looped = effective.notes.filter((note) => own.has(note.pitch));
  const notes: Note[] = [];
  for (let at = 0, round = 0; at < total; at += effective.length, round++) {
    for (const note of effective.notes) {
      if (own.has(note.pitch) || note.start >= effective.length || at + note.start >= total)
        continue;
      notes.push(
        round === 0 ? note : { ...note, id: `${note.id}.${round}`, start: at + note.start },
      );
    }
  }
  const bend = part.bend && repeated(part.bend, effective.length, total);
  return { part: { ...part, notes: sortNotes(notes), ...(bend && { bend }) }, looped };
}

/** A part written out, and what of it loops by itself in every piece. */
interface Unfolded {
  part: Part;
  looped: readonly Note[];
}

/** What of a part begins in `[from, to)`, as a part of its own; early first hits belong to the first piece. */
export function partBetween(part: Part, from: Ticks, to: Ticks): Part {
  const inside = (note: Note) =>
    note.start >= from ? note.start < to : from === 0 && note.start < 0;
  const notes = part.notes.filter(inside).map((note) => ({ ...note, start: note.start - from }));
  const { bend, generated: _, ...rest } = part;
  const curve = bend && curveIn(bend, from, to);
  return {
    ...rest,
    length: to - from,
    notes: sortNotes(notes),
    chain: [],
    ...(curve && { bend: curve }),
  };
}

/** A piece of a part written out, with what loops by itself in every piece. */
function pieceOf({ part, looped }: Unfolded, from: Ticks, to: Ticks): Part {
  const piece = partBetween(part, from, to);
  return looped.length > 0 ? { ...piece, notes: sortNotes([...looped, ...piece.notes]) } : piece;
}

function curveIn(bend: readonly BendPoint[], from: Ticks, to: Ticks): BendPoint[] | null {
  const inside = bend.filter(({ tick }) => tick > from && tick < to);
  const points = [
    { tick: 0, value: Math.round(bendAt(bend, from)) },
    ...inside.map(({ tick, value }) => ({ tick: tick - from, value })),
  ];
  return points.some(({ value }) => value !== 0) ? points : null;
}

/** Chords that begin in a stretch, and the one that holds into it. */
export function chordsIn(chords: readonly ChordMark[], from: Ticks, to: Ticks): ChordMark[] {
  const before = chords.findLast(({ start }) => start <= from);
  const inside = chords.filter(({ start }) => start > from && start < to);
  return [...(before ? [{ ...before, start: from }] : []), ...inside].map((chord) => ({
    ...chord,
    start: chord.start - from,
  }));
}

/** A part without what only names it. */
const plain = ({ notes, ...part }: Part) => [part, notes.map(({ id: _, ...note }) => note)];

/** The sections of pieces that play what a section of the whole pattern did. */
function sectionsOver(
  entry: SongEntry,
  pattern: Pattern,
  pieces: readonly Pattern[],
  bars: number,
  ids: CutIds,
): SongEntry[] {
  const { id, skip: first = 0, bars: _, ...rest } = entry;
  const found: SongEntry[] = [];
  const total = sectionBars(entry, pattern);
  for (let done = 0; done < total;) {
    const at = (first + done) % pattern.bars;
    const piece = nth(pieces, Math.floor(at / bars));
    const skip = at - Math.floor(at / bars) * bars;
    const count = Math.min(piece.bars - skip, total - done);
    const whole = skip + count === piece.bars;
    found.push({
      ...rest,
      id: found.length === 0 ? id : ids.section(),
      pattern: piece.id,
      times: 1,
      ...(skip > 0 && { skip }),
      ...(!whole && { bars: count }),
    });
    done += count;
  }
  return found;
}

/** Neighbours that differ in nothing but their ids are one with more repeats. */
function merged(song: readonly SongEntry[]): SongEntry[] {
  const result: SongEntry[] = [];
  const rest = ({ id: _, times: __, ...entry }: SongEntry) => JSON.stringify(entry);
  for (const entry of song) {
    const last = result.at(-1);
    const same = last && rest(last) === rest(entry) && !entry.bars && !entry.skip;
    if (same) result[result.length - 1] = { ...last, times: last.times + entry.times };
    else result.push(entry);
  }
  return result;
}
