import { type Bpm, type Seconds, type Semitones, type Ticks, nth, lastOf, must } from "@/core/base";
import { barTicks, beatTicks, msPerTick } from "@/core/time";
import {
  type ArrangementOptions,
  type Project,
  type Section,
  type SongPosition,
  arrangementOf,
  bendSemitones,
  metreOf,
  patternBar,
  songPositionAt,
  tempoAt,
} from "@/core/score";
import { type PlaybackEvent, bendLine, playbackEvents } from "@/core/playback";
import type { ClickKind } from "./click";

/** How far ahead notes are handed to the audio clock, in seconds: longer than any stall we allow for. */
export const LOOK_AHEAD = 0.22;

/** From `time` on, `tick` falls on it and time runs at `bpm`. */
interface Anchor {
  time: Seconds;
  tick: Ticks;
  bpm: Bpm;
}

/** From global tick `from` on, this is played, its own tick 0 at `zero`. */
interface Turn {
  from: number;
  zero: number;
  what: Playing;
}

/** What is played: a pattern, or without one the song; on wish a stretch of it over and over. */
export type Playing = ArrangementOptions;

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
  /** Tick of that pattern since its section began, its loops counted on. */
  patternTick: Ticks;
  /** Seconds of one tick there. */
  tickSeconds: Seconds;
}

/** So many ticks of one pattern on end, and when they begin. */
export interface Stretch {
  time: Seconds;
  pattern: string;
  /** Tick of the pattern at its beginning, of its first loop. */
  patternTick: Ticks;
  ticks: Ticks;
  tickSeconds: Seconds;
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

/** Where playing is: which section of the song, and where in its pattern. */
export interface Position {
  pattern: string;
  /** Tick of the pattern since its section began, its loops counted on. */
  tick: Ticks;
  /** Tick of the song; null where a pattern is played by itself. */
  song: Ticks | null;
  /** Which section of the song, from 0; null likewise. */
  section: number | null;
}

/** What a turn plays; a pattern that was deleted while playing gives way to the first. */
function whatOf(project: Project, { what }: Turn): Playing {
  const gone =
    what.pattern !== undefined && !project.patterns.some((pattern) => pattern.id === what.pattern);
  return gone ? { pattern: nth(project.patterns, 0).id } : what;
}

/**
 * Says what is due, window by window, from `playbackEvents`. Knows nothing of audio: the clock is
 * given in. Tempo changes take hold where the last window ended, so time has no gap and no jump, and
 * where a section has a tempo of its own; a switch takes hold on the next bar line, or at once.
 */
export class Scheduler {
  private anchors: Anchor[] = [];
  private turns: Turn[] = [];
  private horizon = 0;
  private playing = false;
  /** Before this tick since playback began nothing but the count-in is heard. */
  private first = 0;
  /** The project of the last window: what is looked at when the song changes under its playing. */
  private seen: Project | null = null;

  get isPlaying(): boolean {
    return this.playing;
  }

  /**
   * Starts a pattern or the song at one of its ticks, at a time of the clock; with a count-in of so many
   * ticks that begins then, and the music after it. With a range, ticks count from its beginning.
   */
  start(
    project: Project,
    what: Playing | string,
    time: Seconds,
    fromTick = 0,
    countIn: Ticks = 0,
  ): void {
    const turn = { from: 0, zero: 0, what: typeof what === "string" ? { pattern: what } : what };
    const { bpm } = tempoAt(project, fromTick, whatOf(project, turn));
    this.anchors = [{ time, tick: fromTick - countIn, bpm }];
    this.turns = [turn];
    this.horizon = fromTick - countIn;
    this.first = fromTick;
    this.playing = true;
    this.seen = project;
  }

  stop(): void {
    this.playing = false;
    this.anchors = [];
    this.turns = [];
    this.seen = null;
  }

  /** Plays another pattern from the next bar line that is not yet handed over. */
  switchPattern(project: Project, pattern: string): void {
    const pending = this.turns[this.turns.length - 1];
    if (pending?.what.pattern === pattern && !pending.what.range) return;
    this.switchTo(project, { pattern });
  }

  /**
   * Plays something else from one of its own ticks on: from the next bar line that is not yet handed
   * over, or at once, which is as soon as what was handed over has sounded.
   */
  switchTo(project: Project, what: Playing, tick: Ticks = 0, when: "bar" | "now" = "bar"): void {
    const now = this.turnAt(this.horizon);
    if (!this.playing || !now) return;
    const soon = Math.max(this.horizon, this.first);
    const from = when === "now" ? soon : this.nextBar(project, now);
    this.turns = this.turns.filter((turn) => turn.from < from);
    // Back to what still plays: it goes on.
    const last = this.turns.at(-1)?.what;
    const goesOn = what.pattern !== undefined && last?.pattern === what.pattern && !last.range;
    if (goesOn && !what.range && tick === 0) return;
    this.turns.push({ from, zero: from - tick, what });
    if (this.turns.length > 64) this.turns.shift();
  }

