import type { Seconds } from "@/core";
import { Voices } from "../synth/voices";
import type { VoiceOrder } from "../synth/plan";

// What the audio thread runs: bundled by itself, and loaded into each audio context.

/** What an audio worklet has; its types are not among those of a page. */
declare const sampleRate: number;
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

registerProcessor(
  "voices",
  class extends AudioWorkletProcessor {
    static get parameterDescriptors() {
      return ["bend", "open"].map((name) => ({ name, defaultValue: 0, automationRate: "k-rate" }));
    }

    private readonly voices: Voices;
    private ended = false;

    constructor({ processorOptions }: { processorOptions: { epoch: Seconds } }) {
      super();
      this.voices = new Voices(sampleRate, processorOptions.epoch);
      this.port.onmessage = ({ data }: MessageEvent<readonly VoiceOrder[]>) => {
        for (const order of data) {
          if (order.say === "end") this.ended = true;
          else if (order.say === "answer") this.port.postMessage(order.number);
          else this.voices.take(order, currentFrame);
        }
      };
    }

    process(
      _inputs: unknown,
      [output]: Float32Array[][],
      { bend, open }: Record<"bend" | "open", Float32Array>,
    ): boolean {
      const [left, right] = output!;
      this.voices.add(left!, right!, currentFrame, bend[0]!, open[0]!);
      return !this.ended;
    }
  },
);
