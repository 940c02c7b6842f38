"use client";
import { useRef, useState, type PointerEvent, type RefObject } from "react";
import { nanoid } from "nanoid";
import { clamp, must, mustGet } from "@/core/base";
import type { Note } from "@/core/score";
import { type PartNotes, selectedByPart } from "../commands/notes/by-part";
import { ownIds } from "../commands/notes/notes";
import { selectedNotes } from "../commands/notes/selected";
import { changeValues, paintValues } from "../commands/notes/values";
import { REACH, valueAt, valueOfPixels, yOf } from "../geometry/profile-line";
import type { Profile } from "../geometry/profiles";
import { xOf, type View } from "../geometry/view";
import { isPopoverOpen } from "../controls/open-popover";
import { useDesk } from "../session/context";
import { currentPart } from "../state/current";
import { type Point, type ToldValue, pointIn } from "./profile-area";

interface Stroke {
  group: string;
  from: Point;
  last: Point;
  /** What is selected, as it was, where that is moved as one; null where values are painted. */
  moved: readonly PartNotes[] | null;
  /** Whether it is known what it is: a press on a head may begin a line as well. */
  begun: boolean;
}

interface Strip {
  area: RefObject<HTMLDivElement | null>;
  notes: readonly Note[];
  profile: Profile;
  view: Pick<View, "zoom" | "scroll" | "width">;
}

/** Pixels that a hand may tremble before a press is a drag. */
const START = 3;

/** A stroke once it is known what it is: up or down from a head it moves the selected, sideways it paints. */
function begun(stroke: Stroke | null, to: Point): Stroke | null {
  if (!stroke || stroke.begun) return stroke;
  const [across, along] = [Math.abs(to.y - stroke.from.y), Math.abs(to.x - stroke.from.x)];
  if (Math.max(across, along) < START) return null;
  return { ...stroke, begun: true, moved: across >= along ? stroke.moved : null };
}

/**
 * What a hand does on a profile: painting sets what it passes; the head of one of several that are selected,
 * dragged up or down, moves all of them by as much. The value is told where the hand is.
 */
export function useStrokes({ area, notes, profile, view }: Strip) {
  const { store } = useDesk();
  const [told, setTold] = useState<ToldValue | null>(null);
  const stroke = useRef<Stroke | null>(null);
  const at = { ...view, height: 0, top: 0 };
  const tell = (point: Point, of: number) => setTold({ ...point, text: profile.text(of) });

  /** Sets what the stroke passed between two points, along the line between them. */
  const paint = (from: Point, to: Point, group: string) => {
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const reach = left === right ? REACH : 2;
    const values = new Map<string, number>();
    for (const note of notes) {
      const x = xOf(at, note.start);
      if (x < left - reach || x > right + reach) continue;
      const share = right === left ? 1 : (x - from.x) / (to.x - from.x);
      const y = from.y + clamp(share, 0, 1) * (to.y - from.y);
      for (const id of ownIds([note.id])) values.set(id, valueAt(profile, y));
    }
    const [some] = notes;
    if (some) tell(to, profile.read(profile.write(some, valueAt(profile, to.y))));
    if (values.size === 0) return;
    const change = (note: Note) => profile.write(note, mustGet(values, note.id));
    paintValues(store, new Set(values.keys()), change, { label: profile.label, group });
  };
  /** The selected note whose head is under a point, where there are others to move with it. */
  const headAt = ({ x, y }: Point): Note | undefined => {
    const { selection, beside } = store.getState();
    if (ownIds(selection).size < 2 && beside.size === 0) return undefined;
    return notes.find(
      (note) =>
        selection.has(note.id) &&
        Math.abs(xOf(at, note.start) - x) <= REACH &&
        Math.abs(yOf(profile, profile.read(note)) - y) <= REACH,
    );
  };
  const move = ({ group, from, moved }: Stroke, to: Point) => {
    const by = valueOfPixels(profile, from.y - to.y);
    changeValues(store, profile, { how: "shift", by }, { group, from: must(moved) });
    const [first] = selectedNotes(store.getState());
    if (first) tell(to, profile.read(first));
  };
  const end = () => {
    const state = store.getState();
    stroke.current = null;
    setTold(null);
    const own = currentPart(state).notes;
    const first = own.find((note) => state.selection.has(note.id));
    if (first) state.setTouched({ velocity: first.velocity });
  };

  const handlers = {
    onPointerDown: (event: PointerEvent) => {
      if (isPopoverOpen()) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const point = pointIn(area, event);
      const moved = headAt(point) ? selectedByPart(store.getState()) : null;
      const group = `profile-${nanoid(6)}`;
      stroke.current = { group, from: point, last: point, moved, begun: !moved };
      if (!moved) paint(point, point, group);
    },
    onPointerMove: (event: PointerEvent) => {
      const point = pointIn(area, event);
      const now = begun(stroke.current, point);
      if (!now) return;
      if (now.moved) move(now, point);
      else paint(now.last, point, now.group);
      stroke.current = { ...now, last: point };
    },
    onPointerUp: end,
    onPointerCancel: end,
  };
  return { told, handlers };
}