  /**
   * Plays a stretch of what plays over and over, or all of it again: from where it is, where that lies
   * inside, as soon as what was handed over has sounded; else from the beginning of the stretch, with the
   * next bar.
   */
  setRange(project: Project, range: ArrangementOptions["range"]): void {
    const turn = this.turnAt(this.horizon);
    if (!this.playing || !turn) return;
    const now = whatOf(project, turn);
    const place = songPositionAt(project, Math.max(this.horizon, this.first) - turn.zero, now);
    if (!place) return;
    const what = { ...now, range: range ?? null };
    const { from, length } = arrangementOf(project, what);
    const at = place.tick - from;
    if (at >= 0 && at < length) this.switchTo(project, what, at, "now");
    else this.switchTo(project, what, 0, "bar");
  }

  /** The next bar line that is not yet handed over, in ticks since playback began. */
  private nextBar(project: Project, turn: Turn): Ticks {
    const at = Math.max(this.horizon, this.first);
    const place = songPositionAt(project, at - turn.zero, whatOf(project, turn));
    if (!place) return at;
    const bar = patternBar(project, place.section.pattern);
    return at + ((bar - (place.patternTick % bar)) % bar);
  }

  /** Everything that falls due from where the last call ended until `until` seconds. */
  due(project: Project, until: Seconds): Due[] {
    if (!this.playing) return [];
    this.followSong(project);
    const end = this.advanceTo(project, until);
    const found: Due[] = [];
    for (const { turn, from, to } of this.turnsIn(Math.max(this.horizon, this.first), end)) {
      const what = whatOf(project, turn);
      for (const event of playbackEvents(project, from - turn.zero, to - turn.zero, what)) {
        const tick = event.start + turn.zero;
        const place = must(songPositionAt(project, event.start, what));
        const { bpm } = this.anchorAt(tick);
        found.push({
          event,
          tick,
          pattern: place.section.pattern.id,
          patternTick: onlyPattern(what) ? event.start : roundsOn(place),
          time: this.timeOf(tick),
          tickSeconds: msPerTick(bpm) / 1000,
        });
      }
    }
    this.horizon = Math.max(this.horizon, end);
    return found;
  }

  /** Goes on to a time, tempo by tempo; gives the tick there. */
  private advanceTo(project: Project, until: Seconds): Ticks {
    for (let at = this.horizon; ;) {
      const turn = must(this.turnAt(at));
      const own = Math.max(at, this.first) - turn.zero;
      const { bpm, until: change } = tempoAt(project, own, whatOf(project, turn));
      const last = lastOf(this.anchors);
      if (last.bpm !== bpm) {
        this.anchors.push({ time: this.timeOf(at), tick: at, bpm });
        if (this.anchors.length > 64) this.anchors.shift();
      }
      const next = this.turns.find((later) => later.from > at)?.from ?? Infinity;
      const end = Math.min(next, turn.zero + change);
      const there = Math.ceil(this.tickAt(until));
      if (there <= end) return there;
      at = end;
    }
  }

  /**
   * Where the song was changed while it plays, goes on at the same place of the same section; of one that
   * is gone, with what now stands in its place.
   */
  private followSong(project: Project): void {
    const before = this.seen;
    this.seen = project;
    const turn = this.turnAt(this.horizon);
    if (!before || before === project || !turn || turn.what.pattern !== undefined) return;
    if (turn.what.range || this.turns.at(-1) !== turn) return;
    const [was, is] = [arrangementOf(before, turn.what), arrangementOf(project, turn.what)];
    if (was.sections === is.sections || is.length === 0) return;
    const tick = Math.max(this.horizon, this.first) - turn.zero;
    const place = songPositionAt(before, tick, turn.what);
    if (!place) return;
    const id = (section: Section) => section.entry?.id ?? section.pattern.id;
    const same = is.sections.find((section) => id(section) === id(place.section));
    const inside = place.tick - place.section.at;
    const at = same ? same.at + Math.min(inside, same.length) : (is.sections[place.index]?.at ?? 0);
    const now = place.pass * is.length + at;
    if (now === tick) return;
    const from = this.horizon;
    this.turns = this.turns.filter((known) => known.from < from);
    this.turns.push({ from, zero: Math.max(from, this.first) - now, what: turn.what });
  }

  /** The turns that `[from, to)` ticks since playback began go through, each with its stretch of it. */
  private *turnsIn(from: Ticks, to: Ticks): Generator<{ turn: Turn; from: Ticks; to: Ticks }> {
    for (let at = from; at < to;) {
      const until = Math.min(to, this.turns.find((turn) => turn.from > at)?.from ?? Infinity);
      yield { turn: must(this.turnAt(at)), from: at, to: until };
      at = until;
    }
  }

  /** Ticks up to which everything has been handed over. */
  get handedOver(): number {
    return this.horizon;
  }

