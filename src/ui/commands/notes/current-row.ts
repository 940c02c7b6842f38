import type { Note } from "@/core/score";
import { noteInCell } from "../../geometry/cells";
import { layOut, type Row } from "../../geometry/layout";
import { currentPart } from "../../state/current";
import type { Session } from "../../state/store";

/** The rows of the current track as they lie on the sheet, and the pattern's length in ticks. */
export function rowsOf({ project, pattern, open, track, ...look }: Session) {
  const layout = layOut(project, pattern, { ...look, open: new Set([...open, track]) });
  const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
  return { rows, total: layout.total };
}

/**
 * The row the caret stands in, or the nearest there is; null without a track. Rows that are scrolled out
 * of view count as well.
 */
export function currentRow(state: Session): Row | null {
  if (!state.track) return null;
  const { rows } = rowsOf(state);
  const { pitch } = state.caret;
  return rows.find((row) => row.pitch === pitch) ?? nearestRow(rows, pitch);
}

function nearestRow(rows: readonly Row[], pitch: number): Row | null {
  return rows.reduce<Row | null>(
    (best, row) =>
      !best || Math.abs(row.pitch - pitch) < Math.abs(best.pitch - pitch) ? row : best,
    null,
  );
}

/** The note that the caret stands on, if any. */
export function noteAtCaret(state: Session): Note | undefined {
  const row = currentRow(state);
  return row ? noteInCell(currentPart(state).notes, row, state.caret.tick) : undefined;
}
