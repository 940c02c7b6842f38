import type { MidiPitch, PlaybackOptions, Project, Seconds, Velocity } from "@/core";
import { Mixer } from "./mixer";
import { renderHere } from "./pads/renderers";
import { keeping } from "./render/keep";
import { renderPieces } from "./render/pieces";
import { timelineOf } from "./render/timeline";

/** A note held by hand: from when to when, in seconds. */
export interface Held {
  pitch: MidiPitch;
  velocity: Velocity;
  from: Seconds;
  to: Seconds;
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
  const mixer = new Mixer(context, { metering: false, render: renderHere });
  mixer.update(project);
  await mixer.ready();
  for (const { pitch, velocity, from, to } of notes) {
    mixer.hold(track, { time: from, pitch, velocity, pan: 0, tune: 0 })?.release(to);
  }
  await mixer.arrived();
  for (const change of later) {
    void context.suspend(change.at).then(async () => {
      mixer.update(change.project);
      await mixer.ready();
      await mixer.arrived();
      await context.resume();
    });
  }
  try {
    // The mixer is held on to until then: what nothing holds may be cleared away while it sounds.
    return await context.startRendering();
  } finally {
    mixer.dispose();
  }
}

/**
 * Renders `[from, to)` ticks of a project through the same voices and mixer as live playing, as
 * fast as it goes. `tail` seconds are added for what rings on. Tick `from` is at 0 seconds.
 */
export async function bounce(
  project: Project,
  from: number,
  to: number,
  options: PlaybackOptions & { sampleRate?: number; tail?: Seconds; piece?: Seconds } = {},
): Promise<AudioBuffer> {
  const { sampleRate: rate = 44100, tail = 1, piece: size, ...playback } = options;
  const timeline = timelineOf(project, from, to, playback);
  const length = Math.ceil((timeline.seconds + tail) * rate);
  const buffer = new AudioBuffer({ length, numberOfChannels: 2, sampleRate: rate });
  const how = {
    leadIn: false,
    beside: 1,
    render: keeping(renderHere),
    ...(size && { piece: size }),
  };
  for await (const piece of renderPieces({ project, timeline, rate, tail, ...how })) {
    piece.outputs[0]!.forEach((side, channel) => buffer.copyToChannel(side, channel, piece.from));
  }
  return buffer;
}
