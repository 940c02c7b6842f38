import { type MidiPitch, seeded } from "@/core/base";
import type { KitShape, PadShape } from "@/core/score";
import { kitOf } from "../kits/registry";
import { padFor } from "../kits/kit";
import { shapeSound } from "./shape";

/** One pad to be rendered: which, at what rate, in what shape. Level, pan and choke do not matter here. */
export interface PadJob {
  kit: string;
  pad: PadShape;
  whole: Pick<KitShape, "pitch" | "time">;
  rate: number;
}

/** Turns jobs into sound, one array per channel. */
export type PadRenderer = (job: PadJob) => Promise<Float32Array<ArrayBuffer>[]>;

/** Two jobs of equal keys give equal sound. */
export function jobKey({ kit, pad, whole, rate }: PadJob): string {
  const { pitch, start, tune, stretch, drive, filter, cutoff, resonance, decay, sample } = pad;
  const filtered = filter === "off" ? [] : [filter, cutoff, resonance];
  const source = sample?.id ?? `${pad.from ?? kit}:${pitch}:${pad.variant ?? 0}`;
  return [
    source,
    rate,
    start,
    tune,
    stretch,
    drive,
    decay,
    whole.pitch,
    whole.time,
    ...filtered,
  ].join(" ");
}

/** So many pads as their kits have them are kept. */
const MAX_KEPT = 512;

const plain = new Map<string, Float32Array<ArrayBuffer>>();

/** A pad as its kit has it; rendered once per rate. */
function plainSound(
  kitId: string,
  pitch: MidiPitch,
  rate: number,
  variant: number,
): Float32Array<ArrayBuffer> {
  const kit = kitOf(kitId);
  const slot = padFor(kit, pitch);
  const key = `${kit.id}:${slot}:${rate}:${variant}`;
  let sound = plain.get(key);
  if (!sound) {
    const pad = kit.pads[slot]!;
    // Likes are tried by the hundred: those that are no longer wanted are forgotten.
    if (plain.size >= MAX_KEPT) plain.delete(plain.keys().next().value!);
    plain.set(key, (sound = (variant === 0 ? pad : pad.like(seeded(variant)))(rate)));
  }
  return sound;
}

/** Renders a job here and now; `sample` is the decoded sound of the pad's own sample, at the job's rate. */
export function renderPad(
  job: PadJob,
  sample: readonly Float32Array[] | null,
): Float32Array<ArrayBuffer>[] {
  const source = sample ?? [
    plainSound(job.pad.from ?? job.kit, job.pad.pitch, job.rate, job.pad.variant ?? 0),
  ];
  return shapeSound(source, job.rate, job.pad, job.whole);
}
