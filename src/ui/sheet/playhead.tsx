"use client";
import { useEffect, useRef } from "react";
import { useDesk, useSession } from "../session/context";
import { xOf, type View } from "../geometry/view";

/** The line where the ear is. Moved by the browser's compositor alone, so nothing is drawn again. */
export function Playhead({ view, total }: { view: View; total: number }) {
  const { store, engine } = useDesk();
  const playing = useSession((s) => s.playing);
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
    };
    follow();
    return () => cancelAnimationFrame(frame);
  }, [playing, view, total, engine, store]);

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
