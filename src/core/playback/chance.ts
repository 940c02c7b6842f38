import { type Note, drawId, holds } from "../score";

/** One time round a loop: which round of its section, and where its line it begins. */
export interface Turn {
  /** What draws begin from: the project's seed. */
  seed: number;
  /** Tick at which the loop begins, over all passes of the line. */
  at: number;
  loop: number;
  /** Whether its section has no loop after it. */
  last: boolean;
}

/** Whether a note differs from round to round at all. */
export const isLively = ({ chance, when }: Note): boolean =>
  chance !== undefined || when !== undefined;

/**
 * Whether a note sounds in a loop. The same seed, note and round give the same answer everywhere;
 * what a transform made of one hit sounds or is silent together.
 */
export function soundsIn(note: Note, turn: Turn): boolean {
  const { chance, when } = note;
  if (when !== undefined && !holds(when, turn.loop, turn.last)) return false;
  return chance === undefined || draw(note, turn) < chance;
}

/** A number in `[0, 100)` for a hit in a loop. */
export function draw(note: Pick<Note, "id">, { seed, at }: Pick<Turn, "seed" | "at">): number {
  let h = 0x811c9dc5 ^ seed;
  const root = drawId(note.id);
  for (let i = 0; i < root.length; i++) h = Math.imul(h ^ root.charCodeAt(i), 0x01000193);
  h = mixed(h ^ Math.imul(at | 0, 0x9e3779b1));
  h = mixed(h ^ Math.floor(at / 2 ** 32) ^ 0x85ebca6b);
  return ((h >>> 0) / 2 ** 32) * 100;
}

/** The finalizer of MurmurHash3 (A. Appleby, from memory): each bit of what goes in changes half of those that come out. */
function mixed(h: number): number {
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}
