"use client";
import { useCallback } from "react";
import { Meter } from "../controls/meter";
import { useDesk } from "./context";

/** The meter of a track, or of the whole mix where `track` is null. */
export function LevelMeter({ track, className }: { track: string | null; className: string }) {
  const { engine } = useDesk();
  const level = useCallback(
    () => (track === null ? engine.masterLevel() : engine.levelOf(track)),
    [engine, track],
  );
  const sounding = useCallback(() => engine.isSounding, [engine]);
  return (
    <Meter
      level={level}
      sounding={sounding}
      testId={track === null ? "meter" : `meter-${track}`}
      className={className}
    />
  );
}
