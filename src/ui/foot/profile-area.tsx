"use client";
import type { HTMLAttributes, PointerEvent, ReactNode, RefObject } from "react";
import { clamp, must } from "@/core/base";
import { HEIGHT } from "../geometry/profile-line";

/** A place in a profile, in px from its upper left corner. */
export interface Point {
  x: number;
  y: number;
}

/** A value that is told where the hand is. */
export interface ToldValue extends Point {
  text: string;
}

/** Where in a profile a pointer is. */
export function pointIn(area: RefObject<HTMLDivElement | null>, event: PointerEvent): Point {
  const frame = must(area.current).getBoundingClientRect();
  return { x: event.clientX - frame.left, y: event.clientY - frame.top };
}

/** Room that a told value takes at the right end. */
const TOLD_WIDTH = 64;

/** What a profile is drawn on, under the sheet's time axis, with the value that is told beside the hand. */
export function ProfileArea({
  area,
  canvas,
  width,
  testId,
  told,
  empty,
  handlers,
}: {
  area: RefObject<HTMLDivElement | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
  width: number;
  testId: string;
  told: ToldValue | null;
  /** What is said while there is nothing in it; null where there is. */
  empty?: ReactNode;
  handlers: HTMLAttributes<HTMLDivElement>;
}) {
  return (
    <div
      ref={area}
      data-testid={testId}
      className="relative min-w-0 flex-1 cursor-crosshair touch-none"
      style={{ height: HEIGHT }}
      {...handlers}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
      {empty && (
        <p className="quiet pointer-events-none absolute inset-0 flex items-center px-4 text-[12px]">
          {empty}
        </p>
      )}
      {told && (
        <span
          className="figure pointer-events-none absolute z-10 rounded bg-base-100 px-1.5 text-[12px] shadow"
          style={{
            left: Math.min(told.x + 12, width - TOLD_WIDTH),
            top: clamp(told.y - 20, 0, HEIGHT - 18),
          }}
          data-testid="profile-value"
        >
          {told.text}
        </span>
      )}
    </div>
  );
}
