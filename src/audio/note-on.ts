import type { Seconds } from "@/core/base";
import type { PlaybackEvent } from "@/core/playback";
import type { NoteOn } from "./instrument";

/** A playback event as an instrument takes it, at a time of the audio clock, at a tempo. */
export function noteOnOf(event: PlaybackEvent, time: Seconds, tickSeconds: Seconds): NoteOn {
  const { pitch, velocity, pan, tune, glide } = event;
  return {
    time,
    seconds: event.length * tickSeconds,
    pitch,
    velocity,
    pan,
    tune,
    ...(glide && { glide: { pitch: glide.pitch, seconds: glide.after * tickSeconds } }),
  };
}
