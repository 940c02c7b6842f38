import { useCallback, useEffect, useRef, type RefObject } from "react";
import { scrollRows } from "../commands/notes/rows";
import { useDesk } from "../session/context";
import type { Gestures } from "./gestures/gestures";

/** How often rows scroll while a note is held over or under them, in ms. */
const SCROLL_MS = 90;

/** Scrolls the rows of the current track as long as it is asked to, and lets the gesture follow. */
export function useRowScrolling(gestures: RefObject<Gestures | null>) {
  const { store } = useDesk();
  const timer = useRef<{ way: number; id: number } | null>(null);
  const stop = useCallback(() => {
    if (timer.current) clearInterval(timer.current.id);
    timer.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  return useCallback(
    (way: -1 | 0 | 1) => {
      if (timer.current?.way === way) return;
      stop();
      if (way === 0) return;
      const id = window.setInterval(() => {
        // What the last step brought into view is drawn by now.
        gestures.current?.again();
        scrollRows(store, store.getState().track, way);
      }, SCROLL_MS);
      timer.current = { way, id };
    },
    [gestures, store, stop],
  );
}
