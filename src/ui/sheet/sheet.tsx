"use client";
import { useSize } from "../controls/use-size";
import { snapToRow } from "../geometry/cells";
import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type DragEvent,
  type PointerEvent,
} from "react";
import { hearNote } from "../commands/transport/play";
import { putAtCaret } from "../commands/perform/played";
import { droppedFile, isSound, putSample } from "../commands/files/sample";
import { scrollByPixels, scrollTo, zoomAt } from "../commands/notes/time";
import { draggedNotes } from "../state/dragged";
import { useRequest } from "../session/requested";
import { useDesk, useSession } from "../session/context";
import { currentPart, currentStretch, effectiveProject } from "../state/current";
import type { Stretch } from "../state/selected";
import { useTheme } from "../person/theme";
import { changedBands } from "../paint/bands";
import { isOtherSize, prepareCanvas } from "../controls/canvas";
import { drawSheet } from "../paint/draw";
import { Gestures, type Box, type Point } from "./gestures/gestures";
import { PastLoopMark } from "./past-loop-mark";
import { Headers } from "./headers";
import { revealPitch, scrollRows } from "../commands/notes/rows";
import { hitTest } from "../geometry/hit";
import { readColours } from "../controls/colours";
import { HEADER_WIDTH, RULER_HEIGHT, blockAt, layOut, rowAt, type Row } from "../geometry/layout";
import { drawOverlay } from "../paint/overlay";
import { LoopBand, PlayStart, Playhead } from "./playhead";
import { ValueLadder } from "./value-ladder";
import { useRuler } from "./use-ruler";
import type { Scene } from "../paint/scene";
import { rateHandleAt, rateLine } from "../geometry/rate-line";
import { handleAt, selectedSpan } from "../geometry/span";
import { usePinch } from "./use-pinch";
import { useTimeView } from "../session/time-view";
import { xOf, type View } from "../geometry/view";

/** A place on the sheet: a row, and a tick of the pattern. */
interface Place {
  row: Row;
  tick: number;
}

/** Two presses at one place within so many ms are a double click (common practice). */
const DOUBLE_MS = 350;

const NO_KEYS = { shift: false, alt: false, toggle: false, erase: false };

