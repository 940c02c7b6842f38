"use client";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import { type Decibels, clamp } from "@/core/base";
import { levelAt, placeOf, type LevelScale } from "./level-scale";
import { useWater } from "./use-water";

interface Props {
  label: string;
  value: Decibels;
  scale: LevelScale;
  /** Levels that are marked. */
  marks: readonly Decibels[];
  /** Colour of what rises, as CSS. */
  colour: string;
  /** The highest sample just now in dB. */
  peak(): Decibels;
  /** Whether anything may be heard now. */
  sounding(): boolean;
  onChange(value: Decibels): void;
  text(value: Decibels): string;
  className?: string;
}

/**
 * A level as a float on a tide board: dragged, stepped with the arrows, reset by a double click. What sounds rises
 * behind it; its highest mark stays a while, and as a figure until it is pressed.
 */
export function LevelBoard({
  label,
  value,
  scale,
  marks,
  colour,
  peak,
  sounding,
  onChange,
  text,
  className = "",
}: Props) {
  const board = useRef<HTMLDivElement>(null);
  const { water, mark, figure, forget } = useWater({ scale, peak, sounding });
  const drag = useRef<{ y: number; place: number; value: Decibels } | null>(null);

  const give = (next: Decibels) => {
    const held = clamp(next, scale.min, scale.max);
    if (held !== value) onChange(held);
  };
  const keys: Record<string, Decibels> = {
    ArrowUp: value + 0.5,
    ArrowDown: value - 0.5,
    ArrowRight: value + 0.5,
    ArrowLeft: value - 0.5,
    PageUp: value + 3,
    PageDown: value - 3,
    Home: scale.max,
    End: scale.min,
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Escape" && drag.current) {
      const { value: before } = drag.current;
      drag.current = null;
      give(before);
      event.preventDefault();
      return;
    }
    const next = keys[event.key];
    if (next === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    give(event.shiftKey && event.key.startsWith("Arrow") ? value + 6 * (next - value) : next);
  };
  const onPointerMove = (event: PointerEvent) => {
    const from = drag.current;
    const height = board.current?.clientHeight;
    if (!from || !height) return;
    const fine = event.shiftKey ? 0.2 : 1;
    give(levelAt(scale, from.place + (fine * (from.y - event.clientY)) / height));
  };
  const place = 100 * placeOf(scale, value);
  return (
    <div className={`flex flex-col items-center ${className}`}>
      <button
        ref={figure}
        className="figure quiet h-5 w-full rounded text-center text-[12px]"
        aria-label={`Highest level of ${label}: press to begin anew`}
        title="Highest level so far: press to begin anew"
        onClick={forget}
      >
        –
      </button>
      <div ref={board} className="relative min-h-0 w-full flex-1">
        <Marks scale={scale} marks={marks} />
        <div className="pointer-events-none absolute inset-y-0 right-1 left-8 overflow-hidden rounded-t-full bg-base-300/40">
          <div
            ref={water}
            className="absolute inset-0 origin-bottom opacity-55"
            style={{ background: colour, transform: "scaleY(0)" }}
          />
          <div
            ref={mark}
            className="absolute inset-x-0 h-[2px]"
            style={{ background: colour, opacity: 0 }}
          />
        </div>
        <div
          role="slider"
          tabIndex={0}
          aria-label={label}
          aria-orientation="vertical"
          aria-valuemin={scale.min}
          aria-valuemax={scale.max}
          aria-valuenow={value}
          aria-valuetext={text(value)}
          title={`${label}: drag, arrow keys, double click to reset`}
          className="absolute right-0 left-7 z-10 h-6 translate-y-1/2 cursor-ns-resize touch-none"
          style={{ bottom: `${place}%` }}
          onKeyDown={onKeyDown}
          onDoubleClick={() => give(0)}
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { y: event.clientY, place: placeOf(scale, value), value };
          }}
          onPointerMove={onPointerMove}
          onPointerUp={() => (drag.current = null)}
          onPointerCancel={() => (drag.current = null)}
        >
          <div className="mt-[7px] h-[10px] w-full rounded-full border-2 border-base-content bg-base-100" />
        </div>
      </div>
    </div>
  );
}

/** Levels at the side of the board. */
const Marks = ({ scale, marks }: Pick<Props, "scale" | "marks">) =>
  marks.map((db) => (
    <span
      key={db}
      className="quiet figure pointer-events-none absolute left-0 flex w-full items-center gap-1 text-[12px]"
      style={{ bottom: `${100 * placeOf(scale, db)}%`, transform: "translateY(50%)" }}
      aria-hidden
    >
      <span className="w-5 text-right">{db > 0 ? `+${db}` : db}</span>
      <span className={`h-px flex-1 ${db === 0 ? "bg-base-content/60" : "bg-base-300"}`} />
    </span>
  ));
