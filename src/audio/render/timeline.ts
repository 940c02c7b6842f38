import {
  type MidiPitch,
  type Seconds,
  type Semitones,
  firstIndex,
  clamp,
  nth,
  mapTuple,
} from "@/core/base";
import { type Project, bendSemitones, timeMap } from "@/core/score";
import { type PlaybackOptions, bendLine, playbackEvents } from "@/core/playback";
import type { NoteOn } from "../instrument";
import { noteOnOf } from "../note-on";

/** A hit or note of a track, as an instrument takes it; its time is in seconds of the timeline. */
export interface Sounding {
  track: string;
  noteOn: NoteOn;
}

/** What is to be rendered, in seconds: from 0 to its length, what leads up to it before 0. */
export interface Timeline {
  seconds: Seconds;
  /** What begins in `[from, to)`, in order. */
  between(from: Seconds, to: Seconds): Sounding[];
  /** How a track is bent in `[from, to)`, corner by corner. */
  bends(track: string, from: Seconds, to: Seconds): { time: Seconds; by: Semitones }[];
}

/** `[from, to)` ticks of what is played, from silence. */
export function timelineOf(
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions = {},
): Timeline {
  const map = timeMap(project, options);
  const begin = map.secondsAt(from);
  const how = { loop: false, ...options };
  const all = playbackEvents(project, from, to, how).map((event): Sounding => {
    const time = map.secondsAt(event.start) - begin;
    return { track: event.track, noteOn: noteOnOf(event, time, map.tickSeconds(event.start)) };
  });
  return {
    seconds: map.secondsAt(to) - begin,
    between: (low, high) => slice(all, low, high),
    bends: (track, low, high) => {
      const [first, last] = mapTuple([low, high], (at) =>
        clamp(Math.round(map.tickAt(Math.max(0, at + begin))), from, to),
      );
      return bendLine(project, track, [first, last], how).map(({ tick, value }) => ({
        time: map.secondsAt(tick) - begin,
        by: bendSemitones(value),
      }));
    },
  };
}

/** What begins in `[from, to)` of a list in order. */
function slice(all: readonly Sounding[], from: Seconds, to: Seconds): Sounding[] {
  const at = (time: Seconds) => firstIndex(all.length, (i) => nth(all, i).noteOn.time < time);
  return all.slice(at(from), at(to));
}

/**
 * A timeline gone round for ever, so that what rings on at its end is heard at its beginning. Its length is a
 * whole number of samples, so that it starts over on the sample; what that moves is less than half of one.
 */
export function looped(once: Timeline, rate: number): Timeline {
  const seconds = Math.max(1, Math.round(once.seconds * rate)) / rate;
  const eachLoop = <T>(from: Seconds, to: Seconds, of: (low: Seconds, high: Seconds) => T[]) =>
    Array.from(
      { length: Math.max(0, Math.ceil(to / seconds) - Math.floor(from / seconds)) },
      (_, i) => {
        const zero = (Math.floor(from / seconds) + i) * seconds;
        return { zero, list: of(Math.max(0, from - zero), Math.min(seconds, to - zero)) };
      },
    );
  return {
    seconds,
    between: (from, to) =>
      eachLoop(from, to, (low, high) =>
        once.between(low, high === seconds ? Infinity : high),
      ).flatMap(({ zero, list }) =>
        list.map(({ track, noteOn }) => ({
          track,
          noteOn: { ...noteOn, time: noteOn.time + zero },
        })),
      ),
    bends: (track, from, to) =>
      eachLoop(from, to, (low, high) => once.bends(track, low, high)).flatMap(({ zero, list }) =>
        list.map(({ time, by }) => ({ time: time + zero, by })),
      ),
  };
}

/** A timeline of which some belongs to other tracks: `owner` says to which. */
export function handed(
  timeline: Timeline,
  owner: (track: string, pitch: MidiPitch) => string,
): Timeline {
  return {
    ...timeline,
    between: (from, to) =>
      timeline
        .between(from, to)
        .map(({ track, noteOn }) => ({ track: owner(track, noteOn.pitch), noteOn })),
  };
}
