import {
  barTicks,
  beatTicks,
  msPerTick,
  playbackEvents,
  type Bpm,
  type PlaybackEvent,
  type Project,
  type Seconds,
  type Ticks,
} from "@/core";

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

  get isPlaying(): boolean {
    return this.playing;
  }

  /** Starts a pattern at one of its own ticks, at a time of the clock. */
  start(project: Project, pattern: string, time: Seconds, fromTick = 0): void {
    this.anchors = [{ time, tick: fromTick, bpm: project.tempo }];
    this.turns = [{ from: 0, pattern }];
    this.horizon = fromTick;
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
    while (this.horizon < end) {
      const turn = this.turnAt(this.horizon)!;
      const next = this.turns.find((t) => t.from > this.horizon);
      const to = Math.min(end, next?.from ?? Infinity);
      this.collect(project, turn, to, found);
      this.horizon = to;
    }
    return found;
  }

  private collect(project: Project, turn: Turn, to: number, found: Due[]): void {
    // A pattern that was deleted while playing gives way to the first.
    const known = project.patterns.some((p) => p.id === turn.pattern);
    const pattern = known ? turn.pattern : project.patterns[0]!.id;
    for (const event of playbackEvents(project, this.horizon - turn.from, to - turn.from, {
      pattern,
    })) {
      const tick = event.start + turn.from;
      found.push({
        event,
        tick,
        pattern,
        time: this.timeOf(tick),
      });
    }
  }

  /** Ticks up to which everything has been handed over. */
  get handedOver(): number {
    return this.horizon;
  }

  /** Beats with their lines in `[from, to)` ticks since playback began, for the click. */
  beats(project: Project, from: number, to: number): { time: Seconds; strong: boolean }[] {
    const beat = beatTicks(project.metre);
    const bar = barTicks(project.metre);
    const found: { time: Seconds; strong: boolean }[] = [];
    for (let at = from; at < to;) {
      const turn = this.turnAt(at)!;
      const until = Math.min(to, this.turns.find((t) => t.from > at)?.from ?? Infinity);
      const first = turn.from + Math.ceil((at - turn.from) / beat) * beat;
      for (let tick = first; tick < until; tick += beat) {
        found.push({ time: this.timeOf(tick), strong: (tick - turn.from) % bar === 0 });
      }
      at = until;
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
