import { renderPad, type PadJob } from "@/audio/pads/render";

/** To the worker: a sample's sound, kept under its key, or a job with a number for its answer. */
export type PadMessage =
  | { sample: string; channels: Float32Array<ArrayBuffer>[] }
  | { number: number; job: PadJob; sample: string | null };

const samples = new Map<string, Float32Array<ArrayBuffer>[]>();

self.onmessage = ({ data }: MessageEvent<PadMessage>) => {
  if (!("job" in data)) {
    samples.set(data.sample, data.channels);
    return;
  }
  const { number, job, sample } = data;
  const channels = renderPad(job, sample === null ? null : (samples.get(sample) ?? null));
  // What the kit keeps for itself must not be given away, so all is copied on its way.
  self.postMessage({ number, channels });
};
