import { useEffect, useState, type RefObject } from "react";
import { useSession } from "./context";
import { fitZoom, maxScroll, type View } from "../geometry/view";

/** Size of an element in CSS pixels, followed as it changes. */
export function useSize(ref: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.floor(width), height: Math.floor(height) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}

/** The view of time that the sheet and the velocity profile share. */
export function useTimeView(width: number, total: number): Pick<View, "width" | "zoom" | "scroll"> {
  const metre = useSession((s) => s.project.metre);
  const chosen = useSession((s) => s.zoom);
  const scroll = useSession((s) => s.scroll);
  const zoom = chosen ?? fitZoom(Math.max(200, width), total, metre);
  return { width, zoom, scroll: Math.min(scroll, maxScroll(width, zoom, total)) };
}
