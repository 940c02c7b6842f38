import {
  barTicks,
  beatTicks,
  bendLine,
  bendSemitones,
  msPerTick,
  playbackEvents,
  type Bpm,
  type PlaybackEvent,
  type Project,
  type Seconds,
  type Semitones,
  type Ticks,
} from "@/core";
import type { ClickKind } from "./click";

/** How far ahead notes are handed to the audio clock, in seconds: longer than any stall we allow for. */
export const LOOK_AHEAD = 0.22;

/** From `time` on, `tick` falls on it and time runs at `bpm`. */
interface Anchor {
  time: Seconds;
  tick: Ticks;
  bpm: Bpm;
}

/** From global tick `from` on, this pattern plays, its own tick 0 at `from`. */
interface Turn {
  from: number;
  pattern: string;
}

/**
 * A note that falls due: when it sounds, in seconds of the clock given in, and where that is in
 * the music.
 */
export interface Due {
  event: PlaybackEvent;
  time: Seconds;
  /** Tick since playback began. */
  tick: Ticks;
  pattern: string;
}

/** A beat or a part of one, and when it is. */
export interface Beat {
  time: Seconds;
  tick: Ticks;
  kind: ClickKind;
}

/** A corner of a bend: when, and how far in semitones. */
interface DueBend {
  time: Seconds;
  by: Semitones;
}

/** The pattern of a turn; one that was deleted while playing gives way to the first. */
const patternOf = (project: Project, { pattern }: Turn): string =>
  project.patterns.some((p) => p.id === pattern) ? pattern : project.patterns[0]!.id;

/**
 * Says what is due, window by window, from `playbackEvents`. Knows nothing of audio: the clock is
 * given in. Tempo changes take hold where the last window ended, so time has no gap and no jump;
 * a switch of pattern takes hold on the next bar line.
 */
export class Scheduler {
  private anchors: Anchor[] = [];
  private turns: Turn[] = [];
  private horizon = 0;
  private playing = false;
  /** Before this tick since playback began nothing but the count-in is heard. */
  private first = 0;

  get isPlaying(): boolean {
    return this.playing;
  }

  /**
   * Starts a pattern at one of its own ticks, at a time of the clock; with a count-in of so many ticks
   * that begins then, and the pattern after it.
   */
  start(project: Project, pattern: string, time: Seconds, fromTick = 0, countIn: Ticks = 0): void {
    this.anchors = [{ time, tick: fromTick - countIn, bpm: project.tempo }];
    this.turns = [{ from: 0, pattern }];
    this.horizon = fromTick - countIn;
    this.first = fromTick;
    this.playing = true;
  }

  stop(): void {
    this.playing = false;
    this.anchors = [];
    this.turns = [];
  }

  /** Plays another pattern from the next bar line that is not yet handed over. */
  switchPattern(project: Project, pattern: string): void {
    const now = this.turnAt(this.horizon);
    const pending = this.turns[this.turns.length - 1];
    if (!this.playing || !now || pending?.pattern === pattern) return;
    const bar = barTicks(project.metre);
    const from = now.from + Math.ceil((this.horizon - now.from) / bar) * bar;
    this.turns = this.turns.filter((turn) => turn.from < from);
    if (this.turns[this.turns.length - 1]?.pattern !== pattern) this.turns.push({ from, pattern });
  }

  /** Everything that falls due from where the last call ended until `until` seconds. */
  due(project: Project, until: Seconds): Due[] {
    if (!this.playing) return [];
    const last = this.anchors[this.anchors.length - 1]!;
    if (last.bpm !== project.tempo) {
      this.anchors.push({
        time: this.timeOf(this.horizon),
        tick: this.horizon,
        bpm: project.tempo,
      });
      if (this.anchors.length > 64) this.anchors.shift();
    }
    const end = Math.ceil(this.tickAt(until));
    const found: Due[] = [];
    for (const { turn, from, to } of this.turnsIn(Math.max(this.horizon, this.first), end)) {
      const pattern = patternOf(project, turn);
      for (const event of playbackEvents(project, from - turn.from, to - turn.from, { pattern })) {
        const tick = event.start + turn.from;
        found.push({ event, tick, pattern, time: this.timeOf(tick) });
      }
    }
    this.horizon = Math.max(this.horizon, end);
    return found;
  }

