import { RemoteWorker } from "../../workers/remote";
import type { Workshop } from "../../workers/pads.worker";
import { renderPad, type PadJob, type PadRenderer } from "./render";
import { loadSample } from "./samples";

/** Renders on this thread: for offline work, where nothing waits meanwhile. */
export const renderHere: PadRenderer = async (job) => renderPad(job, await sampleOf(job));

/** The pad's own sample, or null where it has none or it cannot be had: the kit's sound then. */
async function sampleOf({ pad, rate }: PadJob) {
  if (!pad.sample) return null;
  const found = await loadSample(pad.sample.id, rate).catch(() => null);
  return found?.channels ?? null;
}

/** Renders in a worker, so that the page and its clock go on while a kit is made. */
export class WorkerRenderer {
  private readonly workshop = new RemoteWorker<Workshop>(
    "The workshop of pads",
    () => new Worker(new URL("../../workers/pads.worker.ts", import.meta.url), { type: "module" }),
  );
  private given: { worker: unknown; keys: Set<string> } | null = null;

  /** Fetches the worker's script ahead of time. */
  open(): unknown {
    return this.workshop.open();
  }

  readonly render: PadRenderer = async (job) => {
    const channels = await sampleOf(job);
    return this.workshop.call(async (remote) => {
      // A worker that was started anew has no samples yet.
      if (this.given?.worker !== remote) this.given = { worker: remote, keys: new Set() };
      const key = channels && job.pad.sample ? `${job.pad.sample.id}:${job.rate}` : null;
      if (key && channels && !this.given.keys.has(key)) {
        this.given.keys.add(key);
        await remote.keep(key, channels);
      }
      return remote.render(job, key);
    });
  };

  close(): void {
    this.workshop.close();
  }
}
