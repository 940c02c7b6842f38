import { formatLength, gridTicks } from "@/core/time";
import type { Note } from "@/core/score";
import { newNote } from "../../commands/notes/notes";
import { cellOf } from "../../geometry/cells";
import type { Hit } from "../../geometry/hit";
import { START_MOVE, type Gesture, type Hand, type Point } from "./gesture";

/** A new note, put where it was pressed; drawn to the right it becomes longer. */
export class Draw implements Gesture {
  readonly touches = true;
  private readonly note: Note;

  constructor(
    private readonly hand: Hand,
    private readonly on: Pick<Hit, "row" | "tick">,
  ) {
    this.note = newNote(hand.state, on.row, cellOf(on.row, on.tick));
    hand.edit.putNotes("Draw note", [this.note], { select: true });
    hand.host.hear(this.note.pitch, this.note.velocity);
  }

  move(point: Point): void {
    const { edit, from, host } = this.hand;
    const dx = point.x - from.x;
    if (Math.abs(dx) < START_MOVE) return;
    const cell = point.alt ? 1 : gridTicks(this.on.row.grid);
    const length = Math.max(cell, Math.round(dx / host.view().zoom / cell) * cell);
    edit.putNotes("Draw note", [{ ...this.note, length }]);
    host.readout(`length ${formatLength(length)}`);
  }
}
