"use client";
import { clamp } from "@/core/base";
import { useEffect, useRef } from "react";

/** Bottom of the scale in dB. */
const FLOOR = -48;
/** How often silent meters look whether something sounds again. */
const IDLE_MS = 120;

interface Props {
  /** The level just now in dB; −Infinity for silence. */
  level(): number;
  /** Whether anything may be heard now: meters of what is silent look only now and then. */
  sounding(): boolean;
  testId: string;
  className?: string;
}

/** Shows a level; gives whether there is more to show. */
type Show = () => boolean;

const meters = new Map<Show, Props["sounding"]>();
let frame = 0;
let idle: ReturnType<typeof setInterval> | null = null;

/** One frame for all meters of the page. */
function showAll(): void {
  let more = false;
  for (const show of meters.keys()) more = show() || more;
  frame = more ? requestAnimationFrame(showAll) : 0;
}

/** Shows a level in every frame in which something may be heard. Gives a way to stop. */
function watch(show: Show, sounding: Props["sounding"]): () => void {
  meters.set(show, sounding);
  idle ??= setInterval(() => {
    if (frame === 0 && [...meters.values()].some((any) => any())) showAll();
  }, IDLE_MS);
  return () => {
    meters.delete(show);
    if (meters.size > 0 || idle === null) return;
    clearInterval(idle);
    cancelAnimationFrame(frame);
    [idle, frame] = [null, 0];
  };
}

/** A level as a bar from −48 to 0 dB. Moved without rendering anything. */
export function Meter({ level, sounding, testId, className = "" }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let shown = 0;
    return watch(() => {
      // To a hundredth: what is not seen need not be drawn.
      const share = Math.round(100 * clamp(1 - level() / FLOOR, 0, 1)) / 100;
      if (bar.current && share !== shown) bar.current.style.transform = `scaleX(${share})`;
      shown = share;
      return share > 0 || sounding();
    }, sounding);
  }, [level, sounding]);
  return (
    <div
      className={`overflow-hidden rounded-full bg-base-300/60 ${className}`}
      data-testid={testId}
      aria-hidden
    >
      <div
        ref={bar}
        className="h-full origin-left bg-base-content/70"
        style={{ transform: "scaleX(0)" }}
      />
    </div>
  );
}
