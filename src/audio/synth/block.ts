import type { Cents } from "@/core/base";

/** Samples that are made at once, as the Web Audio specification has it (render quantum). */
export const BLOCK = 128;

/** Left and right of a block. */
export type Sides = readonly [Float32Array, Float32Array];

/** Length of what is written round and round: a power of two, so that a place is found by its bits. */
export const ringLength = (samples: number): number => 2 ** Math.ceil(Math.log2(samples));

/** Room for at least so many samples, written round and round. */
export const ringOf = (samples: number): Float32Array => new Float32Array(ringLength(samples));

/** By how many times so many cents are higher. */
export const times = (cents: Cents): number => (cents === 0 ? 1 : 2 ** (cents / 1200));
