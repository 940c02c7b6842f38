"use client";
import { clamp } from "@/core/base";
import { useEffect, useRef } from "react";

/** Bottom of the scale in dB. */
const FLOOR = -48;
/** How often a silent meter looks whether something sounds again. */
const IDLE_MS = 120;

interface Props {
  /** The level just now in dB; −Infinity for silence. */
  level(): number;
  /** Whether anything may be heard now: a meter of what is silent looks only now and then. */
  sounding(): boolean;
  testId: string;
  className?: string;
}

/** A level as a bar from −48 to 0 dB. Moved without rendering anything. */
export function Meter({ level, sounding, testId, className = "" }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let frame = 0;
    const show = () => {
      const share = clamp(1 - level() / FLOOR, 0, 1);
      if (bar.current) bar.current.style.transform = `scaleX(${share})`;
      frame = sounding() || share > 0 ? requestAnimationFrame(show) : 0;
    };
    const idle = setInterval(() => {
      if (frame === 0 && sounding()) show();
    }, IDLE_MS);
    return () => {
      clearInterval(idle);
      cancelAnimationFrame(frame);
    };
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
