import { expose, transfer } from "comlink";
import { renderPad, type PadJob } from "@/audio/pads/render";

type Channels = Float32Array<ArrayBuffer>[];
const samples = new Map<string, Channels>();

/** Rendering of pads, away from the page. */
const workshop = {
  /** Keeps a sample's sound under a key, for the jobs that name it. */
  keep(key: string, channels: Channels): void {
    samples.set(key, channels);
  },
  /** The sound of a pad: one array a channel, at the job's rate. */
  render(job: PadJob, sample: string | null): Channels {
    const made = renderPad(job, sample === null ? null : (samples.get(sample) ?? null));
    // What the kit keeps for itself must not be given away: a copy goes.
    const copies = made.map((channel) => channel.slice());
    return transfer(
      copies,
      copies.map((channel) => channel.buffer),
    );
  },
};
export type Workshop = typeof workshop;

expose(workshop);
