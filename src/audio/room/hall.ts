import type { Hertz } from "@/core";
import { coarse, ease, gainNode } from "../ease";
import { lineLengths } from "../synth/lines";
import { ThreadPort } from "../worklet/thread-port";
import { burst, fallen, type RoomSound } from "./burst";

/** Below this nothing rings: a room of a low end is mud. */
const LOW_CUT: Hertz = 140;

/**
 * The sound of one room: a burst, then eight delay lines that feed each other and fall by 60 dB in the time asked
 * for, then what is dull and what is low in it taken off.
 */
export class Hall {
  readonly input: ConvolverNode;
  readonly output: GainNode;
  private readonly tone: BiquadFilterNode;
  private readonly nodes: AudioNode[];
  private readonly port: ThreadPort<never>;

  constructor(
    private readonly context: BaseAudioContext,
    sound: RoomSound,
  ) {
    const { decay, size } = sound;
    const [left, right] = burst(sound);
    const { sampleRate } = context;
    const buffer = context.createBuffer(2, left.length, sampleRate);
    buffer.copyToChannel(left, 0);
    buffer.copyToChannel(right, 1);
    this.input = context.createConvolver();
    this.input.normalize = false;
    this.input.buffer = buffer;

    const lengths = lineLengths(size, sampleRate);
    const falls = lengths.map((length) => fallen(length / sampleRate, decay));
    const low = context.createBiquadFilter();
    low.type = "highpass";
    low.frequency.value = LOW_CUT;
    this.tone = context.createBiquadFilter();
    this.tone.type = "lowpass";
    this.tone.Q.value = Math.SQRT1_2;
    coarse(this.tone.frequency);
    // What comes out of a side, as power: its lines' over the time they take to fall.
    const kept = falls.reduce((all, fall) => all + fall ** 2, 0) / falls.length;
    this.output = gainNode(context, Math.sqrt((1 - kept) / kept / falls.length) * 1.4);
    this.port = new ThreadPort(context, "lines", { lengths, falls }, { input: this.input });
    this.port.lead(low);
    low.connect(this.tone).connect(this.output);
    this.nodes = [this.input, low, this.tone, this.output];
  }

  /** Resolves when it sounds. */
  ready(): Promise<void> {
    return this.port.ready();
  }

  /** Above this frequency the room is dull. */
  setTone(hz: Hertz): void {
    ease(this.tone.frequency, hz, this.context);
  }

  dispose(): void {
    this.port.dispose();
    for (const node of this.nodes) node.disconnect();
  }
}
