/** The last tick of a file that is read, 65,536 quarters on in the finest division: the most that is kept in 32 bits. */
export const LAST_TICK = 2 ** 31 - 1;

/** Where in a chunk its reading is: byte, tick, running status, and port. */
export interface ReadPosition {
  at: number;
  tick: number;
  running: number;
  port: number;
}

/** The channel of the note that begins or ends at a place, or -1 where something else comes, or something unusual. */
export function channelAt(bytes: Uint8Array, { at, running, port }: ReadPosition): number {
  const next = bytes[at + (bytes[at]! > 127 ? 2 : 1)]!;
  const status = next > 127 ? next : running;
  // Note-off and note-on.
  return status >> 5 === 4 ? port * 16 + (status & 15) : -1;
}
