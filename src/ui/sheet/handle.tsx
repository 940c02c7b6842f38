"use client";
import { useDraggable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { useRef, useState, type ReactNode } from "react";
import { Popover } from "../controls/popover";
import { useDesk } from "../session/context";
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
  /** What opens on a click; it closes, and the keyboard goes back to its button or on to the sheet. */
  children(close: Close): ReactNode;
}

type Close = (to?: "sheet") => void;

/** What is opened, with what closes it. */
const Inside = ({ close, children }: { close: Close; children: Props["children"] }) =>
  children(close);

/** The grip of a lane or track: dragged it moves it, clicked it opens what else can be done. */
export function Handle({ dragged, label, request, children }: Props) {
  const [open, setOpen] = useState(false);
  const { store } = useDesk();
  // Where a key opened it, the keyboard was on the sheet.
  const toSheet = useRef(false);
  useRequest(request, () => {
    toSheet.current = true;
    setOpen(true);
  });
  const takesKeyboard = () => {
    if (!toSheet.current) return false;
    toSheet.current = false;
    store.getState().request("sheet");
    return true;
  };
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
      takesKeyboard={takesKeyboard}
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
      <Inside
        close={(to) => {
          if (to) toSheet.current = true;
          setOpen(false);
        }}
      >
        {children}
      </Inside>
    </Popover>
  );
}
