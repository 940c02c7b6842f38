import { ByteReader, ByteWriter } from "../container/bytes";

/** Events that belong to one track of several, and to none where all are one: its name, its port, its end. */
const ONE_TRACKS = new Set([0x03, 0x21, 0x2f]);

interface Event {
  tick: number;
  bytes: Uint8Array;
}

/**
 * The chunks of a file of several tracks as the one of format 0, in order of time; at one tick in the order of
 * the tracks. The first names it, and how long the longest is stays. Chunks are as `writeSmf` makes them: each
 * event with its own status. Source: Standard MIDI Files 1.0, “Formats 0, 1, and 2”.
 */
export function mergedChunks(chunks: readonly Uint8Array[]): Uint8Array {
  const events: Event[] = [];
  let end = 0;
  chunks.forEach((chunk, track) => {
    const reader = new ByteReader(chunk);
    for (let tick = 0; reader.left > 0;) {
      tick += reader.vlq();
      const from = reader.at;
      const status = reader.u8();
      let kept = true;
      if (status === 0xff) {
        const type = reader.u8();
        reader.take(reader.vlq());
        kept = !ONE_TRACKS.has(type) || (track === 0 && type === 0x03);
      } else reader.take((status & 0xe0) === 0xc0 ? 1 : 2);
      end = Math.max(end, tick);
      if (kept) events.push({ tick, bytes: chunk.subarray(from, reader.at) });
    }
  });
  events.sort((a, b) => a.tick - b.tick);
  const out = new ByteWriter();
  let last = 0;
  for (const { tick, bytes } of events) {
    out.vlq(tick - last);
    out.append(bytes);
    last = tick;
  }
  out.vlq(end - last);
  out.u8(0xff, 0x2f, 0);
  return out.done();
}
