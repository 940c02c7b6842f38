import type { Seconds } from "@/core";

/** Time constant of a value on its way to another, in seconds: too slow to click, too fast to be heard. */
export const EASE: Seconds = 0.012;

/** Takes a value to another without a click, on wish a little later; at once before there is any sound. */
export function ease(
  param: AudioParam,
  value: number,
  context: BaseAudioContext,
  wait: Seconds = 0,
): void {
  const now = context.currentTime;
  if (now === 0) param.value = value;
  else param.setTargetAtTime(value, now + wait, EASE);
}

/** Goes from one gain to another in a straight line; for two that cross, the sum stays. */
export function cross(param: AudioParam, value: number, context: BaseAudioContext): void {
  const now = context.currentTime;
  if (now === 0) {
    param.value = value;
    return;
  }
  param.setValueAtTime(param.value, now);
  param.linearRampToValueAtTime(value, now + 2 * EASE);
}

/** A gain of a value. */
export function gainNode(context: BaseAudioContext, value: number): GainNode {
  const node = context.createGain();
  node.gain.value = value;
  return node;
}

/** A node that takes what comes in as so many channels, whatever it has. */
export function inChannels<T extends AudioNode>(node: T, channels: 1 | 2): T {
  node.channelCount = channels;
  node.channelCountMode = "explicit";
  return node;
}

/**
 * Follows what moves a value once a block of 128 samples instead of at each sample. For filters and slow bends
 * that is near enough (3 ms), and costs a fraction.
 */
export function coarse(...params: AudioParam[]): void {
  for (const param of params) param.automationRate = "k-rate";
}
