import { must } from "@/core/base";
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";
import { isPopoverOpen } from "../controls/open-popover";
import { scrollByPixels } from "../commands/notes/time";
import { hearNote } from "../commands/transport/play";
import { RULER_HEIGHT } from "../geometry/layout";
import { useDesk } from "../session/context";
import { Gestures, type Box, type Point } from "./gestures/gestures";
import { underPointer, type RowPlace } from "./under-pointer";
import { useEscape } from "./use-escape";
import { usePinch } from "./use-pinch";
import { useReadout } from "./use-readout";
import { useRowScrolling } from "./use-row-scrolling";
import { useRuler } from "./use-ruler";
import type { SheetView } from "./use-sheet-view";

/** What the pointer shows over the notes. */
export interface PointerMarks {
  /** The box that is being drawn around notes. */
  box: Box | null;
  /** The step that a press would paint. */
  hover: RowPlace | null;
  /** Where a press would cut a note. */
  cut: RowPlace | null;
}

interface Elements {
  area: RefObject<HTMLDivElement | null>;
  scroller: RefObject<HTMLDivElement | null>;
  latest: RefObject<SheetView>;
}

/** Two presses at one place within so many ms are a double click (common practice). */
const DOUBLE_MS = 350;

/** The pointer on the sheet: presses begin gestures, two fingers pinch, the middle button moves the sheet itself. */
export function useSheetPointer({ area, scroller, latest }: Elements) {
  const { store, engine } = useDesk();
  const [box, setBox] = useState<Box | null>(null);
  const [hover, setHover] = useState<RowPlace | null>(null);
  const [cut, setCut] = useState<RowPlace | null>(null);
  const pressed = useRef({ x: 0, y: 0, at: -Infinity, button: 0 });
  const pan = useRef<{ x: number; y: number } | null>(null);
  const gestures = useRef<Gestures | null>(null);
  const scrollRows = useRowScrolling(gestures);
  const pinch = usePinch();
  const ruler = useRuler(latest);
  const readout = useReadout();
  const showReadout = readout.show;
  useEscape(gestures);
  useEffect(() => {
    gestures.current = new Gestures({
      store,
      layout: () => latest.current.layout,
      view: () => latest.current.view,
      hear: (pitch, velocity) => hearNote({ store, engine }, pitch, velocity),
      scrollRows,
      readout: showReadout,
      showBox: setBox,
    });
  }, [store, engine, scrollRows, latest, showReadout]);

  const placeOf = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const frame = must(area.current).getBoundingClientRect();
    return {
      x: clientX - frame.left,
      y: clientY - frame.top - RULER_HEIGHT + latest.current.view.top,
    };
  };
  const pointOf = (event: PointerEvent): Point => ({
    ...placeOf(event),
    shift: event.shiftKey,
    alt: event.altKey,
    toggle: event.ctrlKey || event.metaKey,
    erase: event.buttons === 2 || event.button === 2,
  });

  /** Whether this press is the second of a double click. */
  const isAgain = ({ clientX: x, clientY: y, timeStamp: at, button }: PointerEvent) => {
    const last = pressed.current;
    pressed.current = { x, y, at, button };
    const near = Math.hypot(x - last.x, y - last.y) < 6;
    return near && button === last.button && at - last.at < DOUBLE_MS;
  };

  const onPointerDown = (event: PointerEvent) => {
    if (isPopoverOpen()) return;
    const point = pointOf(event);
    if (pinch.down(event, latest.current.view)) return gestures.current?.cancel();
    must(area.current).focus({ preventScroll: true });
    event.currentTarget.setPointerCapture(event.pointerId);
    setHover(null);
    if (event.button === 1) {
      // The middle button takes hold of the sheet itself.
      event.preventDefault();
      pan.current = { x: event.clientX, y: event.clientY };
    } else if (point.y < latest.current.view.top) ruler.down(point.x, point.shift);
    else gestures.current?.down({ ...point, again: isAgain(event) });
  };

  /** A fast stroke crosses several steps between two frames: each is painted. */
  const stroke = (active: Gestures, event: PointerEvent) => {
    const point = pointOf(event);
    const all = active.wantsAll ? (event.nativeEvent.getCoalescedEvents?.() ?? []) : [];
    for (const one of all) active.move({ ...point, ...placeOf(one) });
    active.move(point);
  };

  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (pinch.move(event, must(area.current), (top) => scroller.current?.scrollBy({ top }))) return;
    if (pan.current) {
      const { x, y } = pan.current;
      pan.current = { x: event.clientX, y: event.clientY };
      scrollByPixels(store, x - event.clientX);
      scroller.current?.scrollBy({ top: y - event.clientY });
      return;
    }
    if (ruler.move(placeOf(event).x)) return;
    readout.follow(event);
    if (gestures.current?.active) {
      stroke(gestures.current, event);
      return;
    }
    const under = underPointer(store.getState(), latest.current, pointOf(event));
    setHover(under.hover);
    setCut(under.cut);
    event.currentTarget.style.cursor = under.cursor;
  };

  const onPointerUp = (event: PointerEvent) => {
    pinch.up(event);
    pan.current = null;
    ruler.up(placeOf(event).x);
    gestures.current?.up();
  };
  const onPointerCancel = (event: PointerEvent) => {
    pinch.up(event);
    pan.current = null;
    ruler.cancel();
    gestures.current?.cancel();
  };
  const onPointerLeave = () => {
    setHover(null);
    setCut(null);
  };

  return {
    gestures,
    readout: readout.ref,
    marks: { box, hover, cut } satisfies PointerMarks,
    setHover,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel, onPointerLeave },
  };
}
