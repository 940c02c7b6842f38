import {
  edits,
  gridTicks,
  mergeProjects,
  partOf,
  trackOf,
  degreeOf,
  type Note,
  type Project,
} from "@/core";
import { nanoid } from "nanoid";
import { place, type SessionStore } from "../session/store";
import {
  cellOf,
  gridOfNote,
  movedByDegrees,
  movedByLines,
  newNote,
  noteInCell,
  ownIds,
  touch,
} from "./editing";
import { hitTest, notesInBox, type Hit } from "./hit";
import { GHOST } from "./lane-edits";
import { blockAt, type Row, type SheetLayout } from "./layout";
import type { View } from "./view";

/** A pointer over the sheet: `x` in view, `y` in the sheet's content, both in CSS pixels. */
export interface Point {
  x: number;
  y: number;
  shift: boolean;
  alt: boolean;
  toggle: boolean;
  erase: boolean;
}

interface Host {
  store: SessionStore;
  layout(): SheetLayout;
  view(): View;
  /** Sounds a note that was just touched, unless the loop is playing. */
  hear(pitch: number, velocity: number): void;
  showBox(box: Box | null): void;
}

export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

type Mode =
  | { kind: "paint"; ghost: boolean }
  | { kind: "erase" }
  | { kind: "press"; note: Note; row: Row }
  | { kind: "velocity" }
  | { kind: "move"; note: Note; row: Row }
  | { kind: "lengthen"; note: Note }
  | { kind: "draw"; note: Note; row: Row }
  | { kind: "box"; before: ReadonlySet<string> };

const START_MOVE = 6;
const START_VELOCITY = 4;

/** Turns pointer movements into edits. One press to release is one undo step. */
export class Gestures {
  private mode: Mode | null = null;
  private from: Point = { x: 0, y: 0, shift: false, alt: false, toggle: false, erase: false };
  private group = "";
  private base: Project;
  private produced: Project;

  constructor(private readonly host: Host) {
    this.base = this.produced = host.store.getState().project;
  }

  get active(): boolean {
    return this.mode !== null;
  }

  down(point: Point): void {
    const { store } = this.host;
    this.from = point;
    this.group = `gesture-${nanoid(6)}`;
    this.base = this.produced = store.getState().project;
    const hit = hitTest(this.host.layout(), this.host.view(), point.x, point.y);
    if (!hit) {
      const block = blockAt(this.host.layout(), point.y);
      if (block && !block.open) store.getState().takeTrack(block.track.id);
      else store.setState({ selection: new Set() });
      return;
    }
    store.getState().takeTrack(hit.block.track.id, hit.row.pitch);
    store.setState({ caret: { pitch: hit.row.pitch, tick: Math.max(0, this.patternCell(hit)) } });
    this.mode = this.begin(hit, point);
    if (this.mode?.kind === "erase" || this.mode?.kind === "paint") this.move(point);
  }

  /** Cell under the pointer as a tick of the pattern (a repeat is not its first round). */
  private patternCell(hit: Hit): number {
    const loop = Math.max(0, Math.floor(hit.tick / hit.row.period));
    return loop * hit.row.period + cellOf(hit.row, hit.tick);
  }

  private begin(hit: Hit, point: Point): Mode | null {
    const { store } = this.host;
    const state = store.getState();
    const { note, row } = hit;
    if (point.erase || state.erasing) return { kind: "erase" };
    if (point.shift) return { kind: "box", before: point.toggle ? state.selection : new Set() };
    if (point.toggle && note) {
      const selection = new Set(state.selection);
      if (!selection.delete(note.id)) selection.add(note.id);
      store.setState({ selection });
      return null;
    }
    if (hit.block.track.kind === "drums") {
      if (!note) return { kind: "paint", ghost: point.alt };
      this.keepOrSelect(note);
      return { kind: "press", note, row };
    }
    if (note) {
      this.keepOrSelect(note);
      this.host.hear(note.pitch, note.velocity);
      if (hit.zone === "end") return { kind: "lengthen", note };
      if (point.alt) return { kind: "velocity" };
      return { kind: "move", note, row };
    }
    const fresh = newNote(store.getState(), row, cellOf(row, hit.tick));
    this.apply("Draw a note", (p) => edits.addNotes(p, place(state), [fresh]));
    store.setState({ selection: new Set([fresh.id]) });
    this.host.hear(fresh.pitch, fresh.velocity);
    return { kind: "draw", note: fresh, row };
  }

