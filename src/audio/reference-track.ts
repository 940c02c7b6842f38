import { type Seconds, type Ticks, clamp, nth } from "@/core/base";
import { PPQ, barTicks } from "@/core/time";
import { PLAIN_KIT, type Project, type Recording, metreOf, plainPad } from "@/core/score";
import { barsHeard } from "@/core/listen";
import { ease, gainNode } from "./ease";

import type { PadRenderer } from "./pads/render";
import type { Stretch } from "./scheduler";

/** How long a recording takes to come and go where it is cut. */
const FADE: Seconds = 0.004;
/** A tempo so near the recording's is taken as the same: nothing is stretched. */
const SAME_TEMPO = 0.0005;
/** How far a recording can be stretched. */
const FACTORS = { min: 0.25, max: 4 };
/** Hardly a tick: what follows within it goes on. */
const ON: Ticks = 1.5;

/** A recording at the tempo it is heard in. */
interface Made {
  key: string;
  buffer: AudioBuffer | null;
  failed?: boolean;
}

/** What sounds now, and up to which tick of its pattern it was asked for. */
interface Sounding {
  key: string;
  source: AudioBufferSourceNode;
  gain: GainNode;
  next: Ticks;
  end: Seconds;
}

/**
 * The recording behind a pattern: it sounds where the pattern stands, from anywhere, over and over with its own
 * bars, at the tempo that is played. Another tempo than its own makes it longer or shorter, not higher or lower.
 */
export class ReferenceTrack {
  readonly output: GainNode;
  private made: Made | null = null;
  private sounding: Sounding | null = null;
  /** Times it was begun since the page was opened: where it starts and jumps. */
  begun = 0;

  constructor(
    private readonly context: BaseAudioContext,
    output: AudioNode,
    private readonly render: PadRenderer,
    private readonly problem: (text: string) => void = () => undefined,
  ) {
    this.output = gainNode(context, 1);
    this.output.connect(output);
  }

  setLevel(gain: number): void {
    ease(this.output.gain, gain, this.context);
  }

  /** Goes on through stretches of what plays, in order; those without a recording are silent. */
  follow(project: Project, stretches: readonly Stretch[]): void {
    for (const { pattern: id, patternTick, ticks, time, tickSeconds } of stretches) {
      const pattern = project.patterns.find((pattern) => pattern.id === id);
      const recording = pattern?.recording;
      if (!pattern || !recording) {
        this.end(time);
        continue;
      }
      const factor = recording.tempo / (60 / (tickSeconds * PPQ));
      const made = this.of(recording, factor);
      if (!made.buffer) {
        this.end(time);
        continue;
      }
      const bar = barTicks(metreOf(project, pattern));
      const length = made.buffer.duration / factorOf(factor);
      const loop = barsHeard(length, recording, bar) * bar;
      for (let at = 0; at < ticks;) {
        const inLoop = (((patternTick + at) % loop) + loop) % loop;
        const until = Math.min(ticks, at + loop - inLoop);
        this.play(made, recording.first * factorOf(factor), {
          from: inLoop,
          to: inLoop + until - at,
          time: time + at * tickSeconds,
          tickSeconds,
        });
        at = until;
      }
    }
  }

  private play(
    { key, buffer }: Made,
    first: Seconds,
    {
      from,
      to,
      time,
      tickSeconds,
    }: { from: Ticks; to: Ticks; time: Seconds; tickSeconds: Seconds },
  ): void {
    const now = this.sounding;
    if (now && now.key === key && Math.abs(now.next - from) < ON) {
      now.next = to;
      now.end = time + (to - from) * tickSeconds;
      return;
    }
    this.end(time);
    const gain = this.context.createGain();
    const source = this.context.createBufferSource();
    source.buffer = buffer;
    const starts = Math.max(time, this.context.currentTime);
    gain.gain.setValueAtTime(0, starts);
    gain.gain.linearRampToValueAtTime(1, starts + FADE);
    source.connect(gain).connect(this.output);
    source.start(starts, Math.max(0, first + from * tickSeconds + (starts - time)));
    source.onended = () => gain.disconnect();
    this.begun++;
    this.sounding = { key, source, gain, next: to, end: time + (to - from) * tickSeconds };
  }

  /** Ends what sounds at a time, or at once where that is past. */
  private end(time: Seconds): void {
    const now = this.sounding;
    if (!now) return;
    this.sounding = null;
    const at = Math.max(time, this.context.currentTime);
    now.gain.gain.setValueAtTime(1, at);
    now.gain.gain.linearRampToValueAtTime(0, at + FADE);
    now.source.stop(at + FADE);
  }

  stop(): void {
    this.end(this.context.currentTime);
  }

  /** Makes the recording ready at a tempo, before it is played. */
  async ready(recording: Recording, tempo: number): Promise<void> {
    // What could not be had is asked for again with each start, and not in each window.
    if (this.made?.failed) this.made = null;
    await this.make(recording, recording.tempo / tempo);
  }

  private of(recording: Recording, factor: number): Made {
    if (this.made?.key !== keyOf(recording, factor)) void this.make(recording, factor);
    return this.made!;
  }

  private async make(recording: Recording, factor: number): Promise<void> {
    const key = keyOf(recording, factor);
    if (this.made?.key === key) return;
    const made: Made = (this.made = { key, buffer: null });
    try {
      const rate = this.context.sampleRate;
      const pad = { ...plainPad(0), sample: recording.sample, stretch: factorOf(factor) };
      const channels = await this.render({ kit: "", pad, whole: PLAIN_KIT, rate });
      const buffer = this.context.createBuffer(channels.length, nth(channels, 0).length, rate);
      channels.forEach((channel, c) => buffer.copyToChannel(channel, c));
      made.buffer = buffer;
    } catch (error) {
      made.failed = true;
      this.problem(`“${recording.sample.name}” is not heard: ${(error as Error).message}`);
    }
  }

  dispose(): void {
    this.stop();
    this.output.disconnect();
  }
}

const factorOf = (factor: number): number =>
  Math.abs(factor - 1) < SAME_TEMPO ? 1 : clamp(factor, FACTORS.min, FACTORS.max);
const keyOf = ({ sample, first }: Recording, factor: number) =>
  `${sample.id} ${first} ${factorOf(factor)}`;
