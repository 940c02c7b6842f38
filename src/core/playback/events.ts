import { firstIndex, lowerBound } from "../search";
import { MAX_EARLY } from "../time/ticks";
import type { Project } from "../score/model";
import { sectionsOf, totalTicks, type Section } from "./sections";
import { loopGroups, soundingTracks, type LoopGroup } from "./voices";
import type { MidiPitch, Pan, Semitones, Ticks, Velocity } from "../units";

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
export interface PlaybackOptions {
  /** Play this pattern only; else the song, else all patterns in order. */
  pattern?: string;
  /** Whether playback starts over at the end (default), or falls silent. */
  loop?: boolean;
  /** Also what is muted or not on solo. */
  all?: boolean;
}

/**
 * The one function that says what sounds when: every note with its onset in `[from, to)`, ticks
 * from the start of playback, in order. Cutting a stretch of time into any windows gives the same
 * events, each exactly once. An early note (negative start) sounds at the end of the round before;
 * at the very beginning of playback it sounds at once, on tick 0.
 */
export function playbackEvents(
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions = {},
): PlaybackEvent[] {
  const sections = sectionsOf(project, options.pattern);
  const total = totalTicks(sections);
  const events: PlaybackEvent[] = [];
  if (total === 0 || to <= from) return events;
  const loop = options.loop ?? true;
  const tracks = options.all ? project.tracks : soundingTracks(project);

  // A section's first notes may be early, so those that begin just after the window count too.
  const firstRound = Math.max(0, Math.floor(from / total));
  const lastRound = loop ? Math.floor((to - 1 + MAX_EARLY) / total) : 0;
  for (let round = firstRound; round <= lastRound; round++) {
    const begin = round * total;
    for (let i = firstAfter(sections, from - begin); i < sections.length; i++) {
      const section = sections[i]!;
      const at = begin + section.at;
      if (at - MAX_EARLY >= to) break;
      tracks.forEach((track) => {
        const part = section.pattern.parts.find((p) => p.track === track.id);
        if (!part) return;
        for (const group of loopGroups(project, section.pattern, track, part, options.all)) {
          collect(group, section, at, from, to, track.id, events);
        }
      });
    }
  }
  const order = new Map(project.tracks.map((track, i) => [track.id, i]));
  return events.sort(
    (a, b) =>
      a.start - b.start ||
      order.get(a.track)! - order.get(b.track)! ||
      a.pitch - b.pitch ||
      (a.note < b.note ? -1 : a.note > b.note ? 1 : 0),
  );
}

/** Index of the first section that ends after a tick. */
const firstAfter = (sections: readonly Section[], tick: number): number =>
  firstIndex(sections.length, (i) => sections[i]!.at + sections[i]!.length <= tick);

function collect(
  group: LoopGroup,
  section: Section,
  at: number,
  from: number,
  to: number,
  track: string,
  events: PlaybackEvent[],
): void {
  const { notes, starts, period } = group;
  const low = Math.max(from - at, -MAX_EARLY);
  const high = Math.min(to - at, section.length);
  const first = Math.max(0, Math.floor(low / period));
  for (let repeat = first; repeat * period - MAX_EARLY < high; repeat++) {
    const offset = repeat * period;
    if (offset >= section.length) break;
    for (let i = lowerBound(starts, low - offset); i < notes.length; i++) {
      const start = starts[i]!;
      if (start >= period || start + offset >= high) break;
      // The very first early hits have no round before them; they are given below.
      if (at + offset + start >= 0) events.push(eventOf(group, i, at + offset + start, track));
    }
  }
  if (at === 0 && from <= 0 && to > 0) {
    for (let i = 0; i < notes.length && starts[i]! < 0; i++)
      events.push(eventOf(group, i, 0, track));
  }
}

function eventOf(group: LoopGroup, index: number, start: Ticks, track: string): PlaybackEvent {
  const note = group.notes[index]!;
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
  const glide = slide && group.pitch === null ? nextOnset(group, index) : null;
  if (glide) event.glide = glide;
  if (note.channel) event.channel = note.channel;
  return event;
}

/**
 * What the next onset after a note is, round the loop if need be: of the notes that begin there, the
 * one nearest in pitch. Null where nothing else begins.
 */
function nextOnset({ notes, starts, period }: LoopGroup, index: number) {
  const [own, from] = [notes[index]!, starts[index]!];
  let at = index + 1;
  while (at < notes.length && starts[at] === from) at++;
  const round = at >= notes.length || starts[at]! >= period ? period : 0;
  if (round > 0) at = 0;
  const onset = starts[at]!;
  const after = onset + round - from;
  if (after <= 0) return null;
  let pitch: MidiPitch = notes[at]!.pitch;
  for (; at < notes.length && starts[at] === onset; at++) {
    const next = notes[at]!.pitch;
    if (Math.abs(next - own.pitch) < Math.abs(pitch - own.pitch)) pitch = next;
  }
  return { pitch, after };
}
