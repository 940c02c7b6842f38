import { type MidiPitch, type Random, type Ticks, pickWeighted, seeded } from "../base";
import {
  type Grid,
  type Metre,
  beatTicks,
  lineAt,
  nearestLine,
  stepTicks,
  steppedGrid,
} from "../time";
import { type Chord, type Key, chordClasses, degreeOf, degreePitch } from "../pitch";
import { type Note, makeNote, rootId, sortNotes } from "../score";
import type { Idea } from "./common/idea";

/** What is varied, and how far. */
export interface VaryOptions {
  /** The notes as they are, their chain written. */
  notes: readonly Note[];
  kind: "drums" | "melody";
  metre: Metre;
  key: Key;
  /** Loop length in ticks. */
  length: Ticks;
  /** Grid a pitch is stepped on. */
  gridOf(pitch: MidiPitch): Grid;
  /** Loop length of a pitch's lane, where it has its own. */
  periodOf(pitch: MidiPitch): Ticks;
  /** The chord that holds at a tick, where there is one. */
  chordAt(tick: Ticks): Chord | null;
  /** 1–100: changes for each hundred notes. */
  distance: number;
  /** Notes on felt beats stay as they are, and none is added there. */
  keepStrong: boolean;
  /** Ids of the notes that are varied, in their stretch of time; left out for all. */
  only?: ReadonlySet<string> | null;
  /** Whether what begins at a tick stays as it is, and nothing new begins there. */
  keeps?(tick: Ticks): boolean;
  count: number;
  seed: number;
}

/** How often each change is tried, of ten; those that the part gives no room for are passed over. */
const WEIGHTS = {
  drums: { add: 3, drop: 2, shift: 2, ghost: 2, roll: 1.5, pitch: 0 },
  melody: { add: 2, drop: 2, shift: 2.5, ghost: 0.5, roll: 0.5, pitch: 3 },
} as const;
type Change = keyof (typeof WEIGHTS)["drums"];

/** A ghost is this loud, next to what is played. */
const GHOST = 34;
/** Tries to find room for a change before it is given up. */
const TRIES = 24;

/**
 * How far two parts lie apart: the least number of notes that must be added, deleted or given another start or
 * pitch to make one of the other (an edit distance over onsets and pitches, their order aside).
 */
export function partDistance(a: readonly Note[], b: readonly Note[]): number {
  const places = new Map<string, number>();
  for (const { start, pitch } of a) {
    const at = `${start} ${pitch}`;
    places.set(at, (places.get(at) ?? 0) + 1);
  }
  let common = 0;
  for (const { start, pitch } of b) {
    const at = `${start} ${pitch}`;
    const left = places.get(at) ?? 0;
    if (left === 0) continue;
    places.set(at, left - 1);
    common++;
  }
  return Math.max(a.length, b.length) - common;
}

/**
 * Variations of a part, none alike: notes added, dropped, shifted by a step, ghosted, rolled, or moved within the
 * chord that holds, as many as the distance asks for. Same options, same variations. Fewer come back where the
 * part gives no room for more.
 */
export function variationsOf(options: VaryOptions): Idea[] {
  const found: Idea[] = [];
  const known = new Set([signature(options.notes)]);
  for (let i = 0; found.length < options.count && i < 4 * options.count; i++) {
    const seed = options.seed + i;
    const notes = variation(options, seeded(seed));
    const sign = signature(notes);
    if (known.has(sign)) continue;
    known.add(sign);
    found.push({ seed, notes });
  }
  return found;
}

const signature = (notes: readonly Note[]) =>
  sortNotes(notes)
    .map(({ start, pitch, velocity, length }) => [start, pitch, velocity, length].join())
    .join(" ");

function variation(options: VaryOptions, random: Random): Note[] {
  const work = new Work(options, random);
  const open = options.notes.filter((note) => mayChange(options, note)).length;
  const wanted = Math.max(1, Math.round((options.distance * open) / 100));
  const weights = WEIGHTS[options.kind];
  const left = new Set(Object.keys(weights) as Change[]);
  while (work.distance() < wanted && left.size > 0) {
    const change = pickWeighted([...left], (one) => weights[one], random);
    if (!change) break;
    // What finds no room now may find some later, but is not asked for without end.
    if (!work.change(change, wanted)) left.delete(change);
  }
  return [...sortNotes(work.notes)];
}

