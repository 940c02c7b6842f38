import * as edits from "@/core/edits";
import {
  MAX_EARLY,
  formatLength,
  formatPosition,
  gridTicks,
  lineAt,
  nearestLine,
} from "@/core/time";
import { degreeOf, padName, pitchName } from "@/core/pitch";
import {
  type Note,
  type Project,
  changePart,
  partOf,
  patternOf,
  sortNotes,
  trackOf,
  withChance,
} from "@/core/score";
import { TRANSFORMS, contextOf } from "@/core/transforms";
import { mergeProjects } from "@/core/stored";
import { nanoid } from "nanoid";
import {
  GHOST,
  farthest,
  frontMoved,
  gridOfNote,
  louder,
  newNote,
  ownIds,
  pitchAllowed,
  pitchByDegrees,
  startAllowed,
  startByLines,
  touchedBy,
  velocityAllowed,
} from "../commands/notes/notes";
import { placeEntry } from "../commands/perform/entry";
import { revealPitch } from "../commands/notes/rows";
import { placesOfStep } from "../commands/tracks/scopes";
import { cutAt } from "../commands/notes/selected";
import { cellOf, noteInCell } from "../geometry/cells";
import { hitTest, notesInBox, outsideAt, type Hit } from "../geometry/hit";
import {
  TAPS,
  blockAt,
  rowNearest,
  type Block,
  type Row,
  type SheetLayout,
} from "../geometry/layout";
import { rateHandleAt, rateLine, ratePulled, type RateHandle } from "../geometry/rate-line";
import { handleAt, selectedSpan } from "../geometry/span";
import { tickOf, type View } from "../geometry/view";
import { currentPart, currentPlace, currentMetre } from "../state/current";
import type { Outcome, Session } from "../state/editing";
import type { SessionStore } from "../state/store";

/** A pointer over the sheet: `x` in view, `y` in the sheet's content, both in CSS pixels. */
export interface Point {
  x: number;
  y: number;
  shift: boolean;
  alt: boolean;
  toggle: boolean;
  erase: boolean;
  /** Whether it was pressed just before at this very place: the second of a double click. */
  again?: boolean;
}

interface Host {
  store: SessionStore;
  layout(): SheetLayout;
  view(): View;
  /** Scrolls the rows of the current track, up where positive; told 0 when that ends. */
  scrollRows(way: -1 | 0 | 1): void;
  /** Shows a text beside the pointer while something is dragged; null for none. */
  readout(text: string | null): void;
  /** Sounds a note that was just touched, unless the loop is playing. */
  hear(pitch: number, velocity: number): void;
  showBox(box: Box | null): void;
}

/** A box on the sheet, from where it was begun to where the pointer is. */
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

type Mode =
  | { kind: "paint"; ghost: boolean; waits: boolean }
  | { kind: "erase" }
  | { kind: "press"; note: Note; row: Row; twice: boolean }
  | { kind: "velocity" }
  | { kind: "move"; note: Note; row: Row }
  | { kind: "lengthen"; note: Note; end: "begin" | "end" }
  | { kind: "freehand"; row: Row; stroke: Note[] }
  | { kind: "stretch"; side: "from" | "to"; from: number; to: number; row: Row }
  | { kind: "rate"; handle: RateHandle }
  | { kind: "draw"; note: Note; row: Row }
  | { kind: "box"; before: ReadonlySet<string>; take: boolean };

const START_MOVE = 6;
const START_VELOCITY = 4;
/** A stroke is followed in steps of so many pixels: less than the reach of a hit. */
const STROKE_STEP = 3;

/** Turns pointer movements into edits. One press to release is one undo step. */
export class Gestures {
  private mode: Mode | null = null;
  private from: Point = { x: 0, y: 0, shift: false, alt: false, toggle: false, erase: false };
  /** Up to where a stroke was followed, and where the pointer is. */
  private last: Point = this.from;
  private pointer: Point = this.from;
  private group = "";
  /** The step of a kit that was pressed last. */
  private clicked: string | null = null;
  private base: Project;
  private produced: Project;

  constructor(private readonly host: Host) {
    this.base = this.produced = host.store.getState().project;
  }

  get active(): boolean {
    return this.mode !== null;
  }

  /** Whether each place between two frames counts. Freehand is drawn as seen: a fast stroke leaves gaps. */
  get wantsAll(): boolean {
    return this.mode?.kind !== "freehand";
  }

