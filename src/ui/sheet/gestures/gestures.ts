import { type Note, trackOf } from "@/core/score";
import { GestureEdit } from "../../commands/notes/gesture";
import { madeNotes, touchMade } from "../../commands/tracks/made";
import { gridOfNote, touchedBy } from "../../commands/notes/notes";
import { revealPitch } from "../../commands/notes/rows";
import { wheelChance, wheelVelocity } from "../../commands/notes/values";
import { placeEntry } from "../../commands/perform/entry";
import { cellOf } from "../../geometry/cells";
import { outsideAt, type Hit } from "../../geometry/hit";
import { TAPS, blockAt } from "../../geometry/layout";
import { rateHandleAt } from "../../geometry/rate-line";
import { handleAt, selectedSpan } from "../../geometry/span";
import { selectedOn } from "../../geometry/selected-on";
import { Draw } from "./draw";
import { Cut } from "./cut";
import { Erase } from "./erase";
import { Freehand } from "./freehand";
import { Hand, START_MOVE, type Gesture, type Host, type Point } from "./gesture";
import { Lengthen } from "./lengthen";
import { MoveNotes } from "./move-notes";
import { Paint } from "./paint";
import { Press } from "./press";
import { Rate, currentRateLine } from "./rate";
import { SelectBox } from "./select-box";
import { Stretch } from "./stretch";
import { Velocity } from "./velocity";

export type { Box, Point } from "./gesture";

/** Gestures that do something where they begin. */
const ACTS_AT_ONCE = [Cut, Erase, Paint, Freehand];

const NOWHERE: Point = { x: 0, y: 0, shift: false, alt: false, toggle: false, erase: false };

/** Finds out what a press begins, and hands the pointer to it until it is lifted. */
export class Gestures {
  private gesture: Gesture | null = null;
  private hand: Hand;
  private pointer: Point = NOWHERE;
  /** The step of a kit that was pressed last. */
  private clicked: string | null = null;

  constructor(private readonly host: Host) {
    this.hand = new Hand(host, NOWHERE, new GestureEdit(host.store));
  }

  get active(): boolean {
    return this.gesture !== null;
  }

  /** Whether each place between two frames counts. */
  get wantsAll(): boolean {
    return !this.gesture?.asSeen;
  }

  down(point: Point): void {
    this.pointer = point;
    this.hand = new Hand(this.host, point, new GestureEdit(this.host.store));
    this.gesture = this.onHandle(point);
    if (this.gesture) return;
    const hit = this.hand.hit(point);
    if (!hit) {
      this.besideRows(point);
      return;
    }
    this.gesture = this.onRow(hit, point);
    const { gesture } = this;
    if (ACTS_AT_ONCE.some((kind) => gesture instanceof kind)) this.move(point);
  }

  /** A handle that lies over the notes. */
  private onHandle(point: Point): Gesture | null {
    const rate = currentRateLine(this.hand);
    const handle = rate && rateHandleAt(rate, point);
    if (handle && !point.erase) return new Rate(this.hand, handle);
    const span = selectedSpan(this.hand.state, this.host.layout());
    const side = span && handleAt(span, this.host.view(), point);
    return span && side ? new Stretch(this.hand, side, span) : null;
  }

  /** A press where no row is: on a mark of notes outside the rows, on a closed track, or on nothing. */
  private besideRows(point: Point): void {
    const { store } = this.host;
    const block = blockAt(this.host.layout(), point.y);
    const marked = block && outsideAt(block, this.host.view(), point.x, point.y);
    if (marked) {
      store.getState().setTrack(block.track.id, marked.pitch);
      revealPitch(store, marked.pitch);
    } else if (block && !block.open) store.getState().setTrack(block.track.id);
    else store.getState().select([]);
  }

  private onRow(hit: Hit, point: Point): Gesture | null {
    const { store } = this.host;
    store.getState().setTrack(hit.block.track.id, hit.row.pitch, {
      keepSelection: true,
      beside: this.goesOn(hit, point),
    });
    if (store.getState().track !== hit.block.track.id) return null;
    const caret = { pitch: hit.row.pitch, tick: Math.max(0, patternCell(hit)) };
    const { entry } = store.getState();
    if (entry && entry.mode !== "play") {
      // While steps are entered, a click says where they go on.
      placeEntry(store, caret);
      return null;
    }
    store.getState().setCaret(caret);
    // What a card made is none of the part's notes: it is shown, and nothing is written under it.
    if (hit.note && !point.shift && this.touchesMade(hit.note)) return null;
    if (point.toggle && hit.note && !point.shift && !point.erase && !store.getState().erasing) {
      this.toggle(hit.note);
      return null;
    }
    return (
      this.selecting(hit, point) ??
      (hit.block.track.kind === "drums" ? this.onLane(hit, point) : this.onPitches(hit, point))
    );
  }

  /** Whether a press on another track goes on with what is selected: on a selected note, or one that adds or takes. */
  private goesOn({ block, note }: Hit, point: Point): boolean {
    if (point.shift) return point.toggle || point.alt;
    if (!note) return false;
    return point.toggle || selectedOn(this.hand.state, block.track.id).has(note.id);
  }

  private touchesMade(note: Note): boolean {
    const { state, host } = this.hand;
    if (!madeNotes(state).some(({ id }) => id === note.id)) return false;
    touchMade(host.store, note);
    host.hear(note.pitch, note.velocity);
    return true;
  }

