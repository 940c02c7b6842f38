import { madeNotes } from "../../commands/tracks/made";
import { GHOST, newNote } from "../../commands/notes/notes";
import { cellOf, noteInCell } from "../../geometry/cells";
import { currentPart } from "../../state/current";
import { START_MOVE, type Gesture, type Hand, type Point } from "./gesture";
import { Stroke } from "./stroke";

/** Hits put on each step that the stroke passes, soft ones as ghosts. */
export class Paint implements Gesture {
  private readonly stroke: Stroke;

  /** After a first click the second puts nothing, but a stroke from there does: it `waits` for that. */
  constructor(
    private readonly hand: Hand,
    private readonly velocity: "plain" | "ghost",
    private waits: boolean,
  ) {
    this.stroke = new Stroke(hand.from);
  }

  /** A ghost must not make the next hits soft too. */
  get touches() {
    return this.velocity === "plain" && !this.waits;
  }

  move(point: Point): void {
    const { from } = this.hand;
    const far = Math.max(Math.abs(point.x - from.x), Math.abs(point.y - from.y));
    if (this.waits && far < START_MOVE) return;
    this.waits = false;
    this.stroke.along(point, (at) => this.paint(at));
  }

  private paint(point: Point): void {
    const { host, state, edit } = this.hand;
    const hit = this.hand.hitHere(point);
    if (!hit || hit.tick < -60 || hit.tick >= host.layout().total) return;
    // Nothing is written under a hit, a card's own neither.
    const taken = [currentPart(state).notes, madeNotes(state)];
    if (taken.some((notes) => noteInCell(notes, hit.row, hit.tick))) return;
    const plain = newNote(state, hit.row, cellOf(hit.row, hit.tick));
    const note = this.velocity === "ghost" ? { ...plain, velocity: GHOST } : plain;
    edit.paint(note);
    host.hear(note.pitch, note.velocity);
  }
}
