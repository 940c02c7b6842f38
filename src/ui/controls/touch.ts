import { clamp } from "@/core/base";
import type { PointerEvent } from "react";

/** Velocity of a touch by where on a key it comes down: lower is louder. */
export function touchVelocity(event: PointerEvent<Element>): number {
  const frame = event.currentTarget.getBoundingClientRect();
  const share = clamp((event.clientY - frame.top) / frame.height, 0, 1);
  return Math.round(30 + 97 * share);
}

/** The name of a pointer, so that each finger is a key of its own. */
export const fingerOf = (pointerId: number): string => `finger ${pointerId}`;
