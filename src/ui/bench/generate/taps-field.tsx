"use client";
import { plural } from "@/core/base";
import { barTicks } from "@/core/time";
import { barsOf, tapsOver } from "../../commands/ideas/wishes";
import { clearTaps, tapRhythm } from "../../commands/ideas/rhythm-taps";
import { useDesk, useWork } from "../../session/context";
import { currentMetre, currentPlace } from "../../state/current";

/** A rhythm to tap on one button, and what was tapped, over the bars that ideas fill. */
export function TapsField({ taps }: { taps: readonly number[] }) {
  const desk = useDesk();
  const state = useWork();
  const bar = barTicks(currentMetre(state));
  const bars = barsOf(state.project, currentPlace(state));
  const all = taps.length > 0 ? tapsOver(taps, bar, bars) : [];
  return (
    <div className="flex flex-col gap-1" role="group" aria-label="Tapped rhythm">
      <svg
        viewBox="0 0 236 20"
        className="w-full rounded-lg bg-[var(--sheet)]"
        role="img"
        aria-label={`${plural(all.length, "hit")} in ${plural(bars, "bar")}`}
        preserveAspectRatio="none"
      >
        {Array.from({ length: bars }, (_, b) => (
          <line
            key={b}
            x1={(236 * b) / bars}
            x2={(236 * b) / bars}
            y1={0}
            y2={20}
            stroke="var(--sheet-dimple)"
          />
        ))}
        {all.map((tick) => (
          <rect
            key={tick}
            x={(236 * tick) / (bars * bar)}
            y={4}
            width={2}
            height={12}
            fill="var(--color-primary)"
          />
        ))}
      </svg>
      <div className="flex gap-1">
        <button
          className="btn btn-sm h-8 min-h-0 flex-1 touch-none"
          title="Tap the rhythm here, or with enter: with the loop while it plays, else from the first tap on"
          onPointerDown={(event) => tapRhythm(desk, event.timeStamp)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || event.repeat) return;
            event.preventDefault();
            tapRhythm(desk, event.timeStamp);
          }}
        >
          Tap
        </button>
        <button
          className="btn btn-sm h-8 min-h-0"
          disabled={taps.length === 0}
          onClick={() => clearTaps(desk.store)}
        >
          Clear
        </button>
      </div>
      <p className="quiet text-[12px]" role="status">
        {taps.length === 0
          ? "Tap a rhythm: along with the loop while it plays, else freely from the one."
          : `${plural(all.length, "hit")} in ${plural(bars, "bar")}; what you tap comes again until the end`}
      </p>
    </div>
  );
}
