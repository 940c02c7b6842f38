import { compiled, type Compiled } from "./compiled";
import type { Kernels } from "./loops";
import { plain } from "./plain";

let made: Compiled | null = null;

/** The loops in use: plain until the compiled ones are there. */
export let kernels: Kernels = plain;

/**
 * From now on the compiled loops are used. To be called before anything that sounds is made, since they reach only
 * what `floats` gave after. Where a browser cannot have them, the plain ones stay.
 */
export function compileLoops(program: BufferSource): void {
  try {
    made = compiled(program);
    kernels = made.kernels;
  } catch {
    // Slower, and the same.
  }
}

/** Room for samples that the loops are quickest with: silent. What is not made once only is given back. */
export const floats = (length: number): Float32Array =>
  made?.floats(length) ?? new Float32Array(length);

/** Gives room back that nobody uses any more. */
export const giveBack = (...all: readonly Float32Array[]): void => {
  for (const one of all) made?.giveBack(one);
};
