import type { Pan } from "@/core/base";

/** What one channel is times on the left and on the right: of the same power wherever it is. */
export const placed = (pan: Pan): readonly [left: number, right: number] => {
  const angle = ((pan + 1) * Math.PI) / 4;
  return [Math.cos(angle), Math.sin(angle)];
};

/**
 * How two channels are moved: times what the left goes to the left, the right to the left, the left to the right,
 * the right to the right. In the middle they stay as they are. Both laws are those of the Web Audio specification
 * (1.29 “StereoPannerNode”).
 */
export function moved(pan: Pan): readonly [ll: number, rl: number, lr: number, rr: number] {
  if (pan === 0) return [1, 0, 0, 1];
  const angle = ((pan < 0 ? pan + 1 : pan) * Math.PI) / 2;
  const [stays, goes] = [Math.sin(angle), Math.cos(angle)];
  return pan < 0 ? [1, goes, 0, stays] : [goes, 0, stays, 1];
}
