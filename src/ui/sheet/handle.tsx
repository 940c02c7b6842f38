"use client";
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { useCallback, useRef, useState, type ReactNode } from "react";
import { useDismiss } from "../controls/use-dismiss";

/** What is being dragged: a track, or a lane of one. */
export interface Dragged {
  track: string;
  lane: string | null;
  /** Its place in the order, and its height in pixels. */
  index: number;
  height: number;
}

interface Props {
  dragged: Dragged;
  label: string;
  /** What opens on a click. */
  children(close: () => void): ReactNode;
}

/** The grip of a lane or track: dragged it moves it, clicked it opens what else can be done. */
export function Handle({ dragged, label, children }: Props) {
  const [frame, setFrame] = useState<DOMRect | null>(null);
  const root = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setFrame(null), []);
  useDismiss(root, frame !== null, close);
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: dragged.lane ? `${dragged.track}/${dragged.lane}` : dragged.track,
    data: dragged,
  });
  return (
    <div ref={root} className="shrink-0">
      <button
        ref={setNodeRef}
        className={`grid h-[24px] w-[24px] cursor-grab touch-none place-items-center rounded ${
          isDragging
            ? "relative z-20 bg-primary text-primary-content"
            : "quiet hover:bg-base-300/60"
        }`}
        style={isDragging && transform ? { transform: `translateY(${transform.y}px)` } : undefined}
        aria-label={label}
        aria-expanded={frame !== null}
        title={label}
        {...listeners}
        // The menu is anchored to the screen, since the column it sits in scrolls and clips.
        onClick={(event) => setFrame(frame ? null : event.currentTarget.getBoundingClientRect())}
      >
        <GripVertical size={13} />
      </button>
      {frame && (
        <div
          role="dialog"
          aria-label={label}
          className="rounded-box fixed z-30 flex w-60 flex-col gap-1 border border-base-300 bg-base-100 p-2 text-[12px] shadow-lg"
          style={{ left: frame.left, top: Math.min(frame.bottom + 4, innerHeight - 310) }}
        >
          {children(close)}
        </div>
      )}
    </div>
  );
}
