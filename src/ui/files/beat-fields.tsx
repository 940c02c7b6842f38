"use client";
import type { Seconds } from "@/core/base";
import { PLAIN_SENSITIVITY } from "@/core/listen";
import { SliderField } from "../controls/slider-field";
import { ValueField } from "../controls/value-field";
import type { Corrections } from "./use-corrections";

const sure = (certainty: number) =>
  certainty > 0.8 ? "certain" : certainty > 0.4 ? "likely" : "a guess";

const tempoText = (tempo: number) => `${Number(tempo.toFixed(2))}`;

/** Tempo, sensitivity and first bar of a recording. */
export function BeatFields({
  corrections,
  length,
}: {
  corrections: Corrections;
  /** Length of the recording. */
  length: Seconds;
}) {
  const { laid, lay, found, byHand, sensitivity, listenAgain } = corrections;
  const others = (found.beat ? [laid.tempo / 2, laid.tempo * 2] : []).filter(
    (tempo) => tempo >= 30 && tempo <= 300,
  );
  return (
    <>
      <div className="flex items-center gap-2">
        <span className="quiet w-[88px]">Tempo</span>
        <ValueField
          label="Tempo of the recording"
          value={laid.tempo}
          min={20}
          max={400}
          step={0.1}
          className="w-20 font-medium"
          format={tempoText}
          onChange={(tempo) => lay({ ...laid, tempo })}
        />
        <span
          className="quiet"
          title="How far the next likely tempo is behind"
          data-testid="certainty"
        >
          {byHand ? "by hand" : found.beat ? sure(found.beat.certainty) : "not found"}
        </span>
        {others.map((tempo) => (
          <button
            key={tempo}
            className="btn btn-ghost btn-xs px-1.5"
            aria-label={`Take ${tempoText(tempo)} BPM`}
            onClick={() => lay({ ...laid, tempo })}
          >
            {tempoText(tempo)}
          </button>
        ))}
      </div>
      <SliderField
        label="Sensitivity"
        value={sensitivity}
        reset={PLAIN_SENSITIVITY}
        min={0}
        max={100}
        format={(value) => `${value} %`}
        onChange={(value) => void listenAgain(value)}
      />
      <div className="flex items-center gap-2">
        <span className="quiet w-[88px]">First bar at</span>
        <ValueField
          label="First bar"
          value={laid.first}
          min={0}
          max={Math.floor(length * 1000) / 1000}
          step={0.001}
          className="w-20 font-medium"
          format={(value) => `${value.toFixed(3)} s`}
          onChange={(first) => lay({ ...laid, first })}
        />
      </div>
    </>
  );
}