  down(point: Point): void {
    const { store } = this.host;
    this.from = this.last = this.pointer = point;
    this.group = `gesture-${nanoid(6)}`;
    this.base = this.produced = store.getState().project;
    const rate = this.rateLine();
    const handle = rate && rateHandleAt(rate, point);
    if (handle && !point.erase) {
      this.mode = { kind: "rate", handle };
      return;
    }
    const span = selectedSpan(store.getState(), this.host.layout());
    const side = span && handleAt(span, this.host.view(), point);
    if (span && side) {
      this.mode = { kind: "stretch", side, from: span.from, to: span.to, row: span.row };
      return;
    }
    const hit = this.hit(point);
    if (!hit) {
      const block = blockAt(this.host.layout(), point.y);
      const marked = block && outsideAt(block, this.host.view(), point.x, point.y);
      if (marked) {
        store.getState().setTrack(block.track.id, marked.pitch);
        revealPitch(store, marked.pitch);
      } else if (block && !block.open) store.getState().setTrack(block.track.id);
      else store.getState().select([]);
      return;
    }
    store.getState().setTrack(hit.block.track.id, hit.row.pitch, true);
    if (store.getState().track !== hit.block.track.id) return;
    const caret = { pitch: hit.row.pitch, tick: Math.max(0, this.patternCell(hit)) };
    const { entry } = store.getState();
    if (entry && entry.mode !== "play") {
      // While steps are entered, a click says where they go on.
      placeEntry(store, caret);
      return;
    }
    store.getState().setCaret(caret);
    this.mode = this.begin(hit, point);
    const { kind } = this.mode ?? {};
    if (kind === "erase" || kind === "paint" || kind === "freehand") this.move(point);
  }

  private hit({ x, y }: Point): Hit | null {
    const { selection } = this.host.store.getState();
    return hitTest(this.host.layout(), this.host.view(), x, y, selection);
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
    if (point.shift) {
      const keeps = point.toggle || point.alt;
      return { kind: "box", before: keeps ? state.selection : new Set(), take: point.alt };
    }
    if (point.toggle && note) {
      const selection = new Set(state.selection);
      if (!selection.delete(note.id)) selection.add(note.id);
      state.select(selection);
      return null;
    }
    if (state.tool === "select") {
      if (!note) return { kind: "box", before: new Set(), take: false };
      if (!state.selection.has(note.id) || state.onlyTouched) state.select([note.id]);
      return { kind: "move", note, row };
    }
    if (hit.block.track.kind === "drums") {
      // A double click is one click: what the first did the second does not undo.
      const cell = `${row.pitch}@${this.patternCell(hit)}`;
      const twice = point.again === true && cell === this.clicked;
      this.clicked = twice ? null : cell;
      if (!note) return { kind: "paint", ghost: point.alt, waits: twice };
      this.keepOrSelect(note);
      return { kind: "press", note, row, twice };
    }
    if (state.tool === "cut") {
      if (note) this.cut(hit, note, point.alt);
      return null;
    }
    if (state.tool === "freehand") return { kind: "freehand", row, stroke: [] };
    if (note) {
      this.keepOrSelect(note);
      this.host.hear(note.pitch, note.velocity);
      if (hit.zone === "end" || hit.zone === "begin") {
        return { kind: "lengthen", note, end: hit.zone };
      }
      if (point.alt) return { kind: "velocity" };
      return { kind: "move", note, row };
    }
    const fresh = newNote(store.getState(), row, cellOf(row, hit.tick));
    this.apply("Draw note", (p) => edits.addNotes(p, currentPlace(state), [fresh]), {
      selection: [fresh.id],
      touch: true,
    });
    this.host.hear(fresh.pitch, fresh.velocity);
    return { kind: "draw", note: fresh, row };
  }

  /** Leaves the selection where the note is in it; else takes the note alone, a hit only as touched. */
  private keepOrSelect(note: Note): void {
    const state = this.host.store.getState();
    const touch = trackOf(state.project, state.track).kind === "drums";
    if (!state.selection.has(note.id)) state.select([note.id], { touch });
  }