  private keepOrSelect(note: Note): void {
    const { store } = this.host;
    if (!store.getState().selection.has(note.id)) store.setState({ selection: new Set([note.id]) });
  }

  move(point: Point): void {
    const dx = point.x - this.from.x;
    const dy = point.y - this.from.y;
    switch (this.mode?.kind) {
      case "paint":
        this.paint(point, this.mode.ghost);
        break;
      case "erase":
        this.erase(point);
        break;
      case "press":
        if (Math.abs(dy) >= START_VELOCITY && Math.abs(dy) > Math.abs(dx))
          this.mode = { kind: "velocity" };
        else if (Math.abs(dx) >= START_MOVE) this.mode = { ...this.mode, kind: "move" };
        else return;
        this.move(point);
        break;
      case "velocity":
        this.velocity(dy);
        break;
      case "move":
        this.moveNotes(point, dx, this.mode);
        break;
      case "lengthen":
        this.lengthen(dx, point.alt);
        break;
      case "draw":
        this.drawLength(dx, point, this.mode);
        break;
      case "box":
        this.selectBox(point, this.mode.before);
        break;
    }
  }

  up(): void {
    const { store } = this.host;
    const { mode } = this;
    this.mode = null;
    this.host.showBox(null);
    if (!mode) return;
    const state = store.getState();
    if (mode.kind === "press") {
      // A click on a hit takes it away.
      const ids = ownIds([mode.note.id]);
      this.apply("Take away", (p) => edits.removeNotes(p, place(state), ids));
      store.setState({ selection: new Set() });
      return;
    }
    if (mode.kind === "erase" || mode.kind === "box") return;
    // A ghost is the exception: it must not make the next hits soft too.
    if (mode.kind === "paint" && mode.ghost) return;
    const note = this.firstSelected();
    if (note) touch(store, note, { grid: gridOfNote(store.getState(), note) });
  }

  /** Velocity of the hit under a point, louder or softer by some steps; false where none is. */
  wheel(point: Point, steps: number): boolean {
    const { store } = this.host;
    const hit = hitTest(this.host.layout(), this.host.view(), point.x, point.y);
    if (!hit?.note || hit.zone !== "stone") return false;
    store.getState().takeTrack(hit.block.track.id, hit.row.pitch);
    const { note } = hit;
    if (!store.getState().selection.has(note.id)) store.setState({ selection: new Set([note.id]) });
    const state = store.getState();
    const change = (n: Note) => ({
      ...n,
      velocity: Math.min(127, Math.max(1, n.velocity + steps)),
    });
    const ids = ownIds(state.selection);
    state.edit(
      "Velocity",
      (p) => edits.changeNotes(p, place(state), ids, change),
      `wheel-${note.id}`,
    );
    const now = this.firstSelected();
    if (now) touch(store, now, { grid: gridOfNote(store.getState(), now) });
    return true;
  }

  cancel(): void {
    if (!this.mode) return;
    this.mode = null;
    this.host.showBox(null);
    this.apply("Cancelled", (p) => p);
  }

  /** The first selected note as it is now. */
  private firstSelected(): Note | undefined {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    return partOf(state.project, place(state)).notes.find((n) => ids.has(n.id));
  }

  /**
   * Makes the project what `change` makes of its state at the start of the gesture. What came in
   * meanwhile from another tab is kept.
   */
  private apply(label: string, change: (project: Project) => Project): void {
    const { store } = this.host;
    const now = store.getState().project;
    if (now !== this.produced) this.base = mergeProjects(this.produced, this.base, now);
    const next = change(this.base);
    store.getState().edit(label, () => next, this.group);
    this.produced = store.getState().project;
  }

