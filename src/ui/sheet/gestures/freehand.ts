import type { Note } from "@/core/score";
import { newNote } from "../../commands/notes/notes";
import { cellOf } from "../../geometry/cells";
import type { Gesture, Hand, Point } from "./gesture";

/** One line drawn over the pitch grid: each note ends where the next begins. */
export class Freehand implements Gesture {
  readonly touches = true;
  readonly asSeen = true;
  private readonly drawn: Note[] = [];

  constructor(private readonly hand: Hand) {}

  move(point: Point): void {
    const { edit, host, state } = this.hand;
    const hit = this.hand.hitHere(point);
    if (!hit || hit.tick < 0 || hit.tick >= host.layout().total) return;
    const cell = cellOf(hit.row, hit.tick);
    const fresh = newNote(state, hit.row, cell);
    const there = this.drawn.findIndex((note) => note.start === cell);
    const same = this.drawn[there];
    if (same?.pitch === fresh.pitch) return;
    if (same) this.drawn[there] = { ...fresh, id: same.id };
    else this.drawn.push(fresh);
    this.drawn.sort((a, b) => a.start - b.start);
    const line = this.drawn.map((note, i) => {
      const next = this.drawn[i + 1]?.start ?? Infinity;
      return { ...note, length: Math.max(1, Math.min(note.length, next - note.start)) };
    });
    edit.putNotes("Freehand", line, { select: true });
    host.hear(fresh.pitch, fresh.velocity);
  }
}
