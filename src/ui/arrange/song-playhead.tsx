"use client";
import { useEffect, useRef, type RefObject } from "react";
import { useDesk, useSession } from "../session/context";
import type { SongLine } from "../geometry/song-line";

/** Where the song is, over its sections. Moved by the compositor alone; the sheet goes along unless it stays. */
export function SongPlayhead({
  axis,
  area,
}: {
  axis: SongLine;
  /** What scrolls the strip. */
  area: RefObject<HTMLDivElement | null>;
}) {
  const { store, engine } = useDesk();
  const playing = useSession((state) => state.playing);
  const mark = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!playing) return;
    let [frame, held] = [0, 0];
    const press = () => (held = 1);
    const lift = () => (held = 0);
    // What is under the hand is not taken away.
    window.addEventListener("pointerdown", press, true);
    window.addEventListener("pointerup", lift, true);
    window.addEventListener("pointercancel", lift, true);
    let section: number | null = null;
    const follow = () => {
      frame = requestAnimationFrame(follow);
      const at = engine.position();
      const song = at?.song ?? null;
      // Without sections all patterns play in order: the sheet goes along, but there is no line to be on.
      const x = song === null || axis.total === 0 ? -10 : axis.xOf(song);
      if (mark.current) mark.current.style.transform = `translateX(${x}px)`;
      const { stay, pattern, setPattern } = store.getState();
      if (!at || at.section === null || stay || held) return;
      if (at.section === section && at.pattern === pattern) return;
      // With each section the strip turns its page, where that lies outside.
      const seen = area.current;
      if (seen && x >= 0 && (x < seen.scrollLeft || x > seen.scrollLeft + seen.clientWidth))
        seen.scrollTo({ left: x });
      section = at.section;
      setPattern(at.pattern);
    };
    follow();
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener("pointerdown", press, true);
      window.removeEventListener("pointerup", lift, true);
      window.removeEventListener("pointercancel", lift, true);
    };
  }, [playing, axis, area, engine, store]);
  return (
    <div
      ref={mark}
      hidden={!playing}
      data-testid="song-playhead"
      className="pointer-events-none absolute inset-y-0 left-0 w-[2px] bg-[var(--squall)] will-change-transform"
      style={{ transform: "translateX(-10px)" }}
    />
  );
}