  private paint(point: Point, ghost: boolean): void {
    const { store } = this.host;
    const hit = hitTest(this.host.layout(), this.host.view(), point.x, point.y);
    const state = store.getState();
    if (!hit || hit.block.track.id !== state.track || hit.tick < -60) return;
    if (hit.tick >= this.host.layout().total) return;
    const { notes } = partOf(state.project, place(state));
    if (noteInCell(notes, hit.row, hit.tick)) return;
    const plain = newNote(state, hit.row, cellOf(hit.row, hit.tick));
    const note = ghost ? { ...plain, velocity: GHOST } : plain;
    state.edit("Paint hits", (p) => edits.addNotes(p, place(state), [note]), this.group);
    this.produced = store.getState().project;
    store.setState({ selection: new Set([note.id]) });
    this.host.hear(note.pitch, note.velocity);
  }

  private erase(point: Point): void {
    const { store } = this.host;
    const hit = hitTest(this.host.layout(), this.host.view(), point.x, point.y);
    const state = store.getState();
    if (!hit?.note || hit.block.track.id !== state.track) return;
    const ids = ownIds([hit.note.id]);
    state.edit("Erase", (p) => edits.removeNotes(p, place(state), ids), this.group);
    this.produced = store.getState().project;
    store.setState({ selection: new Set() });
  }

  private velocity(dy: number): void {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    const by = -Math.round(dy);
    const change = (note: Note) => ({
      ...note,
      velocity: Math.min(127, Math.max(1, note.velocity + by)),
    });
    this.apply("Velocity", (p) => edits.changeNotes(p, place(state), ids, change));
  }

  private moveNotes(point: Point, dx: number, mode: { note: Note; row: Row }): void {
    const state = this.host.store.getState();
    const view = this.host.view();
    const ids = ownIds(state.selection);
    const ticks = dx / view.zoom;
    const cell = gridTicks(mode.row.grid);
    const free = point.alt || mode.row.grid.kind === "off";
    const target = hitTest(this.host.layout(), view, Math.max(0, point.x), point.y);
    const melody = trackOf(state.project, state.track).kind === "melody";
    const to = melody && target?.block.track.id === state.track ? target.row : null;
    const { key } = state.project;
    const bothIn = to?.inKey && mode.row.inKey;
    const degrees = bothIn
      ? degreeOf(key, to.pitch).degree - degreeOf(key, mode.row.pitch).degree
      : 0;
    const semitones = to && !bothIn ? to.pitch - mode.row.pitch : 0;
    const change = (note: Note) => {
      const moved = free
        ? { ...note, start: Math.max(-480, Math.round(note.start + ticks)) }
        : movedByLines(note, Math.round(ticks / cell), gridOfNote(state, note));
      const pitch = degrees
        ? movedByDegrees(state.project, note.pitch, degrees)
        : Math.min(127, Math.max(0, note.pitch + semitones));
      return { ...moved, pitch };
    };
    const before = this.firstSelected()?.pitch;
    this.apply("Move", (p) => edits.changeNotes(p, place(state), ids, change));
    const after = this.firstSelected();
    if (melody && after && after.pitch !== before) this.host.hear(after.pitch, after.velocity);
  }

  private lengthen(dx: number, free: boolean): void {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    const by = dx / this.host.view().zoom;
    const change = (note: Note) => {
      const cell = free ? 1 : gridTicks(gridOfNote(state, note));
      return { ...note, length: Math.max(1, note.length + Math.round(by / cell) * cell) };
    };
    this.apply("Length", (p) => edits.changeNotes(p, place(state), ids, change));
  }

  /** Drawing to the right makes the new note longer. */
  private drawLength(dx: number, point: Point, { note, row }: { note: Note; row: Row }): void {
    if (Math.abs(dx) < START_MOVE) return;
    const state = this.host.store.getState();
    const cell = point.alt ? 1 : gridTicks(row.grid);
    const length = Math.max(cell, Math.round(dx / this.host.view().zoom / cell) * cell);
    this.apply("Draw a note", (p) => edits.addNotes(p, place(state), [{ ...note, length }]));
  }

  private selectBox(point: Point, before: ReadonlySet<string>): void {
    const { store } = this.host;
    const box = { x0: this.from.x, y0: this.from.y, x1: point.x, y1: point.y };
    this.host.showBox(box);
    const block = this.host.layout().blocks.find((b) => b.track.id === store.getState().track);
    if (!block) return;
    const found = notesInBox(block, this.host.view(), box);
    store.setState({ selection: new Set([...before, ...found]) });
  }
}
