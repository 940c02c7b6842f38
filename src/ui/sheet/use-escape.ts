import { useEffect, type RefObject } from "react";
import type { Gestures } from "./gestures/gestures";

/** Escape in the middle of a stroke takes it back; other keys wait until it has ended. */
export function useEscape(gestures: RefObject<Gestures | null>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!gestures.current?.active || /^(Shift|Control|Alt|Meta)$/.test(event.key)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.key === "Escape") gestures.current.cancel();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [gestures]);
}
