"use client";
import { useRef } from "react";
import { scrollRows } from "../commands/notes/rows";
import { HEADER_WIDTH, RULER_HEIGHT, rowAt } from "../geometry/layout";
import { useDesk, useSession } from "../session/context";
import { useRequest } from "../session/requested";
import { Announcement } from "./announcement";
import { Headers } from "./headers";
import { PastLoopMark } from "./past-loop-mark";
import { LoopBand, PlayStart, Playhead } from "./playhead";
import { useCaretInView } from "./use-caret-in-view";
import { useNotesLayer } from "./use-notes-layer";
import { useOverlay } from "./use-overlay";
import { useSheetDrop } from "./use-sheet-drop";
import { useSheetPointer } from "./use-sheet-pointer";
import { useSheetView } from "./use-sheet-view";
import { useWheel } from "./use-wheel";
import { ValueLadder } from "./value-ladder";

const NO_KEYS = { shift: false, alt: false, toggle: false, erase: false };

/** All tracks of the pattern on one time axis: drawn, played on, and edited here. */
export function Sheet() {
  const { store } = useDesk();
  const track = useSession((state) => state.track);
  const area = useRef<HTMLDivElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const notesLayer = useRef<HTMLCanvasElement>(null);
  const overLayer = useRef<HTMLCanvasElement>(null);

  const { layout, view, height, latest, setTop } = useSheetView(area);
  const pointer = useSheetPointer({ area, scroller, latest });
  const { gestures, readout } = pointer;
  const drops = useSheetDrop(area, latest, pointer.setHover);
  useNotesLayer(notesLayer, { layout, view });
  useOverlay(overLayer, { layout, view }, pointer.marks);
  useCaretInView(scroller, latest, height);
  useWheel(area, scroller, (x, y, steps, alt) => {
    const point = { x, y: y - RULER_HEIGHT + latest.current.view.top };
    if (gestures.current?.wheel({ ...NO_KEYS, ...point, alt }, steps)) return true;
    // Over a melodic track's rows it is these that scroll.
    const found = rowAt(latest.current.layout, point.y);
    return found?.block.track.kind === "melody" && scrollRows(store, found.block.track.id, steps);
  });
  useRequest("sheet", () => area.current?.focus({ preventScroll: true }));

  return (
    <div className="relative flex min-h-0 flex-1 bg-[var(--sheet)]">
      <div
        ref={scroller}
        className="shrink-0 overflow-y-auto overflow-x-hidden select-none [scrollbar-width:none]"
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
        aria-label="Sheet: arrow keys move the cursor, enter adds or deletes a hit or a note"
        onContextMenu={(event) => event.preventDefault()}
        {...pointer.handlers}
        {...drops}
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
        {layout.blocks.length === 0 && (
          <p className="quiet absolute inset-0 grid place-items-center text-center">
            No tracks yet. Add a kit or a melodic track on the left.
          </p>
        )}
      </div>
      <Announcement track={track} />
    </div>
  );
}
