/** Samples a second, and what time it is for what sounds: of an audio context, or of what is rendered. */
export type Clock = Pick<BaseAudioContext, "sampleRate" | "currentTime">;