/** All tracks of the pattern on one time axis: drawn, played on, and edited here. */
export function Sheet() {
  const desk = useDesk();
  const { store, engine } = desk;
  const heard = useSession(effectiveProject);
  const pattern = useSession((state) => state.pattern);
  const open = useSession((state) => state.open);
  const track = useSession((state) => state.track);
  const theme = useTheme();

  const area = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const notesLayer = useRef<HTMLCanvasElement>(null);
  const overLayer = useRef<HTMLCanvasElement>(null);
  const [top, setTop] = useState(0);
  const size = useSize(area);

  useEffect(() => {
    if (size.width > 0) store.getState().setLook({ sheetWidth: size.width });
  }, [store, size.width]);

  const allRows = useSession((state) => state.allRows);
  const windows = useSession((state) => state.windows);
  const tall = useSession((state) => state.tall);
  const layout = useMemo(
    () => layOut(heard, pattern, { open, allRows, windows, tall }),
    [heard, pattern, open, allRows, windows, tall],
  );
  const time = useTimeView(size.width, layout.total);
  const view: View = useMemo(
    () => ({ ...time, height: size.height, top }),
    // The parts of `time` stand for it: it is a new object each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [time.width, time.zoom, time.scroll, size.height, top],
  );

  const latest = useRef({ layout, view });
  useLayoutEffect(() => {
    latest.current = { layout, view };
  }, [layout, view]);

  const [box, setBox] = useState<Box | null>(null);
  const [hover, setHover] = useState<Place | null>(null);
  const [cut, setCut] = useState<Place | null>(null);
  const readout = useRef<HTMLDivElement>(null);
  const pressed = useRef({ x: 0, y: 0, at: -Infinity, button: 0 });
  const pan = useRef<{ x: number; y: number } | null>(null);
  const gestures = useRef<Gestures | null>(null);
  const scrolling = useRowScrolling(gestures);
  useEffect(() => {
    gestures.current = new Gestures({
      store,
      layout: () => latest.current.layout,
      view: () => latest.current.view,
      hear: (pitch, velocity) => hearNote({ store, engine }, pitch, velocity),
      scrollRows: scrolling,
      readout: (text) => {
        if (!readout.current) return;
        readout.current.hidden = text === null;
        readout.current.textContent = text;
      },
      showBox: setBox,
    });
  }, [store, engine, scrolling]);

  useDrawing(notesLayer, layout, view, theme);
  useOverlay(overLayer, view, theme, layout, { box, hover, cut });
  useCaretInView(scroller, latest, size.height);
  useWheel(area, scroller, (x, y, steps, alt) => {
    const point = { x, y: y - RULER_HEIGHT + latest.current.view.top };
    if (gestures.current?.wheel({ ...NO_KEYS, ...point, alt }, steps)) return true;
    // Over a melodic track's rows it is these that scroll.
    const found = rowAt(latest.current.layout, point.y);
    return found?.block.track.kind === "melody" && scrollRows(store, found.block.track.id, steps);
  });
  const pinch = usePinch();
  const ruler = useRuler(latest);
  useEscape(gestures);
  useRequest("sheet", () => area.current?.focus({ preventScroll: true }));

  const pointOf = useCallback((event: PointerEvent): Point => {
    const frame = area.current!.getBoundingClientRect();
    return {
      x: event.clientX - frame.left,
      y: event.clientY - frame.top - RULER_HEIGHT + latest.current.view.top,
      shift: event.shiftKey,
      alt: event.altKey,
      toggle: event.ctrlKey || event.metaKey,
      erase: event.buttons === 2 || event.button === 2,
    };
  }, []);

  /** The lane of a kit that something is dragged over. */
  const laneUnder = (event: DragEvent): Row | null => {
    const frame = area.current!.getBoundingClientRect();
    const y = event.clientY - frame.top - RULER_HEIGHT + latest.current.view.top;
    const found = rowAt(latest.current.layout, y);
    return found?.block.track.kind === "drums" ? found.row : null;
  };

  const onPointerDown = (event: PointerEvent) => {
    const point = pointOf(event);
    if (pinch.down(event, latest.current.view)) {
      gestures.current?.cancel();
      return;
    }
    area.current!.focus({ preventScroll: true });
    event.currentTarget.setPointerCapture(event.pointerId);
    setHover(null);
    if (event.button === 1) {
      // The middle button takes hold of the sheet itself.
      event.preventDefault();
      pan.current = { x: event.clientX, y: event.clientY };
      return;
    }
    if (point.y < latest.current.view.top) {
      ruler.down(point.x, point.shift);
      return;
    }
    const last = pressed.current;
    const near = Math.hypot(event.clientX - last.x, event.clientY - last.y) < 6;
    const again = near && event.button === last.button && event.timeStamp - last.at < DOUBLE_MS;
    const { clientX: x, clientY: y, timeStamp: at, button } = event;
    pressed.current = { x, y, at, button };
    gestures.current?.down({ ...point, again });
  };
  const onPointerMove = (event: PointerEvent) => {
    if (pinch.move(event, area.current!, (top) => scroller.current?.scrollBy({ top }))) return;
    if (pan.current) {
      const { x, y } = pan.current;
      pan.current = { x: event.clientX, y: event.clientY };
      scrollByPixels(store, x - event.clientX);
      scroller.current?.scrollBy({ top: y - event.clientY });
      return;
    }
    if (ruler.move(pointOf(event).x)) return;
    const active = gestures.current;
    if (readout.current) {
      const frame = area.current!.getBoundingClientRect();
      const left = Math.min(event.clientX - frame.left + 14, frame.width - 130);
      const y = Math.max(RULER_HEIGHT, event.clientY - frame.top - 30);
      readout.current.style.transform = `translate(${left}px, ${y}px)`;
    }
    if (active?.active) {
      // A fast stroke crosses several steps between two frames: each is painted.
      const all = active.wantsAll ? (event.nativeEvent.getCoalescedEvents?.() ?? []) : [];
      const frame = area.current!.getBoundingClientRect();
      const point = pointOf(event);
      for (const one of all) {
        active.move({
          ...point,
          x: one.clientX - frame.left,
          y: one.clientY - frame.top - RULER_HEIGHT + latest.current.view.top,
        });
      }
      active.move(point);
      return;
    }
    const point = pointOf(event);
    const state = store.getState();
    const { layout: at, view: seen } = latest.current;
    const span = selectedSpan(state, at);
    const own = at.blocks.find((block) => block.track.id === state.track);
    const rate = rateLine(state.project, own, seen);
    if (rate && rateHandleAt(rate, point)) {
      setHover(null);
      area.current!.style.cursor = "ns-resize";
      return;
    }
    if (span && handleAt(span, seen, point)) {
      setHover(null);
      area.current!.style.cursor = "ew-resize";
      return;
    }
    const hit = hitTest(at, seen, point.x, point.y, state.selection);
    const cutting = state.tool === "cut" && hit?.block.track.kind === "melody";
    const where = hit && (point.alt ? hit.tick : snapToRow(hit.row, hit.tick));
    setCut(cutting && hit?.note ? { row: hit.row, tick: where! } : null);
    const tick = hit ? snapToRow(hit.row, hit.tick) : 0;
    const inside = hit && tick >= 0 && tick < latest.current.layout.total;
    setHover(inside && !hit.note && !cutting ? { row: hit.row, tick } : null);
    area.current!.style.cursor =
      hit?.zone === "end" || hit?.zone === "begin"
        ? "ew-resize"
        : hit?.note
          ? "pointer"
          : "crosshair";
  };

  const stopped = layout.blocks.length === 0;
  return (
    <div className="relative flex min-h-0 flex-1 bg-[var(--sheet)]">
      <div
        ref={scroller}
        className="shrink-0 overflow-y-auto overflow-x-hidden [scrollbar-width:none]"
        style={{ width: HEADER_WIDTH, paddingTop: RULER_HEIGHT }}
        onScroll={(event) => setTop(event.currentTarget.scrollTop)}
      >
        <Headers layout={layout} />
      </div>
      <div
        ref={area}
        data-testid="sheet"
        className="relative min-w-0 flex-1 touch-none outline-none focus-visible:ring-2 focus-visible:ring-primary focus-visible:ring-inset"
        tabIndex={0}
        role="application"
        aria-roledescription="step sheet"
        aria-label="Sheet: arrow keys move the caret, enter adds or deletes a hit or a note"
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={(event) => {
          pinch.up(event);
          pan.current = null;
          ruler.up(pointOf(event).x);
          gestures.current?.up();
        }}
        onPointerCancel={(event) => {
          pinch.up(event);
          pan.current = null;
          ruler.cancel();
          gestures.current?.cancel();
        }}
        onPointerLeave={() => {
          setHover(null);
          setCut(null);
        }}
        onContextMenu={(event) => event.preventDefault()}
        onDragOver={(event) => {
          event.preventDefault();
          const row = laneUnder(event);
          setHover(row && { row, tick: 0 });
        }}
        onDragLeave={() => setHover(null)}
        onDrop={(event) => {
          setHover(null);
          const carried = draggedNotes();
          if (carried) {
            event.preventDefault();
            const y = event.clientY - event.currentTarget.getBoundingClientRect().top;
            const under = blockAt(
              latest.current.layout,
              y - RULER_HEIGHT + latest.current.view.top,
            );
            if (under) putAtCaret(desk, carried, under.track.id);
            return;
          }
          const file = droppedFile(event.dataTransfer);
          const lane = laneUnder(event);
          const block = latest.current.layout.blocks.find(
            (block) => lane && block.rows.includes(lane),
          );
          if (!file || !lane || !block || !isSound(file)) return;
          event.preventDefault();
          void putSample(store, block.track.id, lane.pitch, file);
        }}
      >
        <canvas ref={notesLayer} className="absolute inset-0 h-full w-full" />
        <canvas ref={overLayer} className="absolute inset-0 h-full w-full" />
        <Playhead view={view} total={layout.total} />
        <PlayStart view={view} />
        <LoopBand view={view} />
        <ValueLadder layout={layout} view={view} />
        <div
          ref={readout}
          hidden
          data-testid="readout"
          className="figure pointer-events-none absolute top-0 left-0 z-10 rounded-lg border border-base-300 bg-base-100/95 px-2 py-0.5 text-[12px] whitespace-nowrap shadow"
        />
        {layout.blocks.map((block) => (
          <PastLoopMark key={block.track.id} block={block} view={view} total={layout.total} />
        ))}
        {stopped && (
          <p className="quiet absolute inset-0 grid place-items-center text-center">
            No tracks yet. Add a kit or a melodic track on the left.
          </p>
        )}
      </div>
      <Said track={track} />
    </div>
  );
}

