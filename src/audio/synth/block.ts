/** Samples that are made at once, as the Web Audio specification has it (render quantum). */
export const BLOCK = 128;
