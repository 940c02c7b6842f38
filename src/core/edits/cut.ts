import { type Ticks, nth } from "../base";
import {
  type BendPoint,
  type ChordMark,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Section,
  type SongEntry,
  bendAt,
  holds,
  ownLoops,
  partOf,
  patternBar,
  patternOf,
  patternTicks,
  repeated,
  sectionsOf,
  sortNotes,
  trackOf,
  withCondition,
  writtenOut,
} from "../score";
import { withChainWritten, withoutOwnLoops } from "./own-loops";
import { nextPatternName } from "./project";
import { songOfAll } from "./song";

/** Names for what is made: patterns and sections. */
export interface CutIds {
  pattern(): string;
  section(): string;
}

/**
 * Cuts a long pattern into patterns of so many bars each. Equal ones are one, named again in the song, which
 * plays what it did: sections keep their tempo, mutes and names, equal neighbours become repeats, and hits with a
 * condition are in the pieces of those loops in which they sound. Without a song one is made of all patterns in order.
 * Chains are written first, since a piece has notes of its own; so are lanes whose own loops do not end with the
 * pieces. The same project where there is nothing to cut.
 */
export function cutPattern(project: Project, id: string, bars: number, ids: CutIds): Project {
  if (bars < 1 || bars >= patternOf(project, id).bars) return project;
  const written = project.tracks.reduce(
    (done, { id: track }) => withChainWritten(done, { pattern: id, track }),
    project,
  );
  const ready = withLoopsWritten(written, id, bars);
  const pattern = patternOf(ready, id);
  const song = ready.song.length > 0 ? ready.song : songOfAll(ready, ids.section);
  const pieces = new Pieces(ready, pattern, bars, ids);
  const own = sectionsOf({ ...ready, song }).filter((section) => section.pattern === pattern);
  const silent = neverSounding(ready, pattern, own);
  const cut = song.flatMap((entry) => {
    const section = own.find((one) => one.entry?.id === entry.id);
    return section ? piecesOver(section, entry, pieces, silent) : [entry];
  });
  // Where no section plays it, nothing says which loops are heard.
  if (own.length === 0) pieces.all();
  const at = ready.patterns.indexOf(pattern);
  const patterns = [
    ...ready.patterns.slice(0, at),
    ...pieces.patterns,
    ...ready.patterns.slice(at + 1),
  ];
  return { ...ready, patterns, song: merged(cut, pieces.lively) };
}

/** Lanes with loops of their own written out, where these do not begin anew with each piece, or hits have conditions. */
function withLoopsWritten(project: Project, id: string, bars: number): Project {
  const pattern = patternOf(project, id);
  const piece = bars * patternBar(project, pattern);
  return project.tracks.reduce((done, track) => {
    const { notes } = partOf(done, { pattern: id, track: track.id });
    const pads = [...ownLoops(track)].flatMap(([pad, period]) => {
      const hits = notes.filter(({ pitch }) => pitch === pad);
      const apart = hits.length > 0 && piece % period !== 0;
      return apart || hits.some(({ when }) => when !== undefined) ? [pad] : [];
    });
    const named = new Map<Note, number>();
    const idOf = (note: Note) => {
      const copy = (named.get(note) ?? 0) + 1;
      named.set(note, copy);
      return `${note.id}:${copy}`;
    };
    return withoutOwnLoops(done, track.id, new Set(pads), idOf);
  }, project);
}

/** One part of the pattern that is cut, with what goes round in it. */
interface Source {
  part: Part;
  /** Hits of lanes with their own loops, which are in every piece. */
  looped: readonly Note[];
  /** The others. */
  notes: readonly Note[];
  bend: readonly BendPoint[] | undefined;
}

/** Which loops of a pattern are meant: those of a round of a section; null for any. */
interface Round {
  /** Rounds since the section's loops are counted. */
  round: number;
  /** Ticks from the beginning of this round to the end of the section's loops. */
  left: Ticks;
  /** Notes that sound in no loop that is played. */
  silent: ReadonlySet<Note>;
}

/** A note of one loop of a round as it sounds there: null where it does not. */
function inRound(note: Note, copy: number, copies: number, period: Ticks, at: Round): Note | null {
  if (note.when === undefined || at.silent.has(note)) return note;
  const last = copy * period < at.left && lastCopy(at.left, copies, period) === copy;
  return holds(note.when, at.round * copies + copy, last) ? withCondition(note, null) : null;
}

/** The last loop that begins in what is left of a section, if it lies in this round; −1 for a later one. */
const lastCopy = (left: Ticks, copies: number, period: Ticks): number => {
  const copy = Math.ceil(left / period) - 1;
  return copy < copies ? copy : -1;
};

/** The pieces that a pattern is cut into: equal ones are made once. */
class Pieces {
  readonly patterns: Pattern[] = [];
  /** Pieces whose hits have conditions: heard again, they are another loop. */
  readonly lively = new Set<string>();
  private readonly known = new Map<string, Pattern>();
  private readonly sources: readonly Source[];
  private readonly bar: Ticks;

  constructor(
    private readonly project: Project,
    private readonly pattern: Pattern,
    readonly bars: number,
    readonly ids: CutIds,
  ) {
    this.bar = patternBar(project, pattern);
    const total = patternTicks(project, pattern);
    this.sources = pattern.parts.map((part): Source => {
      const own = ownLoops(trackOf(project, part.track));
      return {
        part,
        looped: part.notes.filter(({ pitch }) => own.has(pitch)),
        notes: part.notes.filter(({ pitch }) => !own.has(pitch)),
        bend: part.bend && repeated(part.bend, part.length, total),
      };
    });
  }

  get total(): number {
    return this.pattern.bars;
  }

