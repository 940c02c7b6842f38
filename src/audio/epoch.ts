import type { Seconds } from "@/core";

const epochs = new WeakMap<BaseAudioContext, Seconds>();

/** Says which time of what is played a context begins at: the middle of a piece, where one is rendered in pieces. */
export const setEpoch = (context: BaseAudioContext, seconds: Seconds): void => {
  epochs.set(context, seconds);
};

/** The time of what is played at a context's own beginning. */
export const epochOf = (context: BaseAudioContext): Seconds => epochs.get(context) ?? 0;
