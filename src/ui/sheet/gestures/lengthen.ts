import { formatLength, gridTicks } from "@/core/time";
import { frontMoved } from "../../commands/notes/notes";
import type { Gesture, Hand, Point } from "./gesture";

/** Selected notes made longer or shorter by an end of one of them; with alt off the grid. */
export class Lengthen implements Gesture {
  readonly touches = true;

  constructor(
    private readonly hand: Hand,
    private readonly end: "begin" | "end",
  ) {}

  move(point: Point): void {
    const { edit, from, host } = this.hand;
    const by = (point.x - from.x) / host.view().zoom;
    edit.changeNotes("Length", edit.selectedBefore(), (note, { gridOf }) => {
      const cell = point.alt ? 1 : gridTicks(gridOf(note));
      const ticks = Math.round(by / cell) * cell;
      if (this.end === "begin") return frontMoved(note, ticks);
      return { ...note, length: Math.max(1, note.length + ticks) };
    });
    const now = this.hand.firstSelected();
    if (now) host.readout(`length ${formatLength(now.length)}`);
  }
}