  move(point: Point): void {
    this.pointer = point;
    this.atEdge(point);
    const dx = point.x - this.from.x;
    const dy = point.y - this.from.y;
    switch (this.mode?.kind) {
      case "paint": {
        const { ghost } = this.mode;
        // After a first click the second puts nothing, but a stroke from there does.
        if (this.mode.waits && Math.max(Math.abs(dx), Math.abs(dy)) < START_MOVE) return;
        this.mode.waits = false;
        this.alongStroke(point, (at) => this.paint(at, ghost));
        break;
      }
      case "erase":
        this.alongStroke(point, (at) => this.erase(at));
        break;
      case "press":
        // Up and down is velocity; with alt, as sideways, the hit itself is moved.
        if (Math.abs(dy) >= START_VELOCITY && Math.abs(dy) > Math.abs(dx) && !point.alt)
          this.mode = { kind: "velocity" };
        else if (Math.max(Math.abs(dx), point.alt ? Math.abs(dy) : 0) >= START_MOVE)
          this.mode = { kind: "move", note: this.mode.note, row: this.mode.row };
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
        this.lengthen(dx, point.alt, this.mode.end);
        break;
      case "freehand":
        this.freehand(point, this.mode);
        break;
      case "stretch":
        this.stretch(point, this.mode);
        break;
      case "rate":
        this.pullRate(point, this.mode.handle);
        break;
      case "draw":
        this.drawLength(dx, point, this.mode);
        break;
      case "box":
        this.selectBox(point, this.mode);
        break;
    }
  }

  /** The track that is worked on, as it lies on the sheet. */
  private block(): Block | undefined {
    const { track } = this.host.store.getState();
    return this.host.layout().blocks.find((b) => b.track.id === track);
  }

  /** A melodic track's rows scroll while a note is held over or under them. */
  private atEdge(point: Point): void {
    const block = this.block();
    if (this.mode?.kind !== "move" || !block?.open || block.track.kind !== "melody") return;
    const rows = block.rows.filter((row) => row.pitch !== TAPS && !row.between);
    const [first, last] = [rows[0], rows[rows.length - 1]];
    if (!first || !last) return;
    const over = point.y < first.y;
    const under = point.y > last.y + last.height;
    this.host.scrollRows(over ? 1 : under ? -1 : 0);
  }

  /** Does again what the pointer did last, after the rows have moved under it. */
  again(): void {
    if (this.mode) this.move(this.pointer);
  }

  up(): void {
    const { store } = this.host;
    const { mode } = this;
    this.mode = null;
    this.host.scrollRows(0);
    this.host.readout(null);
    this.host.showBox(null);
    if (!mode) return;
    const { pointer, from } = this;
    // What was dragged was no click, so the next is no second one.
    if (Math.hypot(pointer.x - from.x, pointer.y - from.y) >= START_MOVE) this.clicked = null;
    const state = store.getState();
    if (mode.kind === "press") {
      if (mode.twice) return;
      // A click on a hit deletes it.
      const ids = ownIds([mode.note.id]);
      this.apply("Delete hit", (p) => edits.deleteNotes(p, currentPlace(state), ids), {
        selection: [],
      });
      return;
    }
    if (mode.kind === "move" && this.pointer === this.from) {
      // A click, not a drag: of several selected notes it is this one that is meant.
      state.select([mode.note.id]);
    }
    if (["erase", "box", "stretch", "rate"].includes(mode.kind)) return;
    // A ghost is the exception: it must not make the next hits soft too.
    if (mode.kind === "paint" && (mode.ghost || mode.waits)) return;
    const note = this.firstSelected();
    if (note) state.setTouched(touchedBy(note, gridOfNote(state, note)));
  }

  /** Velocity of the hit under a point, louder or softer by some steps; false where none is. */
  wheel(point: Point, steps: number): boolean {
    const { store } = this.host;
    const hit = this.hit(point);
    if (!hit?.note || hit.zone !== "stone") return false;
    store.getState().setTrack(hit.block.track.id, hit.row.pitch, true);
    const { note } = hit;
    this.keepOrSelect(note);
    const state = store.getState();
    // With alt it is the chance, by as much as the touched one has.
    const chance = (note.chance ?? 100) + 5 * steps;
    const change = (n: Note) => (point.alt ? withChance(n, chance) : louder(n, steps));
    const ids = ownIds(state.selection);
    state.edit(
      point.alt ? "Chance" : "Velocity",
      (p) => edits.changeNotes(p, currentPlace(state), ids, change),
      {
        group: `wheel-${point.alt ? "chance" : "velocity"}-${note.id}`,
      },
    );
    const now = this.firstSelected();
    if (now) state.setTouched(touchedBy(now, gridOfNote(state, now)));
    return true;
  }

  /** Ends the gesture and takes back what it did, the history of it too. */
  cancel(): void {
    if (!this.mode) return;
    this.clicked = null;
    this.mode = null;
    this.host.scrollRows(0);
    this.host.readout(null);
    this.host.showBox(null);
    this.apply("Cancelled", (p) => p, { selection: [], said: "Cancelled" });
  }