const mayChange = ({ only, keeps }: VaryOptions, { id, start }: Note): boolean =>
  (!only || only.has(rootId(id))) && !keeps?.(start);

/** A part while it is varied. */
class Work {
  notes: Note[];
  private readonly touched = new Set<string>();
  private made = 0;
  /** Notes that may be changed, and the stretch of time in which something new may begin. */
  private readonly open: readonly Note[];
  private readonly from: Ticks;
  private readonly to: Ticks;

  constructor(
    private readonly o: VaryOptions,
    private readonly random: Random,
  ) {
    this.notes = [...o.notes];
    this.open = o.notes.filter((note) => mayChange(o, note));
    const starts = this.open.map(({ start }) => start);
    [this.from, this.to] = o.only
      ? [Math.min(...starts), Math.max(...starts)]
      : [-Infinity, Infinity];
  }

  /** Whether something may come to begin at a tick. */
  private mayBegin(start: Ticks): boolean {
    return start >= this.from && start <= this.to && !this.o.keeps?.(start);
  }

  distance(): number {
    return partDistance(this.o.notes, this.notes);
  }

  /** Makes one change that stays within the distance; false where none was found. */
  change(kind: Change, most: number): boolean {
    for (let i = 0; i < TRIES; i++) {
      const before = this.notes;
      const was = this.distance();
      const ids = this[kind]();
      const now = ids ? this.distance() : was;
      if (ids && now > was && now <= most) {
        for (const id of ids) this.touched.add(id);
        return true;
      }
      this.notes = before;
    }
    return false;
  }

