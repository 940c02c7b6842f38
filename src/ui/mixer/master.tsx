"use client";
import { RotateCcw } from "lucide-react";
import { useCallback, useEffect, useRef } from "react";
import { SEND_EFFECT_RANGES } from "@/core/sound";
import { LevelBoard } from "../controls/level-board";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { setMixLevel } from "../commands/tracks/mix";
import { levelText } from "./track-strip";

const MARKS = [12, 6, 0, -6, -12] as const;
/** How often the figures are written, in ms: more often they could not be read. */
const EVERY_MS = 250;

const figure = (value: number) => (Number.isFinite(value) ? value.toFixed(1) : "–");

/** The whole mix: its level, and how loud it is. */
export function Whole() {
  const { store, engine } = useDesk();
  const level = useSession((state) => state.project.room?.level ?? 0);
  const integrated = useRef<HTMLElement>(null);
  const momentary = useRef<HTMLElement>(null);
  const highest = useRef<HTMLElement>(null);
  useEffect(() => {
    const timer = setInterval(() => {
      const read = engine.loudness()?.read();
      if (!read) return;
      if (integrated.current) integrated.current.textContent = figure(read.integrated);
      if (momentary.current) momentary.current.textContent = figure(read.momentary);
      if (highest.current) highest.current.textContent = figure(read.peak);
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [engine]);
  const peak = useCallback(() => engine.masterPeak(), [engine]);
  const sounding = useCallback(() => engine.isSounding, [engine]);
  const change = (db: number) => setMixLevel(store, db);
  return (
    <section
      aria-label="Whole mix"
      className="flex w-[126px] shrink-0 flex-col overflow-y-auto border-l border-base-300 px-2 pt-1 pb-2 text-[12px]"
    >
      <h3 className="flex h-7 items-center text-[13px] font-medium">Whole mix</h3>
      <LevelBoard
        className="min-h-[80px] flex-1 pb-2"
        label="Level of the mix"
        value={level}
        scale={SEND_EFFECT_RANGES.level}
        marks={MARKS}
        colour="var(--color-base-content)"
        peak={peak}
        sounding={sounding}
        text={(value) => `${value} dB`}
        onChange={change}
      />
      <ValueField
        label="Level of the mix in dB"
        className="w-[52px] font-medium"
        value={level}
        min={SEND_EFFECT_RANGES.level.min}
        max={SEND_EFFECT_RANGES.level.max}
        step={0.5}
        reset={0}
        format={levelText}
        onChange={change}
      />
      <dl className="mt-1 grid grid-cols-[auto_1fr] items-baseline gap-x-1 gap-y-0.5">
        <dt className="quiet" title="Integrated loudness since it was begun (ITU-R BS.1770)">
          LUFS
        </dt>
        <dd ref={integrated} data-testid="loudness" className="figure text-right font-medium">
          –
        </dd>
        <dt className="quiet">LUFS now</dt>
        <dd ref={momentary} className="figure text-right">
          –
        </dd>
        <dt className="quiet">Peak dB</dt>
        <dd ref={highest} data-testid="peak" className="figure text-right">
          –
        </dd>
      </dl>
      <button
        className="btn btn-xs mt-1 gap-1"
        title="Loudness and peak are measured from now on"
        onClick={() => engine.loudness()?.reset()}
      >
        <RotateCcw size={12} /> Reset loudness
      </button>
    </section>
  );
}