  /** The turns of patterns that `[from, to)` ticks since playback began go through, each with its stretch of it. */
  private *turnsIn(from: Ticks, to: Ticks): Generator<{ turn: Turn; from: Ticks; to: Ticks }> {
    for (let at = from; at < to;) {
      const until = Math.min(to, this.turns.find((turn) => turn.from > at)?.from ?? Infinity);
      yield { turn: this.turnAt(at)!, from: at, to: until };
      at = until;
    }
  }

  /** Ticks up to which everything has been handed over. */
  get handedOver(): number {
    return this.horizon;
  }

  /** Ticks that are left of the count-in at a time of the clock; 0 once the pattern plays. */
  countInLeft(time: Seconds): Ticks {
    return this.playing ? Math.max(0, this.first - this.tickAt(time)) : 0;
  }

  /** Whether what begins at a tick since playback began belongs to the count-in. */
  isCountIn(tick: Ticks): boolean {
    return tick < this.first;
  }

  /**
   * What of the bend of tracks falls into `[from, to)` ticks since playback began: corners of their curves,
   * straight between one and the next.
   */
  bends(project: Project, from: Ticks, to: Ticks): { track: string; points: DueBend[] }[] {
    const found: { track: string; points: DueBend[] }[] = [];
    for (const { turn, ...stretch } of this.turnsIn(Math.max(from, this.first), to)) {
      const pattern = patternOf(project, turn);
      for (const { id } of project.tracks) {
        const line = bendLine(project, id, stretch.from - turn.from, stretch.to - turn.from, {
          pattern,
        });
        const points = line.map(({ tick, value }) => ({
          time: this.timeOf(tick + turn.from),
          by: bendSemitones(value),
        }));
        if (points.length > 0) found.push({ track: id, points });
      }
    }
    return found;
  }

  /**
   * Beats with their lines in `[from, to)` ticks since playback began, for the click, each in so many
   * parts.
   */
  beats(project: Project, from: number, to: number, parts = 1): Beat[] {
    const beat = beatTicks(project.metre);
    const step = beat / parts;
    const bar = barTicks(project.metre);
    const found: Beat[] = [];
    for (const { turn, ...stretch } of this.turnsIn(from, to)) {
      const first = Math.ceil((stretch.from - turn.from) / step);
      for (let i = first; turn.from + i * step < stretch.to; i++) {
        const tick = turn.from + i * step;
        const inBar = (((i * step) % bar) + bar) % bar;
        const kind = inBar === 0 ? "bar" : i % parts === 0 ? "beat" : "part";
        found.push({ time: this.timeOf(tick), tick, kind });
      }
    }
    return found;
  }

  private turnAt(tick: Ticks): Turn | undefined {
    return this.turns.findLast((turn) => turn.from <= tick) ?? this.turns[0];
  }

  private timeOf(tick: Ticks): number {
    const anchor = this.anchors.findLast((a) => a.tick <= tick) ?? this.anchors[0]!;
    return anchor.time + ((tick - anchor.tick) * msPerTick(anchor.bpm)) / 1000;
  }

  private tickAt(time: Seconds): number {
    const anchor = this.anchors.findLast((a) => a.time <= time) ?? this.anchors[0]!;
    return anchor.tick + ((time - anchor.time) * 1000) / msPerTick(anchor.bpm);
  }

  /** Which pattern sounds at a time, and the tick since that pattern took its turn. Null when stopped. */
  position(time: Seconds): { pattern: string; tick: Ticks } | null {
    if (!this.playing) return null;
    const tick = Math.max(this.anchors[0]!.tick, this.tickAt(time));
    const turn = this.turnAt(tick)!;
    return { pattern: turn.pattern, tick: tick - turn.from };
  }
}