/** Says where the caret stands and what an edit did: to screen readers, and for a while to be seen. */
function Said({ track }: { track: string }) {
  const message = useSession((state) => state.announcement);
  return (
    <>
      <p className="sr-only" role="status" aria-live="polite" data-track={track}>
        {message}
      </p>
      <p
        key={message}
        aria-hidden
        className="said pointer-events-none absolute right-2 bottom-1 rounded-lg bg-base-100/85 px-2 py-0.5 text-[11px]"
      >
        {message}
      </p>
    </>
  );
}

/** How often rows scroll while a note is held over or under them, in ms. */
const SCROLL_MS = 90;

/** Scrolls the rows of the current track as long as it is asked to, and lets the gesture follow. */
function useRowScrolling(gestures: React.RefObject<Gestures | null>) {
  const { store } = useDesk();
  const timer = useRef<{ way: number; id: number } | null>(null);
  const stop = useCallback(() => {
    if (timer.current) clearInterval(timer.current.id);
    timer.current = null;
  }, []);
  useEffect(() => stop, [stop]);
  return useCallback(
    (way: -1 | 0 | 1) => {
      if (timer.current?.way === way) return;
      stop();
      if (way === 0) return;
      const id = window.setInterval(() => {
        // What the last step brought into view is drawn by now.
        gestures.current?.again();
        scrollRows(store, store.getState().track, way);
      }, SCROLL_MS);
      timer.current = { way, id };
    },
    [gestures, store, stop],
  );
}

