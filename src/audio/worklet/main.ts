import type { Hertz, Seconds } from "@/core";
import { BLOCK } from "../synth/block";
import { Echoes, type EchoOrder } from "../synth/echoes";
import { Lines } from "../synth/lines";
import { TrackSound, type TrackOrder } from "../synth/track-sound";
import { warmUp } from "../synth/warm";
import { LIVE } from "./live";
import type { ThreadOrder } from "./thread-port";

// What the audio thread runs: bundled by itself, and loaded into each audio context.

/** What an audio worklet has; its types are not among those of a page. */
declare const sampleRate: Hertz;
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

const SILENCE = new Float32Array(BLOCK);

// While nothing sounds yet. Offline nobody waits for the first chord.
if (import.meta.url.endsWith(LIVE)) warmUp(sampleRate);

/** Channels of an input or an output. */
type Channels = Float32Array[];
type Sides = [Float32Array, Float32Array];

/** A part of the program: takes orders, and makes or changes blocks of 128 samples. */
interface Part<Order> {
  take?(order: Order, frame: number): void;
  /** Input is empty where nothing is connected, or what is has stopped. Outputs are silent before. */
  run(outputs: readonly Channels[], input: Channels, frame: number): void;
}

function register<Order extends object, Options>(
  name: string,
  make: (options: Options) => Part<Order>,
): void {
  class Processor extends AudioWorkletProcessor {
    private readonly part: Part<Order>;
    private ended = false;
    /** The first sample of the block that was made last. */
    private frame = -BLOCK;

    constructor({ processorOptions }: { processorOptions: Options }) {
      super();
      this.part = make(processorOptions);
      this.port.onmessage = ({ data }: MessageEvent<readonly (Order | ThreadOrder)[]>) => {
        for (const order of data) {
          if (isFor(order, "end")) this.ended = true;
          else if (isFor(order, "answer")) this.port.postMessage(order.number);
          else this.part.take?.(order as Order, this.next());
        }
      };
    }

    process([input]: Channels[], outputs: Channels[]): boolean {
      this.frame = this.next();
      this.part.run(outputs, input ?? [], this.frame);
      return !this.ended;
    }

    /**
     * The first sample of the next block. Blocks are counted here, since Chromium leaves `currentFrame` a block behind
     * while the page is at the graph; where blocks were left out it is ahead.
     */
    private next(): number {
      return Math.max(this.frame + BLOCK, currentFrame);
    }
  }
  registerProcessor(name, Processor);
}

const isFor = <S extends ThreadOrder["say"]>(
  order: object,
  say: S,
): order is Extract<ThreadOrder, { say: S }> => (order as ThreadOrder).say === say;

register<TrackOrder, { epoch: Seconds }>("track", ({ epoch }) => {
  const track = new TrackSound(sampleRate, epoch);
  return {
    take: (order, frame) => track.take(order, frame),
    run: ([mix, reverb, echo], _, frame) =>
      track.run(mix as Sides, { reverb: reverb![0]!, echo: echo as Sides }, frame),
  };
});

register<EchoOrder, { longest: Seconds }>("echoes", ({ longest }) => {
  const echoes = new Echoes(longest, sampleRate);
  return {
    take: (order) => echoes.take(order),
    run: ([output], [left = SILENCE, right = left]) => echoes.run([left, right], output as Sides),
  };
});

register<never, { lengths: number[]; falls: number[] }>("lines", ({ lengths, falls }) => {
  const lines = new Lines(lengths, falls);
  return {
    run: ([output], [left = SILENCE, right = left]) => lines.run([left, right], output as Sides),
  };
});
