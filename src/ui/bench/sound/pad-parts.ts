import type { PadShape } from "@/core/score";

/** What every part of the pad editor works on. */
export interface PadParts {
  pad: PadShape;
  /** Changes the pad under an undo label; changes of one `field` in a row are one step of undo. */
  shape(label: string, change: Partial<PadShape>, field?: string): void;
}