  /** Ticks that are left of the count-in at a time of the clock; 0 once the music plays. */
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
      const what = whatOf(project, turn);
      for (const { id } of project.tracks) {
        const curve = bendLine(
          project,
          id,
          [stretch.from - turn.zero, stretch.to - turn.zero],
          what,
        );
        const points = curve.map(({ tick, value }) => ({
          time: this.timeOf(tick + turn.zero),
          by: bendSemitones(value),
        }));
        if (points.length > 0) found.push({ track: id, points });
      }
    }
    return found;
  }

  /** Which patterns `[from, to)` ticks since playback began go through, and where; of a count-in nothing. */
  stretches(project: Project, from: Ticks, to: Ticks): Stretch[] {
    const found: Stretch[] = [];
    for (const { turn, ...stretch } of this.turnsIn(Math.max(from, this.first), to)) {
      const what = whatOf(project, turn);
      for (let at = stretch.from; at < stretch.to;) {
        const place = songPositionAt(project, at - turn.zero, what);
        if (!place) break;
        const { section, patternTick } = place;
        const until = Math.min(stretch.to, at + leftAt(project, what, place));
        if (until <= at) break;
        const { bpm } = this.anchorAt(at);
        found.push({
          time: this.timeOf(at),
          pattern: section.pattern.id,
          patternTick,
          ticks: until - at,
          tickSeconds: msPerTick(bpm) / 1000,
        });
        at = until;
      }
    }
    return found;
  }

  /**
   * Beats with their lines in `[from, to)` ticks since playback began, for the click, each in so many
   * parts. Those of a count-in are beats of the pattern that follows.
   */
  beats(project: Project, from: number, to: number, parts = 1): Beat[] {
    const found: Beat[] = [];
    for (const { turn, ...stretch } of this.turnsIn(from, to)) {
      const what = whatOf(project, turn);
      for (let at = stretch.from; at < stretch.to;) {
        const place = songPositionAt(project, Math.max(at, this.first) - turn.zero, what);
        if (!place) break;
        const { section } = place;
        const inPattern = place.patternTick - Math.max(0, this.first - at);
        const left = at < this.first ? this.first - at : leftAt(project, what, place);
        const end = Math.min(stretch.to, at + left);
        const metre = metreOf(project, section.pattern);
        const [bar, step] = [barTicks(metre), beatTicks(metre) / parts];
        for (let i = Math.ceil(inPattern / step); at + i * step - inPattern < end; i++) {
          const tick = at + i * step - inPattern;
          const inBar = (((i * step) % bar) + bar) % bar;
          const kind = inBar === 0 ? "bar" : i % parts === 0 ? "beat" : "part";
          found.push({ time: this.timeOf(tick), tick, kind });
        }
        at = end;
      }
    }
    return found;
  }

  private turnAt(tick: Ticks): Turn | undefined {
    return this.turns.findLast((turn) => turn.from <= tick) ?? this.turns[0];
  }

  private anchorAt(tick: Ticks): Anchor {
    return this.anchors.findLast((a) => a.tick <= tick) ?? nth(this.anchors, 0);
  }

  private timeOf(tick: Ticks): number {
    const anchor = this.anchorAt(tick);
    return anchor.time + ((tick - anchor.tick) * msPerTick(anchor.bpm)) / 1000;
  }

  private tickAt(time: Seconds): number {
    const anchor = this.anchors.findLast((a) => a.time <= time) ?? nth(this.anchors, 0);
    return anchor.tick + ((time - anchor.time) * 1000) / msPerTick(anchor.bpm);
  }

  /** Where playing is at a time: below tick 0 of its pattern in a count-in. Null when stopped. */
  position(project: Project, time: Seconds): Position | null {
    if (!this.playing) return null;
    const tick = Math.max(nth(this.anchors, 0).tick, this.tickAt(time));
    const turn = must(this.turnAt(tick));
    const what = whatOf(project, turn);
    const at = Math.max(tick, this.first) - turn.zero;
    const place = songPositionAt(project, at, what);
    if (!place) return null;
    const alone = what.pattern !== undefined;
    return {
      pattern: place.section.pattern.id,
      // A pattern by itself counts on from one pass to the next.
      tick: onlyPattern(what) ? tick - turn.zero : roundsOn(place) + Math.min(0, tick - this.first),
      song: alone ? null : place.tick,
      section: alone ? null : place.index,
    };
  }
}

/** Whether a pattern plays by itself, and all of it. */
const onlyPattern = ({ pattern, range }: Playing) => pattern !== undefined && !range;

/** Ticks of a pattern since its section began, counted from the beginning of its first loop. */
const roundsOn = ({ loop, section, patternTick }: SongPosition): Ticks =>
  loop * section.loopTicks + patternTick;

/** Ticks from a place to where its loop, its section or the whole line ends, whichever comes first. */
function leftAt(
  project: Project,
  what: Playing,
  { section, patternTick, tick }: SongPosition,
): Ticks {
  const arrangement = arrangementOf(project, what);
  return Math.min(
    section.loopTicks - patternTick,
    section.at + section.length - tick,
    arrangement.from + arrangement.length - tick,
  );
}
