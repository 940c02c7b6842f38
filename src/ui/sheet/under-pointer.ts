import { snapToRow } from "../geometry/cells";
import { hitTest } from "../geometry/hit";
import type { Row } from "../geometry/layout";
import { rateHandleAt, rateLine } from "../geometry/rate-line";
import { handleAt, selectedSpan } from "../geometry/span";
import type { Session } from "../state/store";
import type { Point } from "./gestures/gesture";
import type { SheetView } from "./use-sheet-view";

/** A place on the sheet: a row, and a tick of the pattern. */
export interface RowPlace {
  row: Row;
  tick: number;
}

/** What a pointer that rests somewhere is told: its cursor, the step it would paint, where it would cut. */
export interface UnderPointer {
  cursor: string;
  hover: RowPlace | null;
  cut: RowPlace | null;
}

/** What lies under a pointer that is not pressed. */
export function underPointer(
  state: Session,
  { layout, view }: SheetView,
  point: Point,
): UnderPointer {
  const own = layout.blocks.find((block) => block.track.id === state.track);
  const rate = rateLine(state.project, own, view);
  if (rate && rateHandleAt(rate, point)) return { cursor: "ns-resize", hover: null, cut: null };
  const span = selectedSpan(state, layout);
  if (span && handleAt(span, view, point)) return { cursor: "ew-resize", hover: null, cut: null };
  const hit = hitTest(layout, view, { x: point.x, y: point.y }, state.selection);
  if (!hit) return { cursor: "crosshair", hover: null, cut: null };
  const { row, note, zone } = hit;
  const tick = snapToRow(row, hit.tick);
  const cutting = state.tool === "cut" && hit.block.track.kind === "melody";
  const inside = tick >= 0 && tick < layout.total;
  const atEdge = zone === "end" || zone === "begin";
  return {
    cursor: atEdge ? "ew-resize" : note ? "pointer" : "crosshair",
    hover: inside && !note && !cutting ? { row, tick } : null,
    cut: cutting && note ? { row, tick: point.alt ? hit.tick : tick } : null,
  };
}
