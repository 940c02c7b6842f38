import { useState, type PointerEvent } from "react";
import { showAt } from "../commands/notes/time";
import { useDesk } from "../session/context";
import type { SessionStore } from "../state/store";
import { tickOf, type View } from "../geometry/view";
import { mustGet } from "@/core/base";

/**
 * Two fingers on the sheet zoom and scroll time, the ticks under them stay under them, and scroll up and
 * down through the tracks.
 */
class Pinch {
  private readonly fingers = new Map<number, number>();
  private readonly heights = new Map<number, number>();
  private held: { ids: [number, number]; ticks: [number, number] } | null = null;

  constructor(private readonly store: SessionStore) {}

  /** True when this is the second finger: what the first one began is to be left. */
  down(event: PointerEvent, view: View): boolean {
    if (event.pointerType !== "touch") return false;
    const { left } = event.currentTarget.getBoundingClientRect();
    this.fingers.set(event.pointerId, event.clientX - left);
    this.heights.set(event.pointerId, event.clientY);
    if (this.fingers.size !== 2) return false;
    const [a, b] = [...this.fingers.keys()] as [number, number];
    const tick = (id: number) => tickOf(view, mustGet(this.fingers, id));
    this.held = { ids: [a, b], ticks: [tick(a), tick(b)] };
    return true;
  }

  /** True while two fingers are down; `scroll` is told how far down the sheet is to go, in pixels. */
  move(event: PointerEvent, area: HTMLElement, scroll: (pixels: number) => void): boolean {
    if (!this.fingers.has(event.pointerId)) return false;
    const before = this.heights.get(event.pointerId) ?? event.clientY;
    this.heights.set(event.pointerId, event.clientY);
    // Each finger moves half of the way: both together move the sheet with them.
    if (this.held && before !== event.clientY) scroll((before - event.clientY) / 2);
    const frame = area.getBoundingClientRect();
    this.fingers.set(event.pointerId, event.clientX - frame.left);
    if (!this.held) return false;
    const [x0, x1] = this.held.ids.map((id) => this.fingers.get(id) ?? 0) as [number, number];
    const [t0, t1] = this.held.ticks;
    if (Math.abs(t1 - t0) < 1) return true;
    showAt(this.store, Math.abs((x1 - x0) / (t1 - t0)), t0, x0);
    return true;
  }

  up(event: PointerEvent): void {
    this.fingers.delete(event.pointerId);
    this.heights.delete(event.pointerId);
    if (this.fingers.size < 2) this.held = null;
  }
}

/** Two-finger zooming for the open project. */
export function usePinch(): Pinch {
  const { store } = useDesk();
  const [pinch] = useState(() => new Pinch(store));
  return pinch;
}
