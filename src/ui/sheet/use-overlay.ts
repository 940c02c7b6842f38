import { useEffect } from "react";
import { prepareCanvas } from "../controls/canvas";
import { readColours } from "../controls/colours";
import type { Row } from "../geometry/layout";
import { pullLines } from "../geometry/pull-lines";
import { rateLine } from "../geometry/rate-line";
import { selectedSpan } from "../geometry/span";
import { drawOverlay } from "../paint/overlay";
import { useTheme } from "../person/theme";
import { useSession } from "../session/context";
import { currentStretch, trialOf } from "../state/current";
import type { Stretch } from "../state/selected";
import type { PointerMarks } from "./use-sheet-pointer";
import type { CanvasRef, SheetView } from "./use-sheet-view";
import { nth, lastOf } from "@/core/base";

/** Draws what lies over the notes: the caret, what the pointer is on, and what is selected. */
export function useOverlay(
  canvas: CanvasRef,
  { layout, view }: SheetView,
  { box, hover, cut }: PointerMarks,
): void {
  const theme = useTheme();
  const caret = useSession((state) => state.caret);
  const track = useSession((state) => state.track);
  const stretch = useSession(currentStretch);
  const selection = useSession((state) => state.selection);
  const beside = useSession((state) => state.beside);
  const entering = useSession((state) => state.entry !== null && state.entry.mode === "notes");
  const project = useSession((state) => state.project);
  const asked = useSession((state) => (state.bypassed ? null : (trialOf(state)?.asked ?? null)));
  useEffect(() => {
    if (view.width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, view.width, view.height);
      if (!ctx) return;
      const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
      const row = rows.find((row) => row.pitch === caret.pitch);
      drawOverlay(ctx, view, readColours(), {
        caret: row && !entering ? { row, tick: caret.tick } : null,
        hover,
        box,
        cut,
        entry: entering && rows[0] ? { tick: caret.tick, ...heightOf(rows) } : null,
        span: selectedSpan({ track, selection, beside }, layout),
        rate: rateLine(
          project,
          layout.blocks.find((block) => block.track.id === track),
          view,
        ),
        pulls: asked ? pullLines(project, layout, asked) : [],
        stretch: stretch && covered(stretch, stretch.kind === "lane" && row ? [row] : rows),
      });
    });
    return () => cancelAnimationFrame(frame);
  }, [
    canvas,
    view,
    theme,
    layout,
    caret,
    track,
    box,
    hover,
    cut,
    stretch,
    selection,
    beside,
    entering,
    project,
    asked,
  ]);
}

/** A stretch of time over some rows, for drawing. */
function covered({ from, to }: Stretch, rows: readonly Row[]) {
  return rows.length > 0 ? { from, to, ...heightOf(rows) } : null;
}

function heightOf(rows: readonly Row[]) {
  const [first, last] = [nth(rows, 0), lastOf(rows)];
  return { top: first.y, bottom: last.y + last.height };
}
