"use client";
import { clamp } from "@/core/base";
import { useEffect, useRef } from "react";
import { eachFrame } from "./each-frame";

/** Bottom of the scale in dB. */
const FLOOR = -48;

interface Props {
  /** The level just now in dB; −Infinity for silence. */
  level(): number;
  /** Whether anything may be heard now: meters of what is silent look only now and then. */
  sounding(): boolean;
  testId: string;
  className?: string;
}

/** A level as a bar from −48 to 0 dB. Moved without rendering anything. */
export function Meter({ level, sounding, testId, className = "" }: Props) {
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let shown = 0;
    return eachFrame(() => {
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
