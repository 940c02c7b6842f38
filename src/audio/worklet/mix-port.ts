import type { Seconds } from "@/core/base";
import type { MixOptions, MixCommand, Strengths } from "../synth/mix-sound";
import type { PlayerCommand } from "../synth/track-sound";
import { loadAudioThread } from "./load";
import type { Port } from "./port";

/** An answer that does not come is not waited for longer, in ms. */
const PATIENCE_MS = 1000;
/** Commands kept while the worklet is not loaded; beyond them the oldest timed ones are dropped. */
const MAX_WAITING = 1000;
/** What is later than this is left out: played all at once it would be a burst. */
export const TOO_LATE: Seconds = 0.1;

/** Asks for an answer with the same number; the end of everything. */
export type ThreadCommand = { type: "answer"; number: number } | { type: "end" };

interface Problem {
  problem: string;
}

/** Port to the audio thread, which renders the whole mix. Until the worklet is loaded, commands wait. */
export class MixPort implements Port<MixCommand> {
  private node: AudioWorkletNode | null = null;
  private waiting: (MixCommand | ThreadCommand)[] = [];
  private posting = false;
  private ended = false;
  private asked = 0;
  private readonly answers = new Map<number, () => void>();
  private readonly leads: AudioNode[] = [];

  constructor(
    private readonly context: BaseAudioContext,
    private readonly options: MixOptions,
    /** Is told how strong everything is. */
    private readonly listener: (strengths: Strengths) => void = () => undefined,
    /** Is told why, when a block could not be made. */
    private readonly failed: (why: string) => void = () => undefined,
  ) {
    // One that cannot be had is told of when sound starts.
    this.ready().catch(() => undefined);
  }

  /** What is heard leads to a node, from now on or as soon as it is there. */
  lead(to: AudioNode): void {
    this.leads.push(to);
    this.node?.connect(to);
  }

  /** Commands of one turn of the event loop are posted together. */
  send(command: MixCommand | ThreadCommand): void {
    if (this.ended) return;
    this.waiting.push(command);
    if (!this.node && this.waiting.length > MAX_WAITING) this.letGo();
    if (this.posting || !this.node) return;
    this.posting = true;
    queueMicrotask(() => this.post());
  }

  private letGo(): void {
    const oldest = this.waiting.findIndex((command) => heardAt(command) !== null);
    if (oldest >= 0) this.waiting.splice(oldest, 1);
  }

  private post(): void {
    this.posting = false;
    if (!this.node || this.waiting.length === 0) return;
    this.node.port.postMessage(this.waiting);
    this.waiting = [];
  }

  async ready(): Promise<void> {
    if (this.node) return;
    await loadAudioThread(this.context);
    if (this.node || this.ended) return;
    const { context, options } = this;
    this.node = new AudioWorkletNode(context, "mix", {
      numberOfInputs: 0,
      outputChannelCount: [2 * options.ways.outputs.length],
      processorOptions: options,
    });
    this.node.port.onmessage = ({ data }: MessageEvent<number | Strengths | Problem>) => {
      if (typeof data === "number") {
        this.answers.get(data)?.();
        this.answers.delete(data);
      } else if ("problem" in data) this.failed(data.problem);
      else this.listener(data);
    };
    // What was due while the program was fetched would all begin at once.
    const now = context.currentTime - TOO_LATE;
    this.waiting = this.waiting.filter((command) => (heardAt(command) ?? now) >= now);
    this.post();
    for (const to of this.leads) this.node.connect(to);
  }

  async arrived(): Promise<void> {
    if (this.ended) return;
    await this.ready();
    const number = ++this.asked;
    const answer = new Promise<void>((resolve) => {
      this.answers.set(number, resolve);
      setTimeout(resolve, PATIENCE_MS);
    });
    this.send({ type: "answer", number });
    this.post();
    await answer;
  }

  dispose(): void {
    this.send({ type: "end" });
    this.post();
    this.ended = true;
    this.node?.disconnect();
    for (const answer of this.answers.values()) answer();
  }
}

/** When a command sounds; null for one that holds from then on, Infinity for one that counts however late it is. */
function heardAt(command: MixCommand | ThreadCommand): Seconds | null {
  if (command.type !== "track") return null;
  const { command: own } = command;
  if (own.type === "shape") return own.command.type === "duck" ? own.command.time : null;
  return own.type === "tell" ? playedAt(own.command) : null;
}

function playedAt(command: PlayerCommand): Seconds | null {
  switch (command.type) {
    case "begin":
    case "hit":
      return command.held ? Infinity : command.time;
    case "sample":
    case "sound":
    case "patch":
    case "kit":
    case "sends":
      return null;
    default:
      return Infinity;
  }
}
