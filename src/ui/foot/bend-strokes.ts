"use client";
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import { clamp } from "@/core/base";
import { type BendPoint, bendSemitones } from "@/core/score";
import { cellAt, lineAt, steppedGrid } from "@/core/time";
import { GestureEdit } from "../commands/notes/gesture";
import { isPopoverOpen } from "../controls/open-popover";
import { valueAt, yOf } from "../geometry/profile-line";
import { BEND } from "../geometry/profiles";
import { tickOf, type View } from "../geometry/view";
import { useDesk } from "../session/context";
import { currentPart, effectiveCurrent } from "../state/current";
import { type Point, type ToldValue, pointIn } from "./profile-area";

interface Stroke {
  edit: GestureEdit;
  from: Point;
  last: BendPoint;
  moved: boolean;
  /** Whether it takes the bend away. */
  erases: boolean;
  /** Where the loop begins that it was begun in. */
  loop: number;
}

/** Pixels that a hand may tremble before a press is a drag, and within which a whole semitone is meant. */
const START = 3;
const NEAR = 4;

/** `+1.50 st` */
const bendText = (value: number): string => {
  const semitones = bendSemitones(value);
  return `${semitones > 0.004 ? "+" : semitones < -0.004 ? "−" : ""}${Math.abs(semitones).toFixed(2)} st`;
};

/** The value at a height: a whole semitone where one is near, unless it is to be free. */
function valueFor(y: number, free: boolean): number {
  const raw = Math.round(valueAt(BEND, y));
  const whole = clamp(Math.round(raw / BEND.semitone) * BEND.semitone, BEND.min, BEND.max);
  return !free && Math.abs(yOf(BEND, whole) - y) <= NEAR ? whole : raw;
}

/** What a hand does on the bend: a line drawn along the time, or steps of the grid; the right button takes it away. */
export function useBendStrokes(
  area: RefObject<HTMLDivElement | null>,
  view: Pick<View, "zoom" | "scroll" | "width">,
) {
  const { store } = useDesk();
  const [told, setTold] = useState<ToldValue | null>(null);
  const stroke = useRef<Stroke | null>(null);
  const at = { ...view, height: 0, top: 0 };
  const grid = () => steppedGrid(currentPart(store.getState()).grid);
  const placeOf = (
    { x, y }: Point,
    { loop, erases }: Pick<Stroke, "loop" | "erases">,
    free: boolean,
  ): BendPoint => {
    const { length } = currentPart(store.getState());
    const tick = clamp(Math.round(tickOf(at, x)) - loop, 0, length - 1);
    return { tick, value: erases ? 0 : valueFor(y, free) };
  };
  /** Level over each step between two places, at the value that the hand has in its middle. */
  const steps = (a: BendPoint, b: BendPoint): BendPoint[] => {
    const lines = grid();
    const stepOf = (tick: number) => cellAt(lines, tick);
    const [low, high] = a.tick <= b.tick ? [a, b] : [b, a];
    const points: BendPoint[] = [];
    for (let step = stepOf(low.tick); step <= stepOf(high.tick); step++) {
      const [from, to] = [lineAt(lines, step), lineAt(lines, step + 1)];
      const share =
        high.tick === low.tick
          ? 1
          : clamp(((from + to) / 2 - low.tick) / (high.tick - low.tick), 0, 1);
      // The step under the hand has the hand's value.
      const under = stepOf(b.tick) === step;
      const value = under ? b.value : Math.round(low.value + share * (high.value - low.value));
      points.push({ tick: Math.max(0, from), value }, { tick: to - 1, value });
    }
    return points;
  };
  const draw = (one: Stroke, to: BendPoint) => {
    const { last } = one;
    if (store.getState().bendAs === "steps") one.edit.drawBend(steps(last, to));
    else if (last.tick === to.tick) one.edit.drawBend([to]);
    else one.edit.drawBend(last.tick < to.tick ? [last, to] : [to, last]);
  };
  const end = () => {
    stroke.current = null;
    setTold(null);
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || !stroke.current) return;
      event.stopPropagation();
      stroke.current.edit.cancel();
      end();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, []);

  const handlers = {
    onPointerDown: (event: PointerEvent) => {
      if (isPopoverOpen() || event.button === 1) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const from = pointIn(area, event);
      const { length } = effectiveCurrent(store.getState());
      const erases = event.button === 2 || store.getState().erasing;
      const loop = Math.max(0, Math.floor(tickOf(at, from.x) / length)) * length;
      const last = placeOf(from, { loop, erases }, event.altKey);
      stroke.current = { edit: new GestureEdit(store), from, last, moved: false, erases, loop };
      setTold({ ...from, text: bendText(last.value) });
    },
    onPointerMove: (event: PointerEvent) => {
      const one = stroke.current;
      if (!one) return;
      const point = pointIn(area, event);
      if (!one.moved && Math.hypot(point.x - one.from.x, point.y - one.from.y) < START) return;
      const to = placeOf(point, one, event.altKey);
      draw(one, to);
      stroke.current = { ...one, last: to, moved: true };
      setTold({ ...point, text: bendText(to.value) });
    },
    onPointerUp: () => {
      const one = stroke.current;
      // A click is the step that it lies in.
      if (one && !one.moved) one.edit.drawBend(steps(one.last, one.last));
      end();
    },
    onPointerCancel: end,
    onContextMenu: (event: { preventDefault(): void }) => event.preventDefault(),
  };
  return { told, handlers };
}
