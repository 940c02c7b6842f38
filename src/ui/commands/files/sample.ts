import { toast } from "sonner";
import { SampleError, decodeSample, type Decoded } from "@/audio/pads/samples";
import * as edits from "@/core/edits";
import { padName } from "@/core/pitch";
import { LIMITS } from "@/core/score";
import { FormatError, audioKind } from "@/core/formats";
import { api, RequestError } from "../../saving/api";
import type { SessionStore } from "../../state/store";

/** Largest sample in bytes; the server holds to the same. */
const MAX = 20 * 1024 * 1024;
/** Rate at which a dropped file is tried; playing decodes it at the rate of the machine. */
const RATE = 44_100;

export const SAMPLE_TYPES = ".wav,.flac,.mp3,.ogg,audio/*";

/** Reads a sound and tries it, before anything is done with it. Rejects with a sentence for one that cannot be. */
export async function readSound(file: File): Promise<{ bytes: ArrayBuffer; sound: Decoded }> {
  if (file.size > MAX) {
    const mb = (file.size / 1024 / 1024).toFixed(0);
    throw new SampleError(`It is ${mb} MB large; at most 20 MB fit`);
  }
  const bytes = await file.arrayBuffer();
  audioKind(new Uint8Array(bytes));
  return { bytes, sound: await decodeSample(bytes, RATE) };
}

/** What is made of a sound is called as its file, without the ending. */
export const soundTitle = (fileName: string): string =>
  fileName.replace(/\.\w+$/, "").slice(0, LIMITS.name) || "Recording";

/**
 * Puts a file on a pad: read, tried, kept on the server, and only then used. What is wrong is said,
 * and the pad stays as it was.
 */
export async function putSample(
  store: SessionStore,
  track: string,
  pitch: number,
  file: File,
): Promise<void> {
  try {
    const { bytes } = await readSound(file);
    const sample = await api.addSample(file.name, bytes);
    store
      .getState()
      .edit(`Sample ${sample.name}`, (project) =>
        edits.changePad(project, track, pitch, { sample, start: 0, decay: 0 }),
      );
    toast.success(`“${sample.name}” is on ${padName(pitch)}`);
  } catch (error) {
    const known =
      error instanceof SampleError || error instanceof FormatError || error instanceof RequestError;
    if (!known) throw error;
    toast.error(`“${file.name}” not loaded. ${error.message}. The pad stays as it was.`);
  }
}

/** The first file of a drop, if it brings any. */
export function droppedFile(transfer: DataTransfer): File | null {
  return transfer.files[0] ?? null;
}

/** Whether a file is a sound rather than a project or MIDI file. */
export const isSound = (file: File): boolean =>
  (file.type.startsWith("audio/") && !/midi?$/.test(file.type)) ||
  /\.(wav|flac|mp3|ogg|aif|aiff|m4a)$/i.test(file.name);