  private pick<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.random() * list.length)];
  }

  private isStrong(tick: Ticks, pitch: MidiPitch): boolean {
    const grid = steppedGrid(this.o.gridOf(pitch));
    const gridLine = lineAt(grid, nearestLine(grid, tick));
    return gridLine % beatTicks(this.o.metre) === 0;
  }

  /** Notes that may be changed: not yet touched, and none that is to stay. */
  private free(): Note[] {
    return this.notes.filter(
      (note) =>
        !this.touched.has(note.id) &&
        mayChange(this.o, note) &&
        !(this.o.keepStrong && this.isStrong(note.start, note.pitch)),
    );
  }

  private isTaken(start: Ticks, pitch: MidiPitch): boolean {
    return this.notes.some((note) => note.pitch === pitch && note.start === start);
  }

  /** A step without a note in a row that has some, its line swung as the row's is. */
  private emptyStep(): { start: Ticks; pitch: MidiPitch; step: Ticks } | null {
    const like = this.pick(this.open);
    if (!like) return null;
    const { pitch } = like;
    const grid = steppedGrid(this.o.gridOf(pitch));
    const step = stepTicks(grid);
    const steps = Math.floor(this.o.periodOf(pitch) / step);
    const start = Math.round(lineAt(grid, Math.floor(this.random() * steps)));
    if (start >= this.o.periodOf(pitch) || !this.mayBegin(start)) return null;
    if (this.o.keepStrong && this.isStrong(start, pitch)) return null;
    const near = this.notes.some(
      (note) => note.pitch === pitch && Math.abs(note.start - start) < step / 2,
    );
    return near ? null : { start, pitch, step };
  }

  private fresh(at: { start: Ticks; pitch: MidiPitch; step: Ticks }, velocity: number): string[] {
    const pitch = this.o.kind === "melody" ? this.toneNear(at.start, at.pitch) : at.pitch;
    if (this.isTaken(at.start, pitch)) return [];
    const soundsOn = (note: Note) =>
      this.o.kind === "melody" && note.start < at.start && note.start + note.length > at.start;
    if (this.notes.some((note) => soundsOn(note) && !mayChange(this.o, note))) return [];
    const id = `vary-${++this.made}`;
    const note = makeNote({ id, start: at.start, length: at.step, pitch, velocity });
    // A line stays a line: what sounded on into the new note ends there.
    const cut = (note: Note) =>
      soundsOn(note) ? { ...note, length: at.start - note.start } : note;
    this.notes = [...this.notes.map(cut), note];
    return [id];
  }

  protected add(): string[] | null {
    const at = this.emptyStep();
    const like = at && this.o.notes.filter((note) => note.pitch === at.pitch);
    const velocity = (like && this.pick(like)?.velocity) ?? 80;
    return at && this.fresh(at, Math.max(1, Math.round(velocity * (0.75 + 0.2 * this.random()))));
  }

  protected ghost(): string[] | null {
    const at = this.emptyStep();
    return at && this.fresh(at, GHOST);
  }

  protected drop(): string[] | null {
    const note = this.pick(this.free());
    // Of the last note nothing would be left.
    if (!note || this.notes.length < 2) return null;
    this.notes = this.notes.filter((one) => one !== note);
    return [note.id];
  }

  protected shift(): string[] | null {
    const note = this.pick(this.free());
    if (!note) return null;
    const grid = steppedGrid(this.o.gridOf(note.pitch));
    const gridLine = nearestLine(grid, note.start);
    const to = gridLine + (this.random() < 0.5 ? -1 : 1);
    const start = Math.round(lineAt(grid, to) + note.start - lineAt(grid, gridLine));
    if (start < 0 || start >= this.o.periodOf(note.pitch) || !this.mayBegin(start)) return null;
    if (this.isTaken(start, note.pitch)) return null;
    if (this.o.keepStrong && this.isStrong(start, note.pitch)) return null;
    this.put(note, { start });
    return [note.id];
  }

  protected roll(): string[] | null {
    const note = this.pick(this.free());
    if (!note) return null;
    const step = Math.min(note.length, stepTicks(steppedGrid(this.o.gridOf(note.pitch))));
    const pieces = this.random() < 0.7 ? 2 : 3;
    const each = Math.floor(step / pieces);
    if (each < 60) return null;
    const id = `vary-${++this.made}`;
    const more = Array.from({ length: pieces - 1 }, (_, i): Note => ({
      ...note,
      id: `${id}-${i}`,
      start: note.start + (i + 1) * each,
      length: each,
      velocity: Math.max(1, Math.round(note.velocity * (0.7 + 0.1 * i))),
    }));
    if (more.some((one) => this.isTaken(one.start, one.pitch) || this.o.keeps?.(one.start)))
      return null;
    this.put(note, { length: each });
    this.notes = [...this.notes, ...more];
    return [note.id, ...more.map((one) => one.id)];
  }

  protected pitch(): string[] | null {
    const note = this.pick(this.free());
    if (!note || note.unpitched) return null;
    const pitch = this.toneNear(note.start, note.pitch, { other: true });
    if (pitch === note.pitch || this.isTaken(note.start, pitch)) return null;
    this.put(note, { pitch });
    return [note.id];
  }

  private put(note: Note, change: Partial<Note>): void {
    this.notes = this.notes.map((one) => (one === note ? { ...one, ...change } : one));
  }

  /** A tone of the chord that holds, or of the key, near a pitch; another one on wish. */
  private toneNear(tick: Ticks, pitch: MidiPitch, { other = false } = {}): MidiPitch {
    const chord = this.o.chordAt(tick);
    const near = [...Array(15).keys()]
      .map((i) => pitch - 7 + i)
      .filter((pitch) => pitch >= 0 && pitch <= 127);
    const classes = chord && chordClasses(chord);
    const tones = classes ? near.filter((pitch) => classes.has(pitch % 12)) : this.keyTones(pitch);
    const open = other ? tones.filter((p) => p !== pitch) : tones;
    return pickWeighted(open, (p) => 1 / (1 + Math.abs(p - pitch)), this.random) ?? pitch;
  }

  private keyTones(pitch: MidiPitch): MidiPitch[] {
    const { degree } = degreeOf(this.o.key, pitch);
    return [-3, -2, -1, 0, 1, 2, 3]
      .map((by) => degreePitch(this.o.key, degree + by))
      .filter((pitch) => pitch >= 0 && pitch <= 127);
  }
}
