"use client";
import { useCallback, useEffect, useRef } from "react";
import { scrollTo } from "../commands/notes/time";
import { useDesk, useSession } from "../session/context";
import { PAD, xOf, type View } from "../geometry/view";

/** The line where the ear is. Moved by the browser's compositor alone, so nothing is drawn again. */
export function Playhead({ view, total }: { view: View; total: number }) {
  const { store, engine } = useDesk();
  const playing = useSession((state) => state.playing);
  const turnPage = useFollow();
  const line = useRef<HTMLDivElement>(null);

  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const follow = () => {
      frame = requestAnimationFrame(follow);
      const at = engine.position();
      const element = line.current;
      if (!element) return;
      const here = at !== null && at.pattern === store.getState().pattern;
      const x = here ? xOf(view, at.tick % total) : -100;
      element.style.transform = `translateX(${x}px)`;
      if (here) turnPage(at.tick % total, x);
    };
    follow();
    return () => cancelAnimationFrame(frame);
  }, [playing, view, total, engine, store, turnPage]);

  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" hidden={!playing}>
      <div
        ref={line}
        data-testid="playhead"
        className="absolute top-0 left-0 h-full will-change-transform"
      >
        <div className="absolute top-[18px] -left-[4px] h-2 w-2 rounded-full bg-[var(--squall)]" />
        <div className="absolute top-[20px] -left-[0.75px] h-full w-[1.5px] bg-[var(--squall)]" />
      </div>
    </div>
  );
}

/** How long the view stays after something was edited or scrolled by hand, in ms. */
const LEAVE_MS = 4000;

/**
 * Turns the page when the playhead leaves the view, unless that is off or something is being edited or
 * looked at elsewhere just now.
 */
function useFollow() {
  const { store } = useDesk();
  const busy = useRef(-Infinity);
  const own = useRef(false);
  useEffect(
    () =>
      store.subscribe((now, before) => {
        const scrolled = now.scroll !== before.scroll || now.zoom !== before.zoom;
        if ((scrolled && !own.current) || now.history !== before.history) {
          busy.current = performance.now();
        }
      }),
    [store],
  );
  return useCallback(
    (tick: number, x: number) => {
      const { follow, sheetWidth } = store.getState();
      if (!follow || (x >= 0 && x <= sheetWidth - PAD)) return;
      if (performance.now() - busy.current < LEAVE_MS) return;
      own.current = true;
      scrollTo(store, tick);
      own.current = false;
    },
    [store],
  );
}

/** Where playing starts, on the ruler; nothing where that is the beginning. */
export function PlayStart({ view }: { view: View }) {
  const start = useSession((state) => state.playStart);
  if (start === 0) return null;
  const x = xOf(view, start);
  if (x < 0 || x > view.width) return null;
  return (
    <div
      data-testid="play-start"
      className="pointer-events-none absolute top-[16px] h-0 w-0 border-x-[5px] border-t-[8px] border-x-transparent border-t-[var(--squall)]"
      style={{ left: x - 5 }}
    />
  );
}

/** The stretch of the pattern that is looped, on the ruler; nothing where all of it plays. */
export function LoopBand({ view }: { view: View }) {
  const loop = useSession((state) =>
    state.patternLoop?.pattern === state.pattern ? state.patternLoop.range : null,
  );
  if (!loop) return null;
  const from = Math.max(0, xOf(view, loop[0]));
  const to = Math.min(view.width, xOf(view, loop[1]));
  if (to <= from) return null;
  return (
    <div
      data-testid="pattern-loop"
      className="pointer-events-none absolute top-[2px] h-[24px] rounded-md border-x-2 border-primary bg-primary/15"
      style={{ left: from, width: to - from }}
    />
  );
}
