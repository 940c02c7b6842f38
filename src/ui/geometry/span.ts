import { handleY, type Row, type SheetLayout } from "./layout";
import { xOf, type View } from "./view";
import { must } from "@/core/base";

/** The time that the selected notes of an open track take, to be stretched by its ends. */
export interface Span {
  from: number;
  to: number;
  /** Height of the handles in the sheet's content. */
  y: number;
  /** Whose grid the ends keep to. */
  row: Row;
}

/** The span of the selection; null for fewer than two notes, with notes of other tracks, or on a folded track. */
export function selectedSpan(
  state: { track: string; selection: ReadonlySet<string>; beside: { size: number } },
  layout: SheetLayout,
): Span | null {
  if (state.selection.size < 2 || state.beside.size > 0) return null;
  const block = layout.blocks.find((block) => block.track.id === state.track);
  if (!block?.open || !block.rows[0]) return null;
  let [from, to, count] = [Infinity, -Infinity, 0];
  for (const note of block.part.notes) {
    if (!state.selection.has(note.id)) continue;
    from = Math.min(from, note.start);
    to = Math.max(to, note.start + note.length);
    count++;
  }
  if (count < 2) return null;
  const lowest = must(block.part.notes.find((note) => state.selection.has(note.id)));
  const row = block.rows.find((row) => row.pitch === lowest.pitch) ?? block.rows[0];
  return { from, to, y: handleY(block), row };
}

const REACH = 9;

/** Which end of a span a point is on; `y` in the sheet's content. */
export function handleAt(
  span: Span,
  view: View,
  { x, y }: { x: number; y: number },
): "from" | "to" | null {
  if (Math.abs(y - span.y) > REACH) return null;
  if (Math.abs(x - xOf(view, span.to)) <= REACH) return "to";
  return Math.abs(x - xOf(view, span.from)) <= REACH ? "from" : null;
}
