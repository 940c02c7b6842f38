import { useCallback, useRef } from "react";
import { RULER_HEIGHT } from "../geometry/layout";

/** A text beside the pointer while something is dragged, written without rendering the sheet. */
export function useReadout() {
  const ref = useRef<HTMLDivElement>(null);
  const show = useCallback((text: string | null) => {
    if (!ref.current) return;
    ref.current.hidden = text === null;
    ref.current.textContent = text;
  }, []);
  const follow = useCallback(({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const frame = ref.current?.parentElement?.getBoundingClientRect();
    if (!ref.current || !frame) return;
    const left = Math.min(clientX - frame.left + 14, frame.width - 130);
    const top = Math.max(RULER_HEIGHT, clientY - frame.top - 30);
    ref.current.style.transform = `translate(${left}px, ${top}px)`;
  }, []);
  return { ref, show, follow };
}
