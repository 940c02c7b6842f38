import type { Hertz, Seconds } from "@/core/base";

/** What falls silent at once does so with this time constant, and is over after. */
const SILENCED: Seconds = 0.004;
const SILENT_AFTER: Seconds = 0.03;

/** All fall silent that sound; what is to come does not come, but for what a hand began where that is spared. */
export interface SilenceCommand {
  type: "silence";
  at: Seconds;
  spareHeld: boolean;
}

/** Something that sounds, or will: from a sample on. */
interface Sounding {
  readonly held: boolean;
  readonly first: number;
  /** Dies away from a time on with a time constant, and is over at another. */
  fade(at: Seconds, tau: Seconds, over: Seconds): void;
}

/** Silences all of a list, when the next sample to be made is `frame`. */
export function silence(
  all: Map<number, Sounding>,
  { at, spareHeld }: SilenceCommand,
  frame: number,
  rate: Hertz,
): void {
  const from = Math.max(at, frame / rate);
  for (const [id, one] of all) {
    if (one.held && spareHeld) continue;
    if (one.first > frame) all.delete(id);
    else one.fade(from, SILENCED, from + SILENT_AFTER);
  }
}