/** Escape in the middle of a stroke takes it back; other keys wait until it has ended. */
function useEscape(gestures: React.RefObject<Gestures | null>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!gestures.current?.active || /^(Shift|Control|Alt|Meta)$/.test(event.key)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (event.key === "Escape") gestures.current.cancel();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [gestures]);
}

type CanvasRef = React.RefObject<HTMLCanvasElement | null>;
type Layout = ReturnType<typeof layOut>;

/** Draws the notes' layer once per frame, after anything it shows has changed. */
function useDrawing(canvas: CanvasRef, layout: Layout, view: View, theme: string): void {
  const heard = useSession(effectiveProject);
  const selection = useSession((state) => state.selection);
  const track = useSession((state) => state.track);
  const otherTracks = useSession((state) => state.showOthers);
  const before = useSession((state) => {
    if (!state.track || state.hearingA) return null;
    const part = currentPart(state);
    const changed =
      state.preview !== null || (!state.bypassed && part.chain.some((step) => step.on));
    return changed ? part.notes : null;
  });
  const drawn = useRef<Scene | null>(null);
  useEffect(() => {
    if (view.width === 0) return;
    const frame = requestAnimationFrame(() => {
      const element = canvas.current;
      const fresh = element !== null && isOtherSize(element, view.width, view.height);
      const ctx = element && prepareCanvas(element, view.width, view.height);
      if (!ctx) return;
      const scene = {
        project: heard,
        layout,
        view,
        colours: readColours(),
        selection,
        track,
        before,
        otherTracks,
      };
      drawSheet(ctx, scene, fresh ? null : changedBands(drawn.current, scene));
      drawn.current = scene;
    });
    return () => cancelAnimationFrame(frame);
  }, [canvas, layout, view, theme, heard, selection, track, before, otherTracks]);
}

