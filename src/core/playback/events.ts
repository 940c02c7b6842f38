import {
  type MidiPitch,
  type Pan,
  type Semitones,
  type Ticks,
  type Velocity,
  lowerBound,
  nth,
  mustGet,
} from "../base";
import { MAX_EARLY } from "../time";
import {
  type Arrangement,
  type ArrangementOptions,
  type Project,
  type Section,
  arrangementOf,
  sectionAfter,
} from "../score";
import { isLively, soundsIn, type Turn } from "./chance";
import { loopGroups, soundingTracks, type LoopGroup } from "./voices";

/** A note that sounds: times in ticks from the start of playback. */
export interface PlaybackEvent {
  start: Ticks;
  length: Ticks;
  track: string;
  /** Id of the note in its part. */
  note: string;
  pitch: MidiPitch;
  velocity: Velocity;
  pan: Pan;
  tune: Semitones;
  slide: boolean;
  /** For a note that slides: the pitch it slides into, and the ticks until that begins. */
  glide?: { pitch: MidiPitch; after: number };
  /** MIDI channel 1–16, where the note has its own. */
  channel?: number;
}

/** What is played, and how. */
export interface PlaybackOptions extends ArrangementOptions {
  /** Whether playback starts over at the end (default), or falls silent. */
  loop?: boolean;
  /** Also what is muted or not on solo. */
  all?: boolean;
}

/**
 * The one function that says what sounds when: every note with its onset in `[from, to)`, ticks
 * from the start of playback, in order. Cutting a stretch of time into any windows gives the same
 * events, each exactly once. An early note (negative start) belongs to the loop that it leads into:
 * it sounds before it, at the end of the loop before; at the very beginning of playback it sounds
 * at once, on tick 0. Notes with a chance or a condition sound in the loops that these let them,
 * drawn by the project's seed. A pattern by itself counts its loops on and on, and has no last one.
 */
export function playbackEvents(
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions = {},
): PlaybackEvent[] {
  const arrangement = arrangementOf(project, options);
  const events: PlaybackEvent[] = [];
  if (arrangement.length === 0 || to <= from) return events;
  const loop = options.loop ?? true;
  const tracks = options.all ? project.tracks : soundingTracks(project);

  // A section's first notes may be early, so those that begin just after the window count too.
  const firstPass = Math.max(0, Math.floor(from / arrangement.length));
  const lastPass = loop ? Math.floor((to - 1 + MAX_EARLY) / arrangement.length) : 0;
  for (let pass = firstPass; pass <= lastPass; pass++) {
    const zero = pass * arrangement.length - arrangement.from;
    const window: Window = {
      arrangement,
      alone: options.pattern !== undefined,
      pass,
      zero,
      low: from - zero,
      high: to - zero,
      events,
    };
    const end = Math.min(window.high + MAX_EARLY, arrangement.from + arrangement.length);
    const first = sectionAfter(arrangement.sections, Math.max(window.low, arrangement.from));
    for (let i = first; i < arrangement.sections.length; i++) {
      const section = nth(arrangement.sections, i);
      if (section.at >= end) break;
      const silent = options.all ? undefined : section.entry?.mutes;
      for (const track of tracks) {
        if (silent?.includes(track.id)) continue;
        const part = section.pattern.parts.find((part) => part.track === track.id);
        if (!part) continue;
        for (const group of loopGroups(project, { pattern: section.pattern, track, part }, options))
          collect(project, group, section, track.id, window);
      }
    }
  }
  const order = new Map(project.tracks.map((track, i) => [track.id, i]));
  return events.sort(
    (a, b) =>
      a.start - b.start ||
      mustGet(order, a.track) - mustGet(order, b.track) ||
      a.pitch - b.pitch ||
      (a.note < b.note ? -1 : a.note > b.note ? 1 : 0),
  );
}

/** One pass of a line, and which of its ticks are asked for. */
interface Window {
  arrangement: Arrangement;
  /** Whether a pattern is played by itself: then its loops are those of all passes. */
  alone: boolean;
  pass: number;
  /** Tick of playing at which tick 0 of the line would be in this pass. */
  zero: number;
  /** `[low, high)` in ticks of the line; may reach beyond it on both sides. */
  low: number;
  high: number;
  events: PlaybackEvent[];
}

