import * as Tone from "tone";
import {
  bendLine,
  bendSemitones,
  playbackEvents,
  timeMap,
  type MidiPitch,
  type PlaybackOptions,
  type Project,
  type Seconds,
  type Velocity,
} from "@/core";
import { Mixer } from "./mixer";
import { renderHere } from "./pads/renderers";
import { triggerOf } from "./trigger";

/** A note held by hand: from when to when, in seconds. */
export interface Held {
  pitch: MidiPitch;
  velocity: Velocity;
  from: Seconds;
  to: Seconds;
}

/** What a context renders. The mixer is held on to until then: what nothing holds may be cleared away while it sounds. */
async function rendered(context: OfflineAudioContext, mixer: Mixer): Promise<AudioBuffer> {
  try {
    return await context.startRendering();
  } finally {
    mixer.dispose();
  }
}

/** Another state of the project, from a time on, as an edit while it plays. */
export interface Later {
  at: Seconds;
  project: Project;
}

/** Renders notes held on one track as live playing begins and ends them, through the same voices and mixer. */
export async function bounceHeld(
  project: Project,
  track: string,
  notes: readonly Held[],
  seconds: Seconds,
  { sampleRate = 44100, later = [] }: { sampleRate?: number; later?: readonly Later[] } = {},
): Promise<AudioBuffer> {
  const context = new OfflineAudioContext(2, Math.ceil(seconds * sampleRate), sampleRate);
  const mixer = new Mixer(new Tone.OfflineContext(context), context, false, renderHere);
  mixer.update(project);
  await mixer.ready();
  for (const { pitch, velocity, from, to } of notes) {
    mixer.hold(track, { time: from, pitch, velocity, pan: 0, tune: 0 })?.release(to);
  }
  for (const change of later) {
    void context.suspend(change.at).then(async () => {
      mixer.update(change.project);
      await mixer.ready();
      await context.resume();
    });
  }
  return rendered(context, mixer);
}

/** Notes are handed over for so many seconds at a time. */
const STRETCH: Seconds = 0.5;

/**
 * Renders `[from, to)` ticks of a project through the same voices and mixer as live playing, as
 * fast as it goes. `tail` seconds are added for what rings on. Tick `from` is at 0 seconds.
 */
export async function bounce(
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions & { sampleRate?: number; tail?: Seconds } = {},
): Promise<AudioBuffer> {
  const { sampleRate = 44100, tail = 1, ...playback } = options;
  const map = timeMap(project, playback);
  const begin = map.secondsAt(from);
  const frames = Math.ceil((map.secondsAt(to) - begin + tail) * sampleRate);
  const context = new OfflineAudioContext(2, frames, sampleRate);
  const mixer = new Mixer(new Tone.OfflineContext(context), context, false, renderHere);
  mixer.update(project);
  await mixer.ready();
  for (const track of project.tracks) {
    const line = bendLine(project, track.id, from, to, { loop: false, ...playback });
    mixer.follow(
      track.id,
      line.map(({ tick, value }) => ({
        time: map.secondsAt(tick) - begin,
        by: bendSemitones(value),
      })),
    );
  }
  const events = playbackEvents(project, from, to, { loop: false, ...playback });
  let next = 0;
  /** Hands over what begins before a time. */
  const handOver = (until: Seconds) => {
    for (; next < events.length; next++) {
      const event = events[next]!;
      const time = map.secondsAt(event.start) - begin;
      if (time >= until) return;
      mixer.trigger(event.track, triggerOf(event, time, map.tickSeconds(event.start)));
    }
  };
  // As live playing does, a little ahead: what is yet to begin would cost as much as what sounds.
  const length = frames / sampleRate;
  // Not every browser stops on the way: then all is handed over at once.
  const stops = "suspend" in context;
  handOver(stops ? 2 * STRETCH : Infinity);
  for (let at = STRETCH; stops && at < length; at += STRETCH) {
    void context.suspend(at).then(() => {
      handOver(at + 2 * STRETCH);
      return context.resume();
    });
  }
  return rendered(context, mixer);
}