  /** A note as it is now. */
  private now({ id }: Note): Note | undefined {
    const [own] = ownIds([id]);
    return currentPart(this.host.store.getState()).notes.find((note) => note.id === own);
  }

  /** The first selected note as it is now. */
  private firstSelected(): Note | undefined {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    return currentPart(state).notes.find((n) => ids.has(n.id));
  }

  /**
   * Makes the project what `change` makes of its state at the start of the gesture. What came in
   * meanwhile from another tab is kept.
   */
  private apply(label: string, change: (project: Project) => Project, outcome: Outcome = {}): void {
    const { store } = this.host;
    const now = store.getState().project;
    if (now !== this.produced) this.base = mergeProjects(this.produced, this.base, now);
    const next = change(this.base);
    store.getState().edit(label, () => next, { ...outcome, group: this.group });
    this.produced = store.getState().project;
  }

  /** Everything a stroke passed since it was seen last: a fast one leaves no gaps. */
  private alongStroke(point: Point, each: (at: Point) => void): void {
    const from = this.last;
    this.last = point;
    const steps = Math.ceil(Math.hypot(point.x - from.x, point.y - from.y) / STROKE_STEP);
    for (let i = 1; i < steps; i++) {
      const share = i / steps;
      const x = from.x + share * (point.x - from.x);
      each({ ...point, x, y: from.y + share * (point.y - from.y) });
    }
    each(point);
  }

  private paint(point: Point, ghost: boolean): void {
    const { store } = this.host;
    const hit = this.hit(point);
    const state = store.getState();
    if (!hit || hit.block.track.id !== state.track || hit.tick < -60) return;
    if (hit.tick >= this.host.layout().total) return;
    const { notes } = currentPart(state);
    if (noteInCell(notes, hit.row, hit.tick)) return;
    const plain = newNote(state, hit.row, cellOf(hit.row, hit.tick));
    const note = ghost ? { ...plain, velocity: GHOST } : plain;
    state.edit("Paint hits", (p) => edits.addNotes(p, currentPlace(state), [note]), {
      group: this.group,
      selection: [note.id],
      touch: true,
    });
    this.produced = store.getState().project;
    this.host.hear(note.pitch, note.velocity);
  }

  private erase(point: Point): void {
    const { store } = this.host;
    const hit = this.hit(point);
    const state = store.getState();
    if (!hit?.note || hit.block.track.id !== state.track) return;
    const ids = ownIds([hit.note.id]);
    state.edit("Erase", (p) => edits.deleteNotes(p, currentPlace(state), ids), {
      group: this.group,
      selection: [],
    });
    this.produced = store.getState().project;
  }

  private velocity(dy: number): void {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    const own = partOf(this.base, currentPlace(state)).notes.filter((note) => ids.has(note.id));
    const by = farthest(-Math.round(dy), (step) =>
      own.every((note) => velocityAllowed(note.velocity + step)),
    );
    const change = (note: Note) => louder(note, by);
    this.apply("Velocity", (p) => edits.changeNotes(p, currentPlace(state), ids, change));
    const now = this.firstSelected();
    if (now) this.host.readout(`velocity ${now.velocity}`);
  }