function collect(
  project: Project,
  group: LoopGroup,
  section: Section,
  track: string,
  { arrangement, alone, pass, zero, low, high, events }: Window,
): void {
  const { notes, starts, period } = group;
  const { at, length, skip, loopTicks: roundTicks, roundsBefore, runEnd } = section;
  // What of the section lies in the stretch that is played.
  const begin = Math.max(at, arrangement.from);
  const end = Math.min(at + length, arrangement.from + arrangement.length);
  const base = at - skip;
  const loops = Math.ceil(roundTicks / period);
  const before = roundsBefore * loops;
  const lastTurn = alone ? null : before + turnAt(runEnd - base - 1, roundTicks, period, loops);
  const turnOf = (round: number, k: number): Turn => {
    const since = before + round * loops + k;
    const start = base + round * roundTicks + k * period;
    return {
      seed: project.seed ?? 0,
      at: start + pass * arrangement.total,
      loop: alone ? pass * loops + since : since,
      last: since === lastTurn,
    };
  };
  const lively = livelyIn(group);
  const put = (i: number, start: number, round: number, k: number) => {
    const turn = lively ? turnOf(round, k) : null;
    if (turn && !soundsIn(nth(notes, i), turn)) return;
    const after = turn && (k + 1 < loops ? turnOf(round, k + 1) : turnOf(round + 1, 0));
    events.push(eventOf(group, i, start, track, turn && after && { turn, after }));
  };
  const firstRound = Math.max(0, Math.floor((Math.max(low, begin) - base) / roundTicks));
  for (let round = firstRound; ; round++) {
    const own = base + round * roundTicks;
    if (own - MAX_EARLY >= high || own >= end) break;
    const roundEnd = Math.min(own + roundTicks, end);
    for (let k = Math.max(0, Math.floor((low - own) / period)); k < loops; k++) {
      const from = own + k * period;
      if (from - MAX_EARLY >= high || from >= roundEnd) break;
      for (let i = lowerBound(starts, low - from); i < notes.length; i++) {
        const start = nth(starts, i);
        const x = from + start;
        if (start >= period || x >= high || x >= roundEnd) break;
        // An early hit belongs to the loop it leads into; before the very beginning there is no time.
        if (start < 0 ? from < begin || x + zero < 0 : x < begin) continue;
        put(i, x + zero, round, k);
      }
    }
  }
  // The very first early hits have no loop before them.
  if (pass > 0 || low > arrangement.from || high <= arrangement.from || begin !== arrangement.from)
    return;
  const since = arrangement.from - base;
  const round = Math.floor(since / roundTicks);
  const inRound = since - round * roundTicks;
  if (inRound % period !== 0) return;
  for (let i = 0; i < notes.length && nth(starts, i) < 0; i++) put(i, 0, round, inRound / period);
}

/** Which time round its loop a tick since a section's first loop began lies in, from 0. */
function turnAt(tick: number, roundTicks: number, period: number, loops: number): number {
  const round = Math.floor(tick / roundTicks);
  return round * loops + Math.floor((tick - round * roundTicks) / period);
}

const lively = new WeakMap<readonly unknown[], boolean>();

/** Whether any note of a group differs from round to round; looked for once. */
function livelyIn({ notes }: LoopGroup): boolean {
  let found = lively.get(notes);
  if (found === undefined) lively.set(notes, (found = notes.some(isLively)));
  return found;
}

function eventOf(
  group: LoopGroup,
  index: number,
  start: Ticks,
  track: string,
  turns: { turn: Turn; after: Turn } | null,
): PlaybackEvent {
  const note = nth(group.notes, index);
  const { length, pitch, velocity, pan, tune, slide } = note;
  const event: PlaybackEvent = {
    start,
    length,
    track,
    note: note.id,
    pitch,
    velocity,
    pan,
    tune,
    slide,
  };
  const glide = slide && group.pitch === null ? nextOnset(group, index, turns) : null;
  if (glide) event.glide = glide;
  if (note.channel) event.channel = note.channel;
  return event;
}

/**
 * What the next onset after a note is, round the loop if need be: of the notes that sound there, the
 * one nearest in pitch. Null where nothing else begins.
 */
function nextOnset(
  { notes, starts, period }: LoopGroup,
  index: number,
  turns: { turn: Turn; after: Turn } | null,
) {
  const [own, from] = [nth(notes, index), nth(starts, index)];
  const first = (low: number, turn: Turn | undefined): number => {
    for (let i = low; i < notes.length && nth(starts, i) < period; i++)
      if (!turn || soundsIn(nth(notes, i), turn)) return i;
    return -1;
  };
  let past = index + 1;
  while (past < notes.length && starts[past] === from) past++;
  let turn = turns?.turn;
  let [at, around] = [first(past, turn), 0];
  if (at < 0) {
    turn = turns?.after;
    [at, around] = [first(0, turn), period];
  }
  if (at < 0) return null;
  const onset = nth(starts, at);
  const after = onset + around - from;
  if (after <= 0) return null;
  let pitch: MidiPitch = nth(notes, at).pitch;
  for (; at < notes.length && starts[at] === onset; at++) {
    if (turn && !soundsIn(nth(notes, at), turn)) continue;
    const next = nth(notes, at).pitch;
    if (Math.abs(next - own.pitch) < Math.abs(pitch - own.pitch)) pitch = next;
  }
  return { pitch, after };
}