  /** Selects a note beside the others, or lets go of it. */
  private toggle({ id }: Note): void {
    const { state } = this.hand;
    const selection = new Set(state.selection);
    if (!selection.delete(id)) selection.add(id);
    state.select(selection, { beside: state.beside });
  }

  /** What is the same on a kit and on pitches; null where the press is for them. */
  private selecting({ note, row }: Hit, point: Point): Gesture | null {
    const { hand } = this;
    const { state } = hand;
    if (point.erase || state.erasing) return new Erase(hand);
    if (point.shift) {
      const keeps = point.toggle || point.alt;
      return new SelectBox(hand, keeps ? "keep" : "drop", point.alt ? "take" : "add");
    }
    if (state.tool !== "select") return null;
    if (!note) return new SelectBox(hand, "drop", "add");
    if (!state.selection.has(note.id) || state.onlyTouched) state.select([note.id]);
    return new MoveNotes(hand, { note, row });
  }

  private onLane(hit: Hit, point: Point): Gesture {
    const { note, row } = hit;
    // A double click is one click: what the first did the second does not undo.
    const cell = `${row.pitch}@${patternCell(hit)}`;
    const twice = point.again === true && cell === this.clicked;
    this.clicked = twice ? null : cell;
    if (!note) return new Paint(this.hand, point.alt ? "ghost" : "plain", twice);
    const { selection, onlyTouched } = this.hand.state;
    const wasSelected = selection.has(note.id) && !onlyTouched;
    this.keepOrSelect(note);
    return new Press(this.hand, { note, row }, twice, wasSelected);
  }

  private onPitches(hit: Hit, point: Point): Gesture | null {
    const { hand, host } = this;
    const { note, row } = hit;
    const { tool } = hand.state;
    if (tool === "cut") {
      if (note) this.keepOrSelect(note);
      return new Cut(hand);
    }
    if (tool === "freehand") return new Freehand(hand);
    if (!note) return new Draw(hand, hit);
    this.keepOrSelect(note);
    host.hear(note.pitch, note.velocity);
    if (hit.zone === "end" || hit.zone === "begin") return new Lengthen(hand, hit.zone);
    return point.alt ? new Velocity(hand) : new MoveNotes(hand, { note, row });
  }

  /** Leaves the selection where the note is in it; else takes the note alone, a hit only as touched. */
  private keepOrSelect(note: Note): void {
    const { state } = this.hand;
    const touch = trackOf(state.project, state.track).kind === "drums";
    if (!state.selection.has(note.id)) state.select([note.id], { touch });
  }

  move(point: Point): void {
    this.pointer = point;
    if (!this.gesture) return;
    this.atEdge(point);
    const other = this.gesture.move(point);
    if (!other) return;
    this.gesture = other;
    this.move(point);
  }

  /** A melodic track's rows scroll while a note is held over or under them. */
  private atEdge(point: Point): void {
    const block = this.hand.block();
    if (!this.gesture?.scrolls || !block?.open || block.track.kind !== "melody") return;
    const rows = block.rows.filter((row) => row.pitch !== TAPS && !row.between);
    const [first, last] = [rows[0], rows[rows.length - 1]];
    if (!first || !last) return;
    const over = point.y < first.y;
    const under = point.y > last.y + last.height;
    this.host.scrollRows(over ? 1 : under ? -1 : 0);
  }

  /** Does again what the pointer did last, after the rows have moved under it. */
  again(): void {
    this.move(this.pointer);
  }

  up(): void {
    const { gesture, hand, pointer } = this;
    this.end();
    if (!gesture) return;
    const { from } = hand;
    // What was dragged was no click, so the next is no second one.
    if (Math.hypot(pointer.x - from.x, pointer.y - from.y) >= START_MOVE) this.clicked = null;
    gesture.up?.(pointer === from);
    if (gesture.touches) this.touchSelected();
  }

  /** The next note takes over from the first that is selected. */
  private touchSelected(): void {
    const { state } = this.hand;
    const note = this.hand.firstSelected();
    if (note) state.setTouched(touchedBy(note, gridOfNote(state, note)));
  }

  private end(): void {
    this.gesture = null;
    this.host.scrollRows(0);
    this.host.readout(null);
    this.host.showBox(null);
  }

  /** Velocity of the hit under a point, louder or softer by some steps, with alt its chance; false where none is. */
  wheel(point: Point, steps: number): boolean {
    const { store } = this.host;
    const hit = this.hand.hit(point);
    if (!hit?.note || hit.zone !== "stone") return false;
    const beside = this.goesOn(hit, NOWHERE);
    store.getState().setTrack(hit.block.track.id, hit.row.pitch, { keepSelection: true, beside });
    if (this.touchesMade(hit.note)) return true;
    this.keepOrSelect(hit.note);
    (point.alt ? wheelChance : wheelVelocity)(store, hit.note, steps);
    this.touchSelected();
    return true;
  }

  /** Ends the gesture and takes back what it did, the history of it too. */
  cancel(): void {
    if (!this.gesture) return;
    this.clicked = null;
    this.end();
    this.hand.edit.cancel();
  }
}

/** Cell under the pointer as a tick of the pattern (a repeat is not its first loop). */
function patternCell(hit: Hit): number {
  const loop = Math.max(0, Math.floor(hit.tick / hit.row.period));
  return loop * hit.row.period + cellOf(hit.row, hit.tick);
}
