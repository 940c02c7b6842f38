import type { Hertz, Milliseconds, Seconds } from "@/core/base";
import { BLOCK } from "../synth/block";
import type { MixOptions, MixCommand } from "../synth/mix-sound";
import { fetchAudioThread } from "../worklet/load";
import type { RenderAnswer, RenderCommand } from "../worklet/render-thread";
import type { Port } from "../worklet/port";

/** Threads that nobody needs are kept for so long: they have seen the program run, and are faster for it. */
const KEPT: Milliseconds = 60_000;

/** A thread that renders one mix at a time. */
class Thread {
  private readonly worker: Worker;
  private readonly asked: {
    done(channels: Float32Array<ArrayBuffer>[]): void;
    failed(error: Error): void;
  }[] = [];
  private leaves: ReturnType<typeof setTimeout> | undefined;
  broken: Error | null = null;

  constructor(url: string) {
    this.worker = new Worker(url, { type: "module" });
    this.worker.onmessage = ({ data }: MessageEvent<RenderAnswer>) => {
      if ("problem" in data) this.fail(data.problem);
      else this.asked.shift()?.done(data.channels);
    };
    this.worker.onerror = ({ message }) => this.fail(message);
    this.worker.onmessageerror = () => this.fail("its answer cannot be read");
  }

  post(command: RenderCommand): void {
    this.worker.postMessage(command);
  }

  render(
    command: Extract<RenderCommand, { type: "render" }>,
  ): Promise<Float32Array<ArrayBuffer>[]> {
    if (this.broken) return Promise.reject(this.broken);
    return new Promise((done, failed) => {
      this.asked.push({ done, failed });
      this.post(command);
    });
  }

  private fail(why: string): void {
    this.end(new Error(`What renders sound stopped${why ? `: ${why}` : ""}. Try again`));
  }

  end(error = new Error("What renders sound was ended")): void {
    this.broken ??= error;
    this.worker.terminate();
    for (const { failed } of this.asked.splice(0)) failed(error);
  }

  /** Whether it still answers something: then it is of no use to anybody else. */
  get busy(): boolean {
    return this.asked.length > 0;
  }

  rest(gone: () => void): void {
    this.leaves = setTimeout(() => {
      gone();
      this.end();
    }, KEPT);
  }

  rise(): void {
    clearTimeout(this.leaves);
  }
}

const idle: Thread[] = [];

/** A thread, another one for each that asks at a time. Rejects where the audio thread's program cannot be had. */
async function threadFor(): Promise<Thread> {
  const known = idle.pop();
  if (known) {
    known.rise();
    return known;
  }
  return new Thread(await fetchAudioThread());
}

function giveBack(thread: Thread): void {
  if (thread.broken) return;
  // What was given up is not waited for.
  if (thread.busy) {
    thread.end();
    return;
  }
  idle.push(thread);
  thread.rest(() => idle.splice(idle.indexOf(thread), 1));
}

/** The way to a mix that is rendered as fast as it goes, by a thread of its own. */
export class RenderPort implements Port<MixCommand> {
  private thread: Promise<Thread> | null = null;
  private waiting: MixCommand[] = [];
  private frames = 0;
  private ended = false;

  constructor(
    private readonly options: MixOptions,
    /** Samples a second. */
    readonly sampleRate: Hertz,
  ) {}

  /** How far it is: the time of the next sample that is asked for. */
  get currentTime(): Seconds {
    return this.frames / this.sampleRate;
  }

  send(command: MixCommand): void {
    this.waiting.push(command);
  }

  async ready(): Promise<void> {
    this.thread ??= threadFor().then((thread) => {
      thread.post({ type: "begin", options: this.options, rate: this.sampleRate });
      if (this.ended) giveBack(thread);
      return thread;
    });
    await this.thread;
  }

  /** Sends commands along with the next blocks. */
  arrived(): Promise<void> {
    return this.ready();
  }

  /** The next blocks of 128 samples, after all commands sent so far. Blocks that are not kept are made to advance only. */
  async render(blocks: number, kept = true): Promise<Float32Array<ArrayBuffer>[]> {
    const commands = this.waiting;
    this.waiting = [];
    this.frames += blocks * BLOCK;
    await this.ready();
    return (await this.thread!).render({ type: "render", commands, blocks, kept });
  }

  dispose(): void {
    if (this.ended) return;
    this.ended = true;
    this.thread?.then(giveBack, () => undefined);
  }
}