  /** Length of a round of the pattern in ticks. */
  get ticks(): Ticks {
    return this.pattern.bars * this.bar;
  }

  /** All pieces, whatever loops they are heard in. */
  all(): void {
    for (let first = 0; first < this.pattern.bars; first += this.bars) this.at(first, null);
  }

  /** The piece that begins with a bar, as it is in a round. */
  at(first: number, round: Round | null): Pattern {
    const { bar, pattern } = this;
    const count = Math.min(this.bars, pattern.bars - first);
    const [from, to] = [first * bar, (first + count) * bar];
    const isLast = first + count === pattern.bars;
    const parts = this.sources.map((source) => {
      const whole = { ...source.part, notes: this.written(source, round), bend: source.bend };
      const piece = partBetween(whole, from, to, isLast);
      return { ...piece, notes: sortNotes([...source.looped, ...piece.notes]) };
    });
    const chords = chordsIn(pattern.chords ?? [], from, to);
    const sign = JSON.stringify([
      count,
      chords.map(({ id: _, ...chord }) => chord),
      parts.map(plain),
    ]);
    const found = this.known.get(sign);
    if (found) return found;
    const others = this.project.patterns.filter((other) => other !== pattern);
    const name = nextPatternName(
      { ...this.project, patterns: [...others, ...this.patterns] },
      pattern.name,
    );
    const { colour, metre } = pattern;
    const piece: Pattern = {
      id: this.ids.pattern(),
      name,
      bars: count,
      ...(colour && { colour }),
      ...(metre && { metre }),
      ...(chords.length > 0 && { chords }),
      parts,
    };
    this.known.set(sign, piece);
    this.patterns.push(piece);
    if (parts.some(({ notes }) => notes.some(({ when }) => when !== undefined)))
      this.lively.add(piece.id);
    return piece;
  }

  /** A part's loop written out over the pattern, with what sounds of it in a round. */
  private written({ part, notes }: Source, round: Round | null): Note[] {
    const { ticks } = this;
    const idOf = ({ id }: Note, copy: number) => `${id}.${copy}`;
    const stretch = { period: part.length, ticks };
    if (!round) return writtenOut(notes, stretch, idOf);
    // An early hit belongs to the loop it leads into: after the section's end that is not played.
    return writtenOut(notes, stretch, idOf, (note, copy, copies) =>
      copy * part.length < round.left ? inRound(note, copy, copies, part.length, round) : null,
    );
  }
}

/** Notes with a condition that holds in no loop which the song plays: they are kept as they are. */
function neverSounding(
  project: Project,
  pattern: Pattern,
  sections: readonly Section[],
): ReadonlySet<Note> {
  const total = patternTicks(project, pattern);
  const silent = new Set<Note>();
  for (const part of pattern.parts) {
    const copies = Math.ceil(total / part.length);
    for (const note of part.notes) {
      if (note.when === undefined) continue;
      const sounds = sections.some((section) =>
        roundsOf(section, NONE).some((round) =>
          Array.from({ length: copies }, (_, copy) => copy).some((copy) =>
            inRound(note, copy, copies, part.length, round),
          ),
        ),
      );
      if (!sounds) silent.add(note);
    }
  }
  return silent;
}

const NONE: ReadonlySet<Note> = new Set();

/** The rounds of its pattern that a section plays. */
function roundsOf(section: Section, silent: ReadonlySet<Note>): Round[] {
  const { at, skip, length, loopTicks, roundsBefore, runEnd } = section;
  return Array.from({ length: Math.ceil((skip + length) / loopTicks) }, (_, i) => ({
    round: roundsBefore + i,
    left: runEnd - (at - skip + i * loopTicks),
    silent,
  }));
}

/**
 * What of a part begins in `[from, to)`, as a part of its own; early first hits belong to the first piece. What lies
 * past the part's end belongs to the last one.
 */
export function partBetween(part: Part, from: Ticks, to: Ticks, isLast = false): Part {
  const inside = (note: Note) =>
    note.start >= from ? note.start < to || isLast : from === 0 && note.start < 0;
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
function piecesOver(
  section: Section,
  entry: SongEntry,
  pieces: Pieces,
  silent: ReadonlySet<Note>,
): SongEntry[] {
  const { id, skip: _, bars: __, continues: ___, ...rest } = entry;
  const rounds = roundsOf(section, silent);
  const bar = section.loopTicks / pieces.total;
  const first = section.skip / bar;
  const total = section.length / bar;
  const found: SongEntry[] = [];
  for (let done = 0; done < total;) {
    const at = (first + done) % pieces.total;
    const begin = Math.floor(at / pieces.bars) * pieces.bars;
    const piece = pieces.at(begin, nth(rounds, Math.floor((first + done) / pieces.total)));
    const skip = at - begin;
    const count = Math.min(piece.bars - skip, total - done);
    const whole = skip + count === piece.bars;
    found.push({
      ...rest,
      id: found.length === 0 ? id : pieces.ids.section(),
      pattern: piece.id,
      times: 1,
      ...(skip > 0 && { skip }),
      ...(!whole && { bars: count }),
    });
    done += count;
  }
  return found;
}

/** Neighbours that differ in nothing but their ids are one with more repeats, where a repeat is the same. */
function merged(song: readonly SongEntry[], lively: ReadonlySet<string>): SongEntry[] {
  const result: SongEntry[] = [];
  const rest = ({ id: _, times: __, ...entry }: SongEntry) => JSON.stringify(entry);
  for (const entry of song) {
    const last = result.at(-1);
    const same = last && rest(last) === rest(entry) && !entry.bars && !entry.skip;
    if (same && !lively.has(entry.pattern))
      result[result.length - 1] = { ...last, times: last.times + entry.times };
    else result.push(entry);
  }
  return result;
}
