import {
  type MidiPitch,
  type Milliseconds,
  type Ticks,
  type Velocity,
  firstIndex,
  nth,
} from "../base";

/** Where the loop stood when something was played. */
export interface LoopPlace {
  pattern: string;
  /** Which time the loop was started: places of one run can be told apart. */
  run: number;
  /** Ticks since the pattern's turn began, not rounded; below 0 in a count-in. */
  tick: number;
  /** Tempo then. */
  bpm: number;
}

/** Something played: what sounded, when by the wall clock, and where in the loop if it played. */
export interface PlayedNote {
  id: string;
  track: string;
  pitch: MidiPitch;
  velocity: Velocity;
  /** When it began, in ms since 1970, fractions of them too. */
  at: Milliseconds;
  /** How long it was held; null while it still is. */
  length: Milliseconds | null;
  loop: LoopPlace | null;
  /** How long it was held in ticks of the loop, the tempo's changes in it; null while it is, or without the loop. */
  ticks: Ticks | null;
}

/** The bend of a track at a time: −8192…8191, the middle of the wheel 0. */
export interface PlayedBend {
  track: string;
  value: number;
  at: Milliseconds;
  loop: LoopPlace | null;
}

/** When the last of some notes ends; one that is held ends at `now`, or as it begins where that is left out. */
export const lastEnd = (notes: readonly PlayedNote[], now = -Infinity): Milliseconds =>
  notes.reduce(
    (last, { at, length }) => Math.max(last, length === null ? Math.max(at, now) : at + length),
    -Infinity,
  );

/** How long what was played is remembered, in ms. */
export const REMEMBERED_MS = 30 * 60_000;

/**
 * What was played in the last thirty minutes, recorded or not, in order of time. Grows with what is
 * played and nothing else.
 */
export class PlayedLog {
  private list: PlayedNote[] = [];
  private bendLog: PlayedBend[] = [];
  /** Counts changes, so that what shows it knows when to look again. */
  version = 0;

  get notes(): readonly PlayedNote[] {
    return this.list;
  }
  get bends(): readonly PlayedBend[] {
    return this.bendLog;
  }

  begin(note: Omit<PlayedNote, "length" | "ticks">): PlayedNote {
    const begun: PlayedNote = { ...note, length: null, ticks: null };
    this.put(begun);
    this.forget(note.at - REMEMBERED_MS);
    return begun;
  }

  /** A note that is held comes to its end. */
  end(note: PlayedNote, at: Milliseconds, ticks: Ticks | null): void {
    note.length = Math.max(1, at - note.at);
    note.ticks = ticks === null ? null : Math.max(1, ticks);
    this.version++;
  }

  bend(bend: PlayedBend): void {
    this.bendLog.push(bend);
    this.version++;
  }

  /** Puts back what was remembered before; what is known already stays as it is. */
  restore(notes: readonly PlayedNote[], bends: readonly PlayedBend[], now: Milliseconds): void {
    const known = new Set(this.list.map((note) => note.id));
    this.list = [...notes.filter((note) => !known.has(note.id)), ...this.list];
    this.list.sort((a, b) => a.at - b.at);
    this.bendLog = [...bends, ...this.bendLog].sort((a, bend) => a.at - bend.at);
    this.forget(now - REMEMBERED_MS);
    this.version++;
  }

  /** Throws away notes by id, and the bends of their stretch of time. */
  drop(ids: ReadonlySet<string>): void {
    const gone = this.list.filter((note) => ids.has(note.id));
    if (gone.length === 0) return;
    const from = nth(gone, 0).at;
    const to = lastEnd(gone);
    const tracks = new Set(gone.map((note) => note.track));
    this.list = this.list.filter((note) => !ids.has(note.id));
    this.bendLog = this.bendLog.filter(
      (bend) => bend.at < from || bend.at > to || !tracks.has(bend.track),
    );
    this.version++;
  }

  private put(note: PlayedNote): void {
    // Nearly always the last one: devices may be heard a little out of order.
    let at = this.list.length;
    while (at > 0 && nth(this.list, at - 1).at > note.at) at--;
    this.list.splice(at, 0, note);
    this.version++;
  }

  private forget(before: Milliseconds): void {
    const { list, bendLog } = this;
    list.splice(
      0,
      firstIndex(list.length, (i) => nth(list, i).at < before),
    );
    bendLog.splice(
      0,
      firstIndex(bendLog.length, (i) => nth(bendLog, i).at < before),
    );
  }
}
