import { clamp } from "@/core/base";
import { lineAt, nearestLine } from "@/core/time";
import type { selectedSpan } from "../../geometry/span";
import { tickOf } from "../../geometry/view";
import type { Gesture, Hand, Point } from "./gesture";

type Span = NonNullable<ReturnType<typeof selectedSpan>>;

/** Pulls one end of the selected notes' span; past the other end they are turned about. */
export class Stretch implements Gesture {
  readonly touches = false;

  constructor(
    private readonly hand: Hand,
    private readonly side: "from" | "to",
    private readonly span: Pick<Span, "from" | "to" | "row">,
  ) {}

  move(point: Point): void {
    const { edit, host, state } = this.hand;
    const { from, to, row } = this.span;
    const pulled = tickOf(host.view(), point.x);
    const tick = point.alt ? pulled : lineAt(row.grid, nearestLine(row.grid, pulled));
    const width = to - from;
    const exact = (this.side === "to" ? tick - from : to - tick) / width;
    const factor = Math.sign(exact || 1) * clamp(Math.abs(exact), 0.01, 8);
    // The transform keeps the front where it is; the end that is not pulled must stay instead.
    const wide = Math.abs(factor) * width;
    const shift = this.side === "to" ? (factor < 0 ? -wide : 0) : factor < 0 ? width : width - wide;
    const done = edit.stretch(this.hand.selected(), [from, to], { factor, shift });
    state.announce(`× ${factor.toFixed(2)}: ${done}`);
    host.readout(`× ${factor.toFixed(2)}`);
  }
}
