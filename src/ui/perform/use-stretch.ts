import { useRef, useState, type KeyboardEvent, type PointerEvent, type WheelEvent } from "react";
import { clamp, must } from "@/core/base";
import { useSize } from "../controls/use-size";
import type { PlayedLine } from "../geometry/played-line";

/** A stretch of what was played, in pixels from its beginning. */
interface Range {
  from: number;
  to: number;
}

/** What of the played line is seen, and the stretch of it that is selected by pointer or keys. */
export function useStretch(strip: PlayedLine) {
  const area = useRef<HTMLDivElement>(null);
  const { width } = useSize(area);
  // Distance of the view from the end: what is new is seen.
  const [back, setBack] = useState(0);
  const [range, setRange] = useState<Range | null>(null);
  const drag = useRef<{ x: number; moved: boolean } | null>(null);
  const most = Math.max(0, strip.width + 12 - width);
  const left = Math.max(0, most - Math.min(back, most));
  const placeOf = (event: PointerEvent) =>
    event.clientX - must(area.current).getBoundingClientRect().left + left;
  const inRange = (x: number) => range !== null && x >= range.from && x <= range.to;

  const onPointerDown = (event: PointerEvent) => {
    const x = placeOf(event);
    // What is selected can be dragged out; elsewhere a new stretch begins.
    if (event.button !== 0 || inRange(x)) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x, moved: false };
  };
  const onPointerMove = (event: PointerEvent) => {
    const from = drag.current;
    if (!from) return;
    const x = placeOf(event);
    if (Math.abs(x - from.x) > 4) from.moved = true;
    if (from.moved) setRange({ from: Math.min(x, from.x), to: Math.max(x, from.x) });
  };
  const onPointerUp = () => {
    const from = drag.current;
    drag.current = null;
    if (!from || from.moved) return;
    // A press takes the whole loop.
    const span = strip.spans.find(
      (span) => from.x >= span.x - 6 && from.x <= span.x + span.width + 6,
    );
    setRange(span ? { from: span.x, to: span.x + span.width } : null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const at = range
      ? strip.spans.findIndex((span) => span.x + span.width > range.from + 1)
      : strip.spans.length;
    const to = { ArrowLeft: at - 1, ArrowRight: at + 1, End: strip.spans.length - 1, Home: 0 }[
      event.key
    ];
    const span = to === undefined ? undefined : strip.spans[clamp(to, 0, strip.spans.length - 1)];
    if (event.key === "Escape" && range) setRange(null);
    else if (!span) return;
    else {
      setRange({ from: span.x, to: span.x + span.width });
      setBack(Math.max(0, most - Math.max(0, span.x - width / 2)));
    }
    event.preventDefault();
    event.stopPropagation();
  };
  const onWheel = (event: WheelEvent) => {
    const by = event.deltaX || event.deltaY;
    setBack(clamp(Math.min(back, most) - by, 0, most));
  };
  const onPointerCancel = () => {
    drag.current = null;
  };
  return {
    area,
    width,
    left,
    range,
    clear: () => setRange(null),
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onKeyDown, onWheel },
  };
}
