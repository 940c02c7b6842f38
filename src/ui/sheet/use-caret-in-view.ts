import { useEffect, type RefObject } from "react";
import { revealPitch } from "../commands/notes/rows";
import { scrollTo } from "../commands/notes/time";
import { RULER_HEIGHT } from "../geometry/layout";
import { xOf } from "../geometry/view";
import { useDesk, useSession } from "../session/context";
import type { SheetView } from "./use-sheet-view";

/** Brings the caret back into view when a key took it out of it. */
export function useCaretInView(
  scroller: RefObject<HTMLDivElement | null>,
  latest: RefObject<SheetView>,
  height: number,
): void {
  const { store } = useDesk();
  const caret = useSession((state) => state.caret);
  useEffect(() => {
    const { layout, view } = latest.current;
    if (view.width === 0) return;
    const x = xOf(view, caret.tick);
    if (x < 0 || x > view.width) {
      scrollTo(store, caret.tick - view.width / 3 / view.zoom);
    }
    const { track } = store.getState();
    revealPitch(store, caret.pitch);
    const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
    const row = rows.find((row) => row.pitch === caret.pitch);
    const visible = height - RULER_HEIGHT;
    if (!row || (row.y >= view.top && row.y + row.height <= view.top + visible)) return;
    scroller.current?.scrollTo({ top: Math.max(0, row.y - visible / 3) });
    // A sheet that got lower may have left the caret outside.
  }, [caret, store, scroller, latest, height]);
}
