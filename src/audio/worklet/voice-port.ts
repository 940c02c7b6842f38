import type { Seconds } from "@/core";
import { epochOf } from "../epoch";
import type { VoiceOrder } from "../synth/plan";
import { loadAudioThread } from "./load";

/** An answer that does not come is not waited for longer, in ms. */
const PATIENCE_MS = 1000;
/** Orders kept while the program is not there; then the oldest are let go. */
const MOST_WAITING = 1000;
const TOO_LATE: Seconds = 0.1;

/** The way to an instrument's voices on the audio thread. Until they are there orders wait. */
export class VoicePort {
  /** In cents, all together. */
  readonly bend: GainNode;
  readonly open: GainNode;
  private node: AudioWorkletNode | null = null;
  private waiting: VoiceOrder[] = [];
  private posting = false;
  private ended = false;
  private asked = 0;
  private readonly answers = new Map<number, () => void>();

  constructor(
    private readonly context: BaseAudioContext,
    private readonly output: AudioNode,
  ) {
    this.bend = context.createGain();
    this.open = context.createGain();
  }

  /** What is ordered in one turn goes together. */
  order(order: VoiceOrder): void {
    if (this.ended) return;
    this.waiting.push(order);
    if (!this.node && this.waiting.length > MOST_WAITING) this.waiting.shift();
    if (this.posting || !this.node) return;
    this.posting = true;
    queueMicrotask(() => this.post());
  }

  private post(): void {
    this.posting = false;
    if (!this.node || this.waiting.length === 0) return;
    this.node.port.postMessage(this.waiting);
    this.waiting = [];
  }

  /** Resolves when the voices are there. Rejects where the audio thread's program cannot be had. */
  async ready(): Promise<void> {
    if (this.node) return;
    await loadAudioThread(this.context);
    if (this.node || this.ended) return;
    this.node = new AudioWorkletNode(this.context, "voices", {
      numberOfInputs: 0,
      outputChannelCount: [2],
      processorOptions: { epoch: epochOf(this.context) },
    });
    this.node.port.onmessage = ({ data }: MessageEvent<number>) => {
      this.answers.get(data)?.();
      this.answers.delete(data);
    };
    this.bend.connect(this.node.parameters.get("bend")!);
    this.open.connect(this.node.parameters.get("open")!);
    this.node.connect(this.output);
    // What was due while the program was fetched would all begin at once.
    const late = this.context.currentTime - TOO_LATE;
    this.waiting = this.waiting.filter(
      (order) => order.say !== "begin" || order.held || order.time >= late,
    );
    this.post();
  }

  /** Resolves when all that was ordered has arrived. For offline work: there time does not go by meanwhile. */
  async arrived(): Promise<void> {
    await this.ready();
    const number = ++this.asked;
    const answer = new Promise<void>((resolve) => {
      this.answers.set(number, resolve);
      setTimeout(resolve, PATIENCE_MS);
    });
    this.order({ say: "answer", number });
    this.post();
    await answer;
  }

  /** When the next block will be made, of what is asked for now. */
  get now(): Seconds {
    return this.context.currentTime;
  }

  dispose(): void {
    this.order({ say: "end" });
    this.post();
    this.ended = true;
    this.node?.disconnect();
    this.bend.disconnect();
    this.open.disconnect();
    for (const answer of this.answers.values()) answer();
  }
}
