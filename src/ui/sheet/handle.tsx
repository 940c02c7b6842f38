"use client";
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { useState, type ReactNode } from "react";
import { Popover } from "../controls/popover";
import { useRequest } from "../session/requested";

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
  /** Opens it when a command calls for this id; null for none. */
  request: string | null;
  /** What opens on a click. */
  children(close: () => void): ReactNode;
}

/** The grip of a lane or track: dragged it moves it, clicked it opens what else can be done. */
export function Handle({ dragged, label, request, children }: Props) {
  const [open, setOpen] = useState(false);
  useRequest(request, () => setOpen(true));
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: dragged.lane ? `${dragged.track}/${dragged.lane}` : dragged.track,
    data: dragged,
  });
  return (
    <Popover
      label={label}
      open={open}
      onOpenChange={setOpen}
      className="w-60 gap-1 p-2"
      trigger={
        <button
          ref={setNodeRef}
          className={`grid h-[24px] w-[24px] shrink-0 cursor-grab touch-none place-items-center rounded ${
            isDragging
              ? "relative z-20 bg-primary text-primary-content"
              : "quiet hover:bg-base-300/60"
          }`}
          style={
            isDragging && transform ? { transform: `translateY(${transform.y}px)` } : undefined
          }
          aria-label={label}
          title={label}
          {...listeners}
        >
          <GripVertical size={13} />
        </button>
      }
    >
      {children(() => setOpen(false))}
    </Popover>
  );
}