  private moveNotes(point: Point, dx: number, mode: { note: Note; row: Row }): void {
    const state = this.host.store.getState();
    const view = this.host.view();
    const ids = ownIds(state.selection);
    const ticks = dx / view.zoom;
    const cell = gridTicks(mode.row.grid);
    // On a kit alt means the lane.
    const melody = trackOf(state.project, state.track).kind === "melody";
    const free = (point.alt && melody) || mode.row.grid.kind === "off";
    const block = this.block();
    // Above and below the rows the first and the last are meant.
    const to = block ? rowNearest(block, point.y) : null;
    const { key } = state.project;
    // A tapped note that is dragged onto a pitch takes it.
    const fromTaps = mode.row.pitch === TAPS;
    const onto = melody && to && to.pitch !== TAPS ? to : null;
    const bothIn = !fromTaps && state.inScale && onto?.inKey && mode.row.inKey;
    const degrees = bothIn
      ? degreeOf(key, onto.pitch).degree - degreeOf(key, mode.row.pitch).degree
      : 0;
    const semitones = onto && !bothIn && !fromTaps ? onto.pitch - mode.row.pitch : 0;
    // What was selected when the gesture began goes as one and stops at the edges as one.
    const own = partOf(this.base, currentPlace(state)).notes.filter((note) => ids.has(note.id));
    const mayStart = startAllowed(state);
    const startOf = (note: Note, by: number) =>
      free ? note.start + by : startByLines(note, by, gridOfNote(state, note));
    const along = farthest(Math.round(free ? ticks : ticks / cell), (by) =>
      own.every((note) => mayStart(note, startOf(note, by))),
    );
    const pitchOf = (note: Note, by: number) =>
      degrees ? pitchByDegrees(state.project, note.pitch, by) : note.pitch + by;
    const up = farthest(degrees || semitones, (by) =>
      own.every((note) => pitchAllowed(pitchOf(note, by))),
    );
    // Hits of a kit go from lane to lane, as many lanes as the one that is dragged.
    const lanes = melody || !block ? [] : block.rows.map((row) => row.pitch);
    const laneOf = (note: Note, by: number) => lanes[lanes.indexOf(note.pitch) + by];
    const across = melody || !to ? 0 : lanes.indexOf(to.pitch) - lanes.indexOf(mode.row.pitch);
    const down = farthest(across, (by) => own.every((note) => laneOf(note, by) !== undefined));
    const change = (note: Note) => {
      const moved = { ...note, start: along === 0 ? note.start : startOf(note, along) };
      if (!melody) return { ...moved, pitch: laneOf(note, down) ?? note.pitch };
      if (note.unpitched && fromTaps && onto) {
        const { unpitched: _, ...rest } = moved;
        return { ...rest, pitch: onto.pitch };
      }
      return { ...moved, pitch: pitchOf(note, up) };
    };
    const before = this.firstSelected()?.pitch;
    this.apply("Move", (p) => edits.changeNotes(p, currentPlace(state), ids, change));
    const after = this.firstSelected();
    if (!after) return;
    if (after.pitch !== before) this.host.hear(after.pitch, after.velocity);
    this.host.readout(movedText(state, mode.note, this.now(mode.note) ?? after, melody));
  }

  /** Cuts a note, or all selected ones with it, at the line nearest to the pointer, or just there. */
  private cut(hit: Hit, note: Note, free: boolean): void {
    const { store } = this.host;
    this.keepOrSelect(note);
    const round = Math.max(0, Math.floor(hit.tick / hit.row.period)) * hit.row.period;
    const inLoop = hit.tick - round;
    const line = lineAt(hit.row.grid, nearestLine(hit.row.grid, inLoop));
    cutAt(store, ownIds(store.getState().selection), Math.round(free ? inLoop : line));
  }

  private freehand(point: Point, mode: { stroke: Note[] }): void {
    const state = this.host.store.getState();
    const hit = this.hit(point);
    if (!hit || hit.block.track.id !== state.track) return;
    if (hit.tick < 0 || hit.tick >= this.host.layout().total) return;
    const cell = cellOf(hit.row, hit.tick);
    const fresh = newNote(state, hit.row, cell);
    const { stroke } = mode;
    const same = stroke.findIndex((note) => note.start === cell);
    if (same >= 0) {
      if (stroke[same]!.pitch === fresh.pitch) return;
      stroke[same] = { ...fresh, id: stroke[same]!.id };
    } else stroke.push(fresh);
    stroke.sort((a, b) => a.start - b.start);
    // One line: each note ends where the next begins.
    const line = stroke.map((note, i) => {
      const next = stroke[i + 1]?.start ?? Infinity;
      return { ...note, length: Math.max(1, Math.min(note.length, next - note.start)) };
    });
    this.apply("Freehand", (p) => edits.addNotes(p, currentPlace(state), line), {
      selection: line.map((note) => note.id),
      touch: true,
    });
    this.host.hear(fresh.pitch, fresh.velocity);
  }

  /** The line of a stutter's rate over the current track, if its chain has one. */
  private rateLine() {
    return rateLine(this.host.store.getState().project, this.block(), this.host.view());
  }

  /** Pulls an end of a stutter's rate, or its curve, in every part that has the card. */
  private pullRate(point: Point, handle: RateHandle): void {
    const line = this.rateLine();
    if (!line) return;
    const { project } = this.host.store.getState();
    const params = ratePulled(line, handle, point.y, project.tempo);
    const { id } = line.step;
    this.apply("Stutter", (p) =>
      placesOfStep(p, id).reduce((all, at) => edits.changeStep(all, at, id, { params }), p),
    );
    const unit = params.unit === "ms" ? `${params[`${handle}Ms`]} ms` : `1/${params[handle]}`;
    this.host.readout(handle === "middle" ? `changes ${params.curve}` : unit);
  }

