import { notesInBox } from "../../geometry/hit";
import type { Gesture, Hand, Point } from "./gesture";

/** Selects what lies in a box: beside what was selected, or taken from it. */
export class SelectBox implements Gesture {
  readonly touches = false;

  constructor(
    private readonly hand: Hand,
    private readonly before: ReadonlySet<string>,
    private readonly how: "add" | "take",
  ) {}

  move(point: Point): void {
    const { from, host, state } = this.hand;
    const box = { x0: from.x, y0: from.y, x1: point.x, y1: point.y };
    host.showBox(box);
    const block = this.hand.block();
    if (!block) return;
    const found = notesInBox(block, host.view(), box);
    const gone = new Set(found);
    state.select(
      this.how === "take"
        ? [...this.before].filter((id) => !gone.has(id))
        : [...this.before, ...found],
    );
  }
}
