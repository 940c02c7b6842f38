import type { Seconds } from "@/core/base";

/** Time constant of a value on its way to another, in seconds: too slow to click, too fast to be heard. */
export const EASE: Seconds = 0.012;

/** Takes a value to another without a click; at once before there is any sound. */
export function ease(param: AudioParam, value: number, context: BaseAudioContext): void {
  const now = context.currentTime;
  if (now === 0) param.value = value;
  else param.setTargetAtTime(value, now, EASE);
}

/** A gain of a value. */
export function gainNode(context: BaseAudioContext, value: number): GainNode {
  const node = context.createGain();
  node.gain.value = value;
  return node;
}
