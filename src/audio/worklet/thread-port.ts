import type { Seconds } from "@/core";
import { loadAudioThread } from "./load";

/** An answer that does not come is not waited for longer, in ms. */
const PATIENCE_MS = 1000;
/** Orders kept while the program is not there; then the oldest of those that are heard at a time are let go. */
const MOST_WAITING = 1000;
/** What is later than this is left out: played all at once it would be a burst. */
export const TOO_LATE: Seconds = 0.1;

/** Asks for an answer with the same number; the end of a part. Every part of the audio thread knows these. */
export type ThreadOrder = { say: "answer"; number: number } | { say: "end" };

/** What leads to what makes sound: orders, and whether they are there. */
export interface Way<Order> {
  order(order: Order): void;
  /** Resolves when it sounds. */
  ready(): Promise<void>;
  /** Resolves when all that was ordered has arrived. For offline work: there time does not go by meanwhile. */
  arrived(): Promise<void>;
}

interface PartOf<Order> {
  /** What comes from there goes through the part. */
  input?: AudioNode;
  /** Channels of each of its outputs; one of two, if left out. */
  channels?: readonly number[];
  /** When an order is heard; null for one that holds from then on, Infinity for one that always counts. */
  due?(order: Order | ThreadOrder): Seconds | null;
}

/** The way to a part of the audio thread's program. Until it is there orders wait. */
export class ThreadPort<Order extends object> implements Way<Order> {
  private node: AudioWorkletNode | null = null;
  private waiting: (Order | ThreadOrder)[] = [];
  private posting = false;
  private ended = false;
  private asked = 0;
  private readonly answers = new Map<number, () => void>();
  private readonly leads: { to: AudioNode; output: number }[] = [];

  constructor(
    private readonly context: BaseAudioContext,
    private readonly part: string,
    private readonly options: object,
    private readonly how: PartOf<Order> = {},
  ) {
    // One that cannot be had is told of when sound starts.
    this.ready().catch(() => undefined);
  }

  /** One of its outputs leads to a node, from now on or as soon as it is there. */
  lead(to: AudioNode, output = 0): void {
    this.leads.push({ to, output });
    this.node?.connect(to, output);
  }

  /** What is ordered in one turn goes together. */
  order(order: Order | ThreadOrder): void {
    if (this.ended) return;
    this.waiting.push(order);
    if (!this.node && this.waiting.length > MOST_WAITING) this.letGo();
    if (this.posting || !this.node) return;
    this.posting = true;
    queueMicrotask(() => this.post());
  }

  private due(order: Order | ThreadOrder): Seconds | null {
    return this.how.due?.(order) ?? null;
  }

  private letGo(): void {
    const oldest = this.waiting.findIndex((order) => this.due(order) !== null);
    if (oldest >= 0) this.waiting.splice(oldest, 1);
  }

  private post(): void {
    this.posting = false;
    if (!this.node || this.waiting.length === 0) return;
    this.node.port.postMessage(this.waiting);
    this.waiting = [];
  }

  /** Rejects where the audio thread's program cannot be had. */
  async ready(): Promise<void> {
    if (this.node) return;
    await loadAudioThread(this.context);
    if (this.node || this.ended) return;
    const { input, channels = [2] } = this.how;
    this.node = new AudioWorkletNode(this.context, this.part, {
      numberOfInputs: input ? 1 : 0,
      numberOfOutputs: channels.length,
      outputChannelCount: [...channels],
      processorOptions: this.options,
      ...(input && { channelCount: 2, channelCountMode: "explicit" }),
    });
    this.node.port.onmessage = ({ data }: MessageEvent<number>) => {
      this.answers.get(data)?.();
      this.answers.delete(data);
    };
    // What was due while the program was fetched would all begin at once.
    const now = this.context.currentTime - TOO_LATE;
    this.waiting = this.waiting.filter((order) => (this.due(order) ?? now) >= now);
    this.post();
    input?.connect(this.node);
    for (const { to, output } of this.leads) this.node.connect(to, output);
  }

  async arrived(): Promise<void> {
    if (this.ended) return;
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

  dispose(): void {
    this.order({ say: "end" });
    this.post();
    this.ended = true;
    this.node?.disconnect();
    for (const answer of this.answers.values()) answer();
  }
}
