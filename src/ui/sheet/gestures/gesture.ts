import type { Note } from "@/core/score";
import type { GestureEdit } from "../../commands/notes/gesture";
import { ownIds } from "../../commands/notes/notes";
import { hitTest, type Hit } from "../../geometry/hit";
import type { Block, SheetLayout } from "../../geometry/layout";
import type { View } from "../../geometry/view";
import { currentPart } from "../../state/current";
import type { SessionStore } from "../../state/store";

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

/** A box on the sheet, from where it was begun to where the pointer is. */
export interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** The sheet that gestures are made on. */
export interface Host {
  store: SessionStore;
  layout(): SheetLayout;
  view(): View;
  /** Scrolls the rows of the current track, up where positive; told 0 when that ends. */
  scrollRows(direction: -1 | 0 | 1): void;
  /** Shows a text beside the pointer while something is dragged; null for none. */
  readout(text: string | null): void;
  /** Sounds a note that was just touched, unless the loop is playing. */
  hear(pitch: number, velocity: number): void;
  showBox(box: Box | null): void;
}

/** So many pixels away a press is a drag: sideways, and up or down. */
export const START_MOVE = 6;
export const START_VELOCITY = 4;

/** What one press to release does. */
export interface Gesture {
  /** Follows the pointer. Gives the gesture that it turned out to be, where that is another. */
  move(point: Point): Gesture | void;
  /** The pointer was lifted, without having moved where it was a click. */
  up?(click: boolean): void;
  /** Whether the next note takes over from what is selected when it ends. */
  readonly touches: boolean;
  /** It is drawn as seen: places between two frames do not count, so that a fast stroke leaves gaps. */
  readonly asSeen?: true;
  /** Rows scroll while it is held over or under them. */
  readonly scrolls?: true;
}

/** What a gesture works with: the sheet, where it began, and its edit. */
export class Hand {
  constructor(
    readonly host: Host,
    readonly from: Point,
    readonly edit: GestureEdit,
  ) {}

  get state() {
    return this.host.store.getState();
  }

  hit({ x, y }: Point): Hit | null {
    return hitTest(this.host.layout(), this.host.view(), { x, y }, this.state.selection);
  }

  /** What lies under a point, where that is of the current track. */
  hitHere(point: Point): Hit | null {
    const hit = this.hit(point);
    return hit?.block.track.id === this.state.track ? hit : null;
  }

  /** The track that is worked on, as it lies on the sheet. */
  block(): Block | undefined {
    return this.host.layout().blocks.find(({ track }) => track.id === this.state.track);
  }

  /** Ids of the selected notes of the current part. */
  selected(): Set<string> {
    return ownIds(this.state.selection);
  }

  /** The first selected note as it is now. */
  firstSelected(): Note | undefined {
    const ids = this.selected();
    return currentPart(this.state).notes.find((note) => ids.has(note.id));
  }

  /** A note as it is now. */
  now({ id }: Note): Note | undefined {
    const [own] = ownIds([id]);
    return currentPart(this.state).notes.find((note) => note.id === own);
  }
}
