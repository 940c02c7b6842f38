import { must } from "@/core/base";
import type { DragEvent, RefObject } from "react";
import { droppedFile, isSound, putSample } from "../commands/files/sample";
import { putAtCaret } from "../commands/perform/played";
import { RULER_HEIGHT, blockAt, rowAt } from "../geometry/layout";
import { useDesk } from "../session/context";
import { draggedNotes } from "../state/dragged";
import type { RowPlace } from "./under-pointer";
import type { SheetView } from "./use-sheet-view";

/** What is dropped on the sheet: played notes on a track, a sound file on a pad's lane. */
export function useSheetDrop(
  area: RefObject<HTMLDivElement | null>,
  latest: RefObject<SheetView>,
  setHover: (place: RowPlace | null) => void,
) {
  const desk = useDesk();
  const heightOf = (event: DragEvent) => {
    const frame = must(area.current).getBoundingClientRect();
    return event.clientY - frame.top - RULER_HEIGHT + latest.current.view.top;
  };
  /** The lane of a kit that something is dragged over. */
  const laneUnder = (event: DragEvent) => {
    const found = rowAt(latest.current.layout, heightOf(event));
    return found?.block.track.kind === "drums" ? found : null;
  };
  const onDragOver = (event: DragEvent) => {
    event.preventDefault();
    const lane = laneUnder(event);
    setHover(lane && { row: lane.row, tick: 0 });
  };
  const onDragLeave = () => setHover(null);
  const onDrop = (event: DragEvent) => {
    setHover(null);
    const notes = draggedNotes();
    if (notes) {
      event.preventDefault();
      const under = blockAt(latest.current.layout, heightOf(event));
      if (under) putAtCaret(desk, notes, under.track.id);
      return;
    }
    const file = droppedFile(event.dataTransfer);
    const lane = laneUnder(event);
    if (!file || !lane || !isSound(file)) return;
    event.preventDefault();
    void putSample(desk.store, lane.block.track.id, lane.row.pitch, file);
  };
  return { onDragOver, onDragLeave, onDrop };
}
