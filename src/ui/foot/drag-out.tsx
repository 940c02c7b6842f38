"use client";
import { FileOutput } from "lucide-react";
import { toast } from "sonner";
import { draggedExtent, draggedName, copyAsFile, dragOut } from "../commands/files/drag-out";
import { useDesk, useSession } from "../session/context";

/** What is current as a MIDI file, to be dragged out of the window; pressed, it goes to the clipboard. */
export function DragOut() {
  const { store } = useDesk();
  const extent = useSession(draggedExtent);
  const what = draggedName(extent);
  return (
    <button
      draggable
      className="btn btn-ghost btn-xs h-6 min-h-0 cursor-grab px-1"
      aria-label={`Drag ${what} out as MIDI`}
      title={`Drag ${what} as a MIDI file to the desktop or another program; press to copy it`}
      onDragStart={(event) => {
        try {
          dragOut(store, event.dataTransfer);
        } catch (error) {
          event.preventDefault();
          toast.error(`Nothing to drag: ${(error as Error).message}`);
        }
      }}
      onClick={() => void copyAsFile(store)}
    >
      <FileOutput size={14} />
    </button>
  );
}
