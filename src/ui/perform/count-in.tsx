"use client";
import { useEffect, useState } from "react";
import { useDesk, useSession } from "../session/context";

/** The beat that is counted in, large over the sheet, as long as it is. */
export function CountIn() {
  const { engine } = useDesk();
  const playing = useSession((state) => state.playing);
  const [now, setNow] = useState<{ beat: number; left: number } | null>(null);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const look = () => {
      const at = engine.countIn();
      setNow((last) => (last?.beat === at?.beat && last?.left === at?.left ? last : at));
      // Once it is over, it does not come again in this run; before sound is there, it may still come.
      if (at || !engine.isPlaying) frame = requestAnimationFrame(look);
    };
    look();
    return () => cancelAnimationFrame(frame);
  }, [playing, engine]);
  if (!playing || !now) return null;
  return (
    <div
      className="pointer-events-none absolute inset-0 z-20 grid place-items-center"
      data-testid="count-in"
      role="status"
      aria-label={`Counting in, ${now.left} to go`}
    >
      <div className="flex flex-col items-center rounded-[40px] bg-base-100/85 px-10 py-4 shadow">
        <span className="figure text-[110px] leading-none font-semibold text-[var(--squall)]">
          {now.beat}
        </span>
        <span className="quiet mt-1 text-[13px]">
          {now.left === 1 ? "last beat" : `${now.left} beats to go`}
        </span>
      </div>
    </div>
  );
}
