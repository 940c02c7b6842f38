import Flac from "libflacjs/dist/libflac.js";
import { wholeSamples } from "@/core/formats";
import type { Encoding } from "./encoding";
import { nth } from "@/core/base";

interface FlacOptions {
  rate: number;
  bits: 16 | 24;
  frames: number;
}

/** How hard the encoder tries, 0–8: its own usual. */
const COMPRESSION = 5;
/** Where a FLAC file says how it is, which is known only at its end: after “fLaC” and the block's head. */
const STREAM_INFO = 8;

/** Encodes two channels as FLAC (RFC 9639), by libFLAC. Throws where the encoder does not take it. */
export async function flacOf(
  { rate, bits, frames }: FlacOptions,
  random: (() => number) | null,
): Promise<Encoding> {
  await ready();
  const encoder = Flac.create_libflac_encoder(rate, 2, bits, COMPRESSION, frames, true, 0);
  if (!encoder) throw new Error(`The FLAC encoder takes no ${bits} bits at ${rate} Hz`);
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let info: Flac.StreamMetadata | null = null;
  const status = Flac.init_encoder_stream(
    encoder,
    (bytes) => void parts.push(bytes.slice() as Uint8Array<ArrayBuffer>),
    (metadata) => {
      info = metadata ?? null;
    },
  );
  if (status !== 0) throw new Error(`The FLAC encoder does not start (${status})`);
  return {
    add(sides) {
      const whole = wholeSamples(sides, bits, random);
      if (!Flac.FLAC__stream_encoder_process_interleaved(encoder, whole, nth(sides, 0).length))
        throw new Error("The FLAC encoder stopped");
    },
    done() {
      Flac.FLAC__stream_encoder_finish(encoder);
      Flac.FLAC__stream_encoder_delete(encoder);
      return info ? withInfo(parts, info) : new Blob(parts, { type: "audio/flac" });
    },
  };
}

/** Puts in what is known only now: sizes of blocks and frames, and the checksum of the sound. */
function withInfo(parts: Uint8Array<ArrayBuffer>[], info: Flac.StreamMetadata): Blob {
  const head = new Uint8Array(STREAM_INFO + 34);
  let at = 0;
  for (const part of parts) {
    const own = part.subarray(0, head.length - at);
    head.set(own, at);
    at += own.length;
    if (at >= head.length) break;
  }
  const view = new DataView(head.buffer, STREAM_INFO);
  const three = (offset: number, value: number) => {
    view.setUint8(offset, value >> 16);
    view.setUint16(offset + 1, value & 0xffff);
  };
  view.setUint16(0, info.min_blocksize);
  view.setUint16(2, info.max_blocksize);
  three(4, info.min_framesize);
  three(7, info.max_framesize);
  const sum = info.md5sum.match(/../g)?.map((pair) => Number.parseInt(pair, 16)) ?? [];
  sum.forEach((byte, i) => view.setUint8(18 + i, byte));
  return new Blob([head, new Blob(parts).slice(head.length)], { type: "audio/flac" });
}

const ready = () =>
  new Promise<void>((resolve) => {
    if (Flac.isReady()) resolve();
    else Flac.on("ready", () => resolve());
  });
