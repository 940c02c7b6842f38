import { type MidiPitch, type Seconds, type Velocity, nth } from "@/core/base";
import type { Project } from "@/core/score";
import type { PlaybackOptions } from "@/core/playback";
import { renderHere } from "./pads/renderers";
import { keeping } from "./render/keep";
import { renderPieces } from "./render/pieces";
import { rendering } from "./render/rendering";
import { timelineOf } from "./render/timeline";
import { BLOCK } from "./synth/block";

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
  { track, notes, seconds }: { track: string; notes: readonly Held[]; seconds: Seconds },
  { sampleRate = 44100, later = [] }: { sampleRate?: number; later?: readonly Later[] } = {},
): Promise<AudioBuffer> {
  const { mixer, port } = rendering(sampleRate, { render: renderHere });
  try {
    mixer.update(project);
    await mixer.ready();
    for (const { pitch, velocity, from, to } of notes) {
      mixer.hold(track, { time: from, pitch, velocity, pan: 0, tune: 0 })?.release(to);
    }
    const length = Math.ceil(seconds * sampleRate);
    const buffer = new AudioBuffer({ length, numberOfChannels: 2, sampleRate });
    const blocksTo = (time: Seconds) => Math.ceil((time * sampleRate) / BLOCK);
    let made = 0;
    const go = async (blocks: number) => {
      if (blocks <= made) return;
      const channels = await port.render(blocks - made);
      channels.forEach((side, i) => {
        const fits = side.subarray(0, length - made * BLOCK);
        buffer.copyToChannel(fits, i, made * BLOCK);
      });
      made = blocks;
    };
    for (const change of later) {
      await go(blocksTo(Math.min(change.at, seconds)));
      mixer.update(change.project);
      await mixer.ready();
    }
    await go(blocksTo(seconds));
    return buffer;
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
    nth(piece.outputs, 0).forEach((side, channel) =>
      buffer.copyToChannel(side, channel, piece.from),
    );
  }
  return buffer;
}
