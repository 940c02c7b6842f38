import { useEffect, useLayoutEffect, useRef, type RefObject } from "react";
import { scrollByPixels, zoomAt } from "../commands/notes/time";
import { useDesk } from "../session/context";

/** Turns of a wheel this near to each other in time are one, in ms: a trackpad goes on by itself for a while. */
const RUN_MS = 350;

/**
 * Wheel: over a hit its velocity, with alt its chance; elsewhere up and down through the tracks, sideways (or with shift)
 * through time, with ctrl (or a pinch on a trackpad) to zoom.
 */
export function useWheel(
  area: RefObject<HTMLDivElement | null>,
  scroller: RefObject<HTMLDivElement | null>,
  overHit: (x: number, y: number, steps: number, alt: boolean) => boolean,
): void {
  const onHit = useRef(overHit);
  useLayoutEffect(() => {
    onHit.current = overHit;
  });
  const { store } = useDesk();
  useEffect(() => {
    const element = area.current;
    if (!element) return;
    let scrolled = -Infinity;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const frame = element.getBoundingClientRect();
      if (event.ctrlKey || event.metaKey) {
        zoomAt(store, Math.exp(-event.deltaY / 300), event.clientX - frame.left);
        return;
      }
      const steps = -Math.sign(event.deltaY) * Math.max(1, Math.round(Math.abs(event.deltaY) / 40));
      const plain = !event.shiftKey && event.deltaY !== 0;
      const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
      // What began as scrolling goes on so, whatever slides under the pointer.
      const goesOn = event.timeStamp - scrolled < RUN_MS;
      if (plain && !goesOn && onHit.current(x, y, steps, event.altKey)) return;
      scrolled = event.timeStamp;
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (sideways !== 0) scrollByPixels(store, sideways);
      else scroller.current?.scrollBy({ top: event.deltaY });
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [area, scroller, store]);
}
