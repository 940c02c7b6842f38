import type { PadMessage } from "../../workers/pads.worker";
import { renderPad, type PadJob, type PadRenderer } from "./render";
import { loadSample } from "./samples";

/** Renders on this thread: for offline work, where nothing waits meanwhile. */
export const renderHere: PadRenderer = async (job) => {
  const sample = await sampleOf(job);
  return renderPad(job, sample);
};

/** The pad's own sample, or null where it has none or it cannot be had: the kit's sound then. */
async function sampleOf({ pad, rate }: PadJob) {
  if (!pad.sample) return null;
  const found = await loadSample(pad.sample.id, rate).catch(() => null);
  return found?.channels ?? null;
}

/** Renders in a worker, so that the page and its clock go on while a kit is made. */
export class WorkerRenderer {
  private worker: Worker | null = null;
  private number = 0;
  private readonly waiting = new Map<number, (channels: Float32Array<ArrayBuffer>[]) => void>();
  private readonly given = new Set<string>();

  /** Fetches the worker's script ahead of time. */
  open(): Worker {
    if (!this.worker) {
      this.worker = new Worker(new URL("../../workers/pads.worker.ts", import.meta.url), {
        type: "module",
      });
      this.worker.onmessage = ({
        data,
      }: MessageEvent<{ number: number; channels: Float32Array<ArrayBuffer>[] }>) => {
        this.waiting.get(data.number)?.(data.channels);
        this.waiting.delete(data.number);
      };
    }
    return this.worker;
  }

  readonly render: PadRenderer = async (job) => {
    const worker = this.open();
    const channels = await sampleOf(job);
    const key = channels && job.pad.sample ? `${job.pad.sample.id}:${job.rate}` : null;
    const post = (message: PadMessage) => worker.postMessage(message);
    if (key && channels && !this.given.has(key)) {
      this.given.add(key);
      post({ sample: key, channels });
    }
    const number = ++this.number;
    const answer = new Promise<Float32Array<ArrayBuffer>[]>((resolve) =>
      this.waiting.set(number, resolve),
    );
    post({ number, job, sample: key });
    return answer;
  };

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.given.clear();
    this.waiting.clear();
  }
}
