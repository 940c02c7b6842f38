"use client";
import { useEffect, useRef } from "react";
import { useDesk } from "../session/context";

/** Bottom of the scale in dB. */
const FLOOR = -48;
/** How often a silent meter looks whether something sounds again. */
const IDLE_MS = 120;

/** Level of a track, or of everything: a bar from −48 to 0 dB. Moved without rendering anything. */
export function Meter({ track, className = "" }: { track: string | null; className?: string }) {
  const { engine } = useDesk();
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let frame = 0;
    const show = () => {
      const db = track === null ? engine.masterLevel() : engine.levelOf(track);
      const share = Math.min(1, Math.max(0, 1 - db / FLOOR));
      if (bar.current) bar.current.style.transform = `scaleX(${share})`;
      frame = engine.isSounding || share > 0 ? requestAnimationFrame(show) : 0;
    };
    const idle = setInterval(() => {
      if (frame === 0 && engine.isSounding) show();
    }, IDLE_MS);
    return () => {
      clearInterval(idle);
      cancelAnimationFrame(frame);
    };
  }, [engine, track]);
  return (
    <div
      className={`overflow-hidden rounded-full bg-base-300/60 ${className}`}
      data-testid={track === null ? "meter" : `meter-${track}`}
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
