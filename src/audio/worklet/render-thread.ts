import type { Hertz } from "@/core/base";
import { BLOCK } from "../synth/block";
import { MixSound, type MixOptions, type MixCommand } from "../synth/mix-sound";

/** What is said to a thread that renders. */
export type RenderCommand =
  /** Another mix, from its first sample on. */
  | { type: "begin"; options: MixOptions; rate: Hertz }
  /** Takes commands, then renders so many blocks: kept, or only to lead up to what follows. */
  | { type: "render"; commands: readonly MixCommand[]; blocks: number; kept: boolean };

/** The answer to each stretch: its channels, none where they are not kept. Or what went wrong. */
export type RenderAnswer = { channels: Float32Array<ArrayBuffer>[] } | { problem: string };

/** Makes stretches of a mix as they are asked for. Pure but for what it was told. */
export class Rendering {
  private readonly mix: MixSound;
  private readonly count: number;
  private frame = 0;

  constructor(options: MixOptions, rate: Hertz) {
    this.mix = new MixSound(options, rate);
    this.count = 2 * options.ways.outputs.length;
  }

  /** Takes commands, and renders so many blocks. */
  render(commands: readonly MixCommand[], blocks: number): Float32Array<ArrayBuffer>[] {
    for (const command of commands) this.mix.take(command, this.frame);
    const channels = Array.from({ length: this.count }, () => new Float32Array(blocks * BLOCK));
    for (let k = 0; k < blocks; k++, this.frame += BLOCK) {
      const block = channels.map((one) => one.subarray(k * BLOCK, (k + 1) * BLOCK));
      this.mix.run(block, this.frame);
    }
    return channels;
  }

  dispose(): void {
    this.mix.dispose();
  }
}

/** Answers the messages of a page, in a worker. */
export function serveRenders(): void {
  let rendering: Rendering | null = null;
  const answer = (given: RenderAnswer) =>
    postMessage(given, {
      transfer: "channels" in given ? given.channels.map(({ buffer }) => buffer) : [],
    });
  self.onmessage = ({ data }: MessageEvent<RenderCommand>) => {
    if (data.type === "begin") {
      rendering?.dispose();
      rendering = new Rendering(data.options, data.rate);
      return;
    }
    try {
      const channels = rendering!.render(data.commands, data.blocks);
      answer({ channels: data.kept ? channels : [] });
    } catch (error) {
      answer({ problem: (error as Error).message });
    }
  };
}
