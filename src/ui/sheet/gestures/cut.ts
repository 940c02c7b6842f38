import { lineAt, nearestLine } from "@/core/time";
import { ownIds } from "../../commands/notes/notes";
import type { Hit } from "../../geometry/hit";
import type { Gesture, Hand, Point } from "./gesture";
import { Stroke } from "./stroke";

/**
 * Cuts each note that the stroke passes, once, at the line nearest to the pointer there, or just there with Alt. A
 * press on a selected note cuts all that are selected.
 */
export class Cut implements Gesture {
  readonly touches = false;
  private readonly stroke: Stroke;
  /** Notes that were cut, and the pieces made of them. */
  private readonly done = new Set<string>();

  constructor(private readonly hand: Hand) {
    this.stroke = new Stroke(hand.from);
  }

  move(point: Point): void {
    this.stroke.along(point, (at) => {
      const hit = this.hand.hitHere(at);
      if (hit?.note) this.cut(hit, hit.note.id, at.alt);
    });
  }

  private cut(hit: Hit, id: string, free: boolean): void {
    const [own] = ownIds([id]);
    if (own === undefined || this.done.has(own)) return;
    const { selection } = this.hand.state;
    const ids = this.done.size === 0 && selection.has(own) ? this.hand.selected() : new Set([own]);
    const loop = Math.max(0, Math.floor(hit.tick / hit.row.period)) * hit.row.period;
    const inLoop = hit.tick - loop;
    const tick = free ? inLoop : lineAt(hit.row.grid, nearestLine(hit.row.grid, inLoop));
    const fresh = this.hand.edit.cut(ids, Math.round(tick), this.done.size);
    if (fresh.length === 0) return;
    for (const one of [...ids, ...fresh]) this.done.add(one);
  }
}
