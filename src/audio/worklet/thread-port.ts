import { loadAudioThread } from "./load";

/** An answer that does not come is not waited for longer, in ms. */
const PATIENCE_MS = 1000;
/** Orders kept while the program is not there; then the oldest are let go. */
const MOST_WAITING = 1000;

/** Asks for an answer with the same number; the end of a part. Every part of the audio thread knows these. */
export type ThreadOrder = { say: "answer"; number: number } | { say: "end" };

/** The way to a part of the audio thread's program. Until it is there orders wait. */
export class ThreadPort<Order extends object> {
  private node: AudioWorkletNode | null = null;
  private waiting: (Order | ThreadOrder)[] = [];
  private posting = false;
  private ended = false;
  private asked = 0;
  private readonly answers = new Map<number, () => void>();

  /** Once the part is there, what comes from `input`, if anything, goes through it to `output`. */
  constructor(
    private readonly context: BaseAudioContext,
    private readonly part: string,
    private readonly options: object,
    private readonly ways: { input?: AudioNode; output: AudioNode },
    /** Whether an order that had to wait still counts. */
    private readonly counts: (order: Order | ThreadOrder) => boolean = () => true,
  ) {
    // One that cannot be had is told of when sound starts.
    this.ready().catch(() => undefined);
  }

  /** What is ordered in one turn goes together. */
  order(order: Order | ThreadOrder): void {
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

  /** Resolves when the part is there. Rejects where the audio thread's program cannot be had. */
  async ready(): Promise<void> {
    if (this.node) return;
    await loadAudioThread(this.context);
    if (this.node || this.ended) return;
    const { input, output } = this.ways;
    this.node = new AudioWorkletNode(this.context, this.part, {
      numberOfInputs: input ? 1 : 0,
      outputChannelCount: [2],
      processorOptions: this.options,
      ...(input && { channelCount: 2, channelCountMode: "explicit" }),
    });
    this.node.port.onmessage = ({ data }: MessageEvent<number>) => {
      this.answers.get(data)?.();
      this.answers.delete(data);
    };
    this.waiting = this.waiting.filter((order) => this.counts(order));
    this.post();
    input?.connect(this.node);
    this.node.connect(output);
  }

  /** Resolves when all that was ordered has arrived. For offline work: there time does not go by meanwhile. */
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