function useOverlay(
  canvas: CanvasRef,
  view: View,
  theme: string,
  layout: Layout,
  { box, hover, cut }: { box: Box | null; hover: Place | null; cut: Place | null },
): void {
  const caret = useSession((state) => state.caret);
  const track = useSession((state) => state.track);
  const stretch = useSession(currentStretch);
  const selection = useSession((state) => state.selection);
  const entering = useSession((state) => state.entry !== null && state.entry.mode === "notes");
  const project = useSession((state) => state.project);
  useEffect(() => {
    if (view.width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, view.width, view.height);
      if (!ctx) return;
      const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
      const row = rows.find((row) => row.pitch === caret.pitch);
      drawOverlay(ctx, view, readColours(), {
        caret: row && !entering ? { row, tick: caret.tick } : null,
        hover,
        box,
        cut,
        entry: entering && rows[0] ? { tick: caret.tick, ...heightOf(rows) } : null,
        span: selectedSpan({ track, selection }, layout),
        rate: rateLine(
          project,
          layout.blocks.find((block) => block.track.id === track),
          view,
        ),
        stretch: stretch && covered(stretch, stretch.kind === "lane" && row ? [row] : rows),
      });
    });
    return () => cancelAnimationFrame(frame);
  }, [
    canvas,
    view,
    theme,
    layout,
    caret,
    track,
    box,
    hover,
    cut,
    stretch,
    selection,
    entering,
    project,
  ]);
}

/** Brings the caret back into view when a key took it out of it. */
function useCaretInView(
  scroller: React.RefObject<HTMLDivElement | null>,
  latest: React.RefObject<{ layout: Layout; view: View }>,
  height: number,
): void {
  const { store } = useDesk();
  const caret = useSession((state) => state.caret);
  useEffect(() => {
    const { layout, view } = latest.current;
    if (view.width === 0) return;
    const x = xOf(view, caret.tick);
    if (x < 0 || x > view.width) {
      scrollTo(store, caret.tick - view.width / 3 / view.zoom);
    }
    const { track } = store.getState();
    revealPitch(store, caret.pitch);
    const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
    const row = rows.find((row) => row.pitch === caret.pitch);
    const visible = height - RULER_HEIGHT;
    if (!row || (row.y >= view.top && row.y + row.height <= view.top + visible)) return;
    scroller.current?.scrollTo({ top: Math.max(0, row.y - visible / 3) });
    // A sheet that got lower may have left the caret outside.
  }, [caret, store, scroller, latest, height]);
}

/** A stretch of time over some rows, for drawing. */
function covered({ from, to }: Stretch, rows: readonly Row[]) {
  return rows.length > 0 ? { from, to, ...heightOf(rows) } : null;
}

function heightOf(rows: readonly Row[]) {
  const [first, last] = [rows[0]!, rows[rows.length - 1]!];
  return { top: first.y, bottom: last.y + last.height };
}

/**
 * Wheel: over a hit its velocity, with alt its chance; elsewhere up and down through the tracks, sideways (or with shift)
 * through time, with ctrl (or a pinch on a trackpad) to zoom.
 */
function useWheel(
  area: React.RefObject<HTMLDivElement | null>,
  scroller: React.RefObject<HTMLDivElement | null>,
  overHit: (x: number, y: number, steps: number, alt: boolean) => boolean,
): void {
  const onHit = useRef(overHit);
  useLayoutEffect(() => {
    onHit.current = overHit;
  });
  const { store } = useDesk();
  useEffect(() => {
    const element = area.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const frame = element.getBoundingClientRect();
      if (event.ctrlKey || event.metaKey) {
        zoomAt(store, Math.exp(-event.deltaY / 300), event.clientX - frame.left);
        return;
      }
      const steps = -Math.sign(event.deltaY) * Math.max(1, Math.round(Math.abs(event.deltaY) / 40));
      const plain = !event.shiftKey && event.deltaY !== 0;
      const [x, y] = [event.clientX - frame.left, event.clientY - frame.top];
      if (plain && onHit.current(x, y, steps, event.altKey)) return;
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (sideways !== 0) scrollByPixels(store, sideways);
      else scroller.current?.scrollBy({ top: event.deltaY });
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [area, scroller, store]);
}
