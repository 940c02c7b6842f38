import "./start-kernels";
import type { Hertz } from "@/core/base";
import { BLOCK } from "../synth/block";
import { MixSound, type MixOptions, type MixCommand } from "../synth/mix-sound";
import { warmUp } from "../synth/warm";
import type { ThreadCommand } from "./mix-port";
import { serveRenders } from "./render-thread";

// What makes sound: bundled by itself, loaded by its address into audio contexts, and into workers that render.

/** What an audio worklet has; its types are not among those of a page. */
declare const sampleRate: Hertz;
declare const currentFrame: number;
declare const registerProcessor: ((name: string, processor: unknown) => void) | undefined;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

if (typeof registerProcessor === "undefined") serveRenders();
else playLive(registerProcessor);

function playLive(register: (name: string, processor: unknown) => void): void {
  // While nothing sounds yet.
  warmUp(sampleRate);
  register("mix", mixProcessor());
}

/** All sound of one mixer: takes commands, and renders blocks of 128 samples of all its outputs at once. */
function mixProcessor() {
  return class MixProcessor extends AudioWorkletProcessor {
    private readonly mix: MixSound;
    private ended = false;
    private failed = false;
    /** The first sample of the block that was made last. */
    private frame = -BLOCK;

    constructor({ processorOptions }: { processorOptions: MixOptions }) {
      super();
      this.mix = new MixSound(processorOptions, sampleRate);
      this.port.onmessage = ({ data }: MessageEvent<readonly (MixCommand | ThreadCommand)[]>) => {
        for (const command of data) {
          if (command.type === "end") this.end();
          else if (command.type === "answer") this.port.postMessage(command.number);
          else this.mix.take(command, this.next());
        }
      };
    }

    /** A browser lets go of a processor that throws, for good: a block is silent instead, and it is said once. */
    private fail({ message }: Error, output: readonly Float32Array[]): void {
      for (const side of output) side.fill(0);
      if (!this.failed) this.port.postMessage({ problem: message });
      this.failed = true;
    }

    private end(): void {
      if (!this.ended) this.mix.dispose();
      this.ended = true;
    }

    process(_: unknown, [output]: Float32Array[][]): boolean {
      if (this.ended) return false;
      this.frame = this.next();
      try {
        this.mix.run(output!, this.frame);
      } catch (error) {
        this.fail(error as Error, output!);
        return true;
      }
      const strengths = this.mix.tells();
      if (strengths) this.port.postMessage(strengths);
      return true;
    }

    /**
     * The first sample of the next block. Blocks are counted here, since Chromium leaves `currentFrame` a block behind
     * while the page is at the graph; where blocks were left out it is ahead.
     */
    private next(): number {
      return Math.max(this.frame + BLOCK, currentFrame);
    }
  };
}
