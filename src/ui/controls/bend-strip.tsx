"use client";
import { clamp, must } from "@/core/base";
import { useRef, type PointerEvent } from "react";

/** The wheel: pulled to either side it bends, let go it springs back. */
export function BendStrip({
  label = "Bend",
  title,
  onBend,
}: {
  label?: string;
  title: string;
  /** −8192…8191, with the time of the touch in ms of the page's clock. */
  onBend(value: number, time: number): void;
}) {
  const strip = useRef<HTMLDivElement>(null);
  const stands = useRef(0);
  const knob = useRef<HTMLSpanElement>(null);
  const to = (value: number, time: number) => {
    // Let go is told more than once: by the pointer that comes up and by its capture that ends.
    if (value === stands.current) return;
    stands.current = value;
    onBend(value, time);
    if (knob.current) knob.current.style.left = `${50 + (value / 8192) * 44}%`;
  };
  const pull = (event: PointerEvent) => {
    const frame = must(strip.current).getBoundingClientRect();
    const share = (event.clientX - frame.left) / frame.width;
    to(Math.round(clamp((share - 0.5) * 2.2 * 8192, -8192, 8191)), event.timeStamp);
  };
  const rest = (event: PointerEvent) => to(0, event.timeStamp);
  return (
    <div
      ref={strip}
      className="relative h-[22px] w-[110px] cursor-ew-resize touch-none rounded-full border border-base-300"
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={-2}
      aria-valuemax={2}
      aria-valuenow={0}
      title={title}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pull(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && pull(event)}
      onPointerUp={rest}
      onPointerCancel={rest}
      onLostPointerCapture={rest}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -8192, ArrowRight: 8191 }[event.key];
        if (by === undefined || event.repeat) return;
        event.preventDefault();
        event.stopPropagation();
        to(by, event.timeStamp);
      }}
      onKeyUp={(event) => event.key.startsWith("Arrow") && to(0, event.timeStamp)}
      onBlur={() => to(0, performance.now())}
    >
      <span className="absolute top-[3px] bottom-[3px] left-1/2 w-px bg-base-300" />
      <span
        ref={knob}
        className="absolute top-[2px] h-[16px] w-[10px] -translate-x-1/2 rounded-full bg-base-content"
        style={{ left: "50%" }}
      />
    </div>
  );
}
