"use client";
import { clamp, type Ticks } from "@/core/base";
import { useEffect, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { formatPosition } from "@/core/time";
import { type Note, metreOf, partOf, patternBar, patternOf, patternTicks } from "@/core/score";
import { effectivePart } from "@/core/transforms";
import { scrollBy, scrollTo } from "../commands/notes/time";
import { prepareCanvas } from "../controls/canvas";
import { readColours, trackColour } from "../controls/colours";
import { useTheme } from "../person/theme";
import { columnRuns } from "../geometry/column-runs";
import { HEADER_WIDTH } from "../geometry/layout";
import { PAD } from "../geometry/view";
import { useDesk, useSession } from "../session/context";
import { effectiveProject } from "../state/current";
import { useTimeView } from "../session/time-view";

const HEIGHT = 22;
/** So long after an edit it is drawn, in ms: in a run of edits once. */
const LATER_MS = 80;
/** The window can be taken hold of however small it is. */
const LEAST_WINDOW = 18;

/** Where the notes of a part stand in a row of so many pixels, over and over through the pattern. */
function* placesIn(
  notes: readonly Note[],
  length: Ticks,
  total: Ticks,
  width: number,
): Generator<number> {
  // A loop that is narrower than a pixel is the same in every one.
  const step = length * Math.max(1, Math.floor(total / width / length));
  for (let at = 0; at < total; at += step)
    for (const { start } of notes) if (start < length) yield ((at + start) / total) * width;
}

/** The whole pattern in little, with what is in view as a window to drag; nothing where all is in view. */
export function Overview() {
  const { store } = useDesk();
  const width = useSession((state) => state.sheetWidth);
  const project = useSession(effectiveProject);
  const pattern = useSession((state) => state.pattern);
  const theme = useTheme();
  const total = patternTicks(project, patternOf(project, pattern));
  const view = useTimeView(width, total);
  const inView = (width - 2 * PAD) / view.zoom;
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<{ x: number; scroll: number } | null>(null);
  const partial = inView < total - 1;

  useEffect(() => {
    if (!partial) return;
    // The sheet itself comes first: what is in little may be a moment late.
    const later = setTimeout(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
      if (!ctx) return;
      const colours = readColours();
      ctx.clearRect(0, 0, width, HEIGHT);
      const shown = patternOf(project, pattern);
      ctx.fillStyle = colours.line;
      const bar = (width * patternBar(project, shown)) / total;
      // Lines so close that they would be a surface are left out.
      const every = Math.max(1, 2 ** Math.ceil(Math.log2(8 / bar)));
      for (let i = 0; i < shown.bars; i += every) ctx.fillRect(Math.round(i * bar), 0, 1, HEIGHT);
      const height = Math.max(1, (HEIGHT - 6) / Math.max(1, project.tracks.length) - 1);
      project.tracks.forEach((track, i) => {
        const part = partOf(project, { pattern, track: track.id });
        const { notes, length } = effectivePart(project, track, part, shown);
        ctx.fillStyle = trackColour(colours, i);
        const y = 3 + i * (height + 1);
        for (const [from, to] of columnRuns(placesIn(notes, length, total, width), width))
          ctx.fillRect(from, y, to - from + 0.5, height);
      });
    }, LATER_MS);
    return () => clearTimeout(later);
  }, [partial, width, project, pattern, total, theme]);

  if (!partial) return null;
  const share = Math.max(LEAST_WINDOW, (inView / total) * width);
  const left = clamp((view.scroll / total) * width, 0, width - share);
  const ticksOf = (pixels: number) => (pixels / width) * total;
  const onDown = (event: PointerEvent<HTMLDivElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const inside = x >= left && x <= left + share;
    const scroll = inside ? view.scroll : ticksOf(x) - inView / 2;
    if (!inside) scrollTo(store, scroll);
    drag.current = { x: event.clientX, scroll: Math.max(0, scroll) };
  };
  const onMove = (event: PointerEvent) => {
    const from = drag.current;
    if (from) scrollTo(store, from.scroll + ticksOf(event.clientX - from.x));
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -0.25, ArrowRight: 0.25, PageUp: -1, PageDown: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    scrollBy(store, by);
  };
  return (
    <div className="flex border-t border-base-300 bg-base-100">
      <span className="quiet self-center pl-4 text-[12px]" style={{ width: HEADER_WIDTH }}>
        Overview
      </span>
      <div
        className="relative cursor-grab touch-none active:cursor-grabbing"
        style={{ width, height: HEIGHT }}
        role="slider"
        tabIndex={0}
        aria-label="Overview: what of the pattern is in view"
        aria-valuemin={0}
        aria-valuemax={total}
        aria-valuenow={Math.round(view.scroll)}
        aria-valuetext={`From ${formatPosition(Math.max(0, Math.round(view.scroll)), metreOf(project, patternOf(project, pattern)))}`}
        data-testid="overview"
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={() => (drag.current = null)}
        onPointerCancel={() => (drag.current = null)}
        onKeyDown={onKey}
      >
        <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
        <div
          className="absolute inset-y-0 rounded-md border-2 border-primary bg-primary/10"
          style={{ left, width: share }}
        />
      </div>
    </div>
  );
}
