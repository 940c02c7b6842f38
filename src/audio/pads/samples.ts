/** A decoded sound, one array per channel (at most two). */
export interface Decoded {
  channels: Float32Array<ArrayBuffer>[];
  rate: number;
}

/** Why bytes cannot be played, in words for the user. */
export class SampleError extends Error {}

/** Longest sample that is taken, in seconds. */
const LONGEST = 600;

/** Decodes an audio file's bytes at a sample rate, as far as the browser can. Throws a `SampleError`. */
export async function decodeSample(bytes: ArrayBuffer, rate: number): Promise<Decoded> {
  let buffer: AudioBuffer;
  try {
    buffer = await new OfflineAudioContext(1, 1, rate).decodeAudioData(bytes.slice(0));
  } catch {
    throw new SampleError(
      "This browser cannot decode it as sound: it may be damaged or of another kind",
    );
  }
  if (buffer.length === 0) throw new SampleError("It holds no sound at all");
  if (buffer.duration > LONGEST) {
    throw new SampleError(
      `It lasts ${Math.round(buffer.duration)} s; at most ${LONGEST} s fit a pad`,
    );
  }
  const count = Math.min(2, buffer.numberOfChannels);
  const channels = Array.from({ length: count }, (_, i) => buffer.getChannelData(i).slice());
  return { channels, rate };
}

const known = new Map<string, Promise<Decoded>>();

/** A sample of the server's, decoded once per rate. */
export function loadSample(id: string, rate: number): Promise<Decoded> {
  const key = `${id}:${rate}`;
  let sample = known.get(key);
  if (!sample) {
    sample = fetch(`/api/samples/${id}`).then(async (response) => {
      if (!response.ok) throw new SampleError("The server does not have this sample");
      return decodeSample(await response.arrayBuffer(), rate);
    });
    known.set(key, sample);
    // A failure is not remembered: the server may be back next time.
    sample.catch(() => known.delete(key));
  }
  return sample;
}
