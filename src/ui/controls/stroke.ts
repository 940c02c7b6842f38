import type { DragEndEvent } from "@dnd-kit/core";
import { useEffect, useRef } from "react";

interface Point {
  x: number;
  y: number;
}

/**
 * Where a drag came to its end. The drag library draws a drag from its second movement on: of a stroke so fast that
 * it is over with the first, it gives no way and nothing below. The pointer's own last place tells both.
 */
export interface Stroke {
  /** The pointer's place in the window at the last movement. */
  last(): Point;
  /** How far the drag went, in pixels. */
  way(event: DragEndEvent): Point;
  /** The id of what it ended on: `attribute` holds the ids of what can be dragged onto. */
  over(event: DragEndEvent, attribute: string): string | null;
}

export function useStroke(): Stroke {
  const at = useRef<Point>({ x: 0, y: 0 });
  useEffect(() => {
    const note = (event: PointerEvent) => {
      at.current = { x: event.clientX, y: event.clientY };
    };
    window.addEventListener("pointermove", note, { capture: true, passive: true });
    return () => window.removeEventListener("pointermove", note, { capture: true });
  }, []);
  const still = ({ delta }: DragEndEvent) => delta.x === 0 && delta.y === 0;
  return {
    last: () => at.current,
    way: (event) => {
      if (!still(event)) return event.delta;
      const start = event.activatorEvent as PointerEvent;
      return { x: at.current.x - start.clientX, y: at.current.y - start.clientY };
    },
    over: (event, attribute) => {
      if (!still(event)) return event.over ? String(event.over.id) : null;
      const below = document.elementFromPoint(at.current.x, at.current.y);
      return below?.closest(`[${attribute}]`)?.getAttribute(attribute) ?? null;
    },
  };
}