  /** Pulls one end of the selected notes' span; past the other end they are turned about. */
  private stretch(
    point: Point,
    { side, from, to, row }: { side: "from" | "to"; from: number; to: number; row: Row },
  ): void {
    const { store } = this.host;
    const state = store.getState();
    const ids = ownIds(state.selection);
    const pulled = tickOf(this.host.view(), point.x);
    const tick = point.alt ? pulled : lineAt(row.grid, nearestLine(row.grid, pulled));
    const width = to - from;
    const exact = (side === "to" ? tick - from : to - tick) / width;
    const factor = Math.sign(exact || 1) * Math.min(8, Math.max(0.01, Math.abs(exact)));
    // The transform keeps the front where it is; the end that is not pulled must stay instead.
    const wide = Math.abs(factor) * width;
    const shift = side === "to" ? (factor < 0 ? -wide : 0) : factor < 0 ? width : width - wide;
    let said = "";
    this.apply("Stretch", (p) =>
      changePart(p, currentPlace(state), (part) => {
        const pattern = patternOf(p, state.pattern);
        const context = { ...contextOf(p, trackOf(p, state.track), part, pattern), selection: ids };
        const done = TRANSFORMS.stretch!.apply(
          part.notes,
          { factor },
          { ...context, range: [from, to] },
        );
        said = `× ${factor.toFixed(2)}: ${done.effect.sentence}`;
        const moved = done.notes.map((note) =>
          ids.has(note.id)
            ? { ...note, start: Math.max(-MAX_EARLY, Math.round(note.start + shift)) }
            : note,
        );
        return { ...part, notes: sortNotes(moved) };
      }),
    );
    state.say(said);
    this.host.readout(`× ${factor.toFixed(2)}`);
  }

  private lengthen(dx: number, free: boolean, end: "begin" | "end"): void {
    const state = this.host.store.getState();
    const ids = ownIds(state.selection);
    const by = dx / this.host.view().zoom;
    const change = (note: Note) => {
      const cell = free ? 1 : gridTicks(gridOfNote(state, note));
      if (end === "begin") return frontMoved(note, Math.round(by / cell) * cell);
      return { ...note, length: Math.max(1, note.length + Math.round(by / cell) * cell) };
    };
    this.apply("Length", (p) => edits.changeNotes(p, currentPlace(state), ids, change));
    const now = this.firstSelected();
    if (now) this.host.readout(`length ${formatLength(now.length)}`);
  }

  /** Drawing to the right makes the new note longer. */
  private drawLength(dx: number, point: Point, { note, row }: { note: Note; row: Row }): void {
    if (Math.abs(dx) < START_MOVE) return;
    const state = this.host.store.getState();
    const cell = point.alt ? 1 : gridTicks(row.grid);
    const length = Math.max(cell, Math.round(dx / this.host.view().zoom / cell) * cell);
    this.apply("Draw note", (p) => edits.addNotes(p, currentPlace(state), [{ ...note, length }]));
    this.host.readout(`length ${formatLength(length)}`);
  }

  private selectBox(
    point: Point,
    { before, take }: { before: ReadonlySet<string>; take: boolean },
  ): void {
    const { store } = this.host;
    const box = { x0: this.from.x, y0: this.from.y, x1: point.x, y1: point.y };
    this.host.showBox(box);
    const block = this.block();
    if (!block) return;
    const found = notesInBox(block, this.host.view(), box);
    const gone = new Set(take ? found : []);
    const kept = take ? [...before].filter((id) => !gone.has(id)) : [...before, ...found];
    store.getState().select(kept);
  }
}

/** How far a note was moved and where it is: `+3 st · E♭3`, `1.3.1 · +1/16`. */
function movedText(
  { project, pattern }: Pick<Session, "project" | "pattern">,
  was: Note,
  is: Note,
  melody: boolean,
): string {
  const by = is.start - was.start;
  const up = is.pitch - was.pitch;
  const sign = (n: number) => (n > 0 ? "+" : "−");
  return [
    up !== 0 && (melody ? `${sign(up)}${Math.abs(up)} st` : padName(is.pitch)),
    up !== 0 && melody && pitchName(is.pitch, project.key),
    (by !== 0 || up === 0) && formatPosition(is.start, currentMetre({ project, pattern })),
    by !== 0 && `${sign(by)}${formatLength(Math.abs(by))}`,
  ]
    .filter(Boolean)
    .join(" · ");
}
