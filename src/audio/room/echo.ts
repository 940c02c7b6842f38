import { PLAIN_ROOM, roomTime, type Bpm, type Room, type Seconds } from "@/core";
import { gainNode, inChannels } from "../ease";
import type { EchoOrder } from "../synth/echoes";
import { ThreadPort } from "../worklet/thread-port";

/** The longest echo, with a little more. */
const LONGEST: Seconds = 4.1;

/** The echo that tracks and pads send to. */
export class Echo {
  readonly input: GainNode;
  private readonly port: ThreadPort<EchoOrder>;

  constructor(
    private readonly context: BaseAudioContext,
    output: AudioNode,
  ) {
    this.input = inChannels(gainNode(context, 1), 2);
    this.port = new ThreadPort(context, "echoes", { longest: LONGEST }, this);
    this.port.lead(output);
  }

  update(room: Room | undefined, bpm: Bpm): void {
    const { feedback, echoTone: tone, pingPong } = { ...PLAIN_ROOM, ...room };
    // On whole samples: between them an echo would be duller than what it gives back.
    const frames = Math.round((roomTime(room, "echoTime", bpm) / 1000) * this.context.sampleRate);
    const values = { frames, feedback: feedback / 100, tone, pingPong };
    this.port.order({ say: "set", values });
  }

  /** See `Instrument`. */
  ready(): Promise<void> {
    return this.port.ready();
  }

  arrived(): Promise<void> {
    return this.port.arrived();
  }

  dispose(): void {
    this.port.dispose();
    this.input.disconnect();
  }
}
