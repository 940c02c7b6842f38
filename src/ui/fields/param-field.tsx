"use client";
import { Dices } from "lucide-react";
import { useState } from "react";
import type { SchemaDescription } from "yup";
import { beatsInBar, nearestNoteValue, tempoTable } from "@/core/time";
import { RHYTHM, type ParamValue, type ParamMeta } from "@/core/params";
import { useSession } from "../session/context";
import { ChoiceField, SwitchField } from "../controls/labelled";
import { SliderField } from "../controls/slider-field";
import { ValueField } from "../controls/value-field";
import { GrooveField } from "./groove-field";
import { StepPattern } from "./step-pattern";
import { currentMetre } from "../state/current";

interface Props {
  name: string;
  /** What its schema says of it. */
  about: SchemaDescription & { oneOf?: unknown[] };
  value: ParamValue;
  reset: ParamValue;
  /** How much place there is: beside the sheet, or in a dialog. */
  place?: "panel" | "dialog";
  onChange(value: ParamValue): void;
}

/** How fields are laid out where they stand. */
const LAID = {
  panel: { row: "", choice: "select-xs w-36" },
  dialog: { row: "min-h-7", choice: "select-sm w-44", labelWidth: "w-[136px]" },
} as const;

interface ChoiceProps {
  label: string;
  value: string;
  onChange(value: string): void;
}

/** Beats of the bar to be chosen: `"2 4"`. */
function BeatChoice({ label, value, onChange }: ChoiceProps) {
  const beats = useSession((state) => beatsInBar(currentMetre(state)));
  const chosen = new Set(value.split(" ").filter(Boolean).map(Number));
  const toggle = (beat: number) => {
    const next = new Set(chosen);
    if (!next.delete(beat)) next.add(beat);
    onChange([...next].sort((a, b) => a - b).join(" "));
  };
  return (
    <div className="flex items-center justify-between gap-2" role="group" aria-label={label}>
      <span className="quiet">{label}</span>
      <span className="flex flex-wrap gap-1">
        {Array.from({ length: beats }, (_, i) => i + 1).map((beat) => (
          <button
            key={beat}
            className={`figure h-6 w-6 rounded-full border text-[12px] ${
              chosen.has(beat)
                ? "border-primary bg-primary text-primary-content"
                : "border-base-300"
            }`}
            aria-pressed={chosen.has(beat)}
            aria-label={`Beat ${beat}`}
            onClick={() => toggle(beat)}
          >
            {beat}
          </button>
        ))}
      </span>
    </div>
  );
}

/** Another track of the project, or none. */
function TrackChoice({ label, value, onChange }: ChoiceProps) {
  const tracks = useSession((state) => state.project.tracks);
  const own = useSession((state) => state.track);
  const others = tracks.filter((track) => track.id !== own);
  const gone = value !== "" && !others.some((track) => track.id === value);
  return (
    <label className="flex items-center justify-between gap-2">
      <span className="quiet">{label}</span>
      <select
        className="select select-xs w-36"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        <option value="">the grid</option>
        {gone && <option value={value}>a track that is gone</option>}
        {others.map((track) => (
          <option key={track.id} value={track.id}>
            {track.name}
          </option>
        ))}
      </select>
    </label>
  );
}

interface TempoChoiceProps {
  label: string;
  ms: number;
  min: number;
  max: number;
  onChange(ms: number): void;
}

/** The tempo table beside a free time: the note value it is nearest to, and all to choose from. */
function TempoChoice({ label, ms, min, max, onChange }: TempoChoiceProps) {
  const tempo = useSession((state) => state.project.tempo);
  const rows = tempoTable(tempo).filter((row) => row.ms >= min && row.ms <= max);
  const near = nearestNoteValue(ms, tempo);
  const error = near ? `${near.error >= 0 ? "+" : "−"}${Math.abs(near.error).toFixed(1)} %` : "";
  return (
    <label className="flex items-center justify-between gap-2">
      <span className="quiet figure text-[12px]">
        {near ? `near ${near.row.name}, ${error}` : ""}
      </span>
      <select
        className="select select-xs w-36"
        aria-label={`${label}: from the tempo table`}
        value=""
        onChange={(event) => onChange(Number(Number(event.target.value).toFixed(3)))}
      >
        <option value="" disabled>
          Tempo table
        </option>
        {rows.map((row) => (
          <option key={row.name} value={row.ms}>
            {row.name}: {row.ms.toFixed(1)} ms
          </option>
        ))}
      </select>
    </label>
  );
}

/** Lengths in steps, typed: what is none is said and not taken. */
function RhythmField({ label, value, onChange }: ChoiceProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? value;
  // Commas and plus signs between the steps do as well.
  const tidy = (raw: string) => raw.trim().replace(/[\s,+]+/g, " ");
  const wrong = !RHYTHM.test(tidy(text));
  return (
    <label className="flex flex-wrap items-center justify-between gap-x-2">
      <span className="quiet">{label}</span>
      <input
        className="input input-xs figure w-28"
        aria-invalid={wrong}
        value={text}
        maxLength={64}
        onChange={(event) => {
          setTyped(event.target.value);
          const next = tidy(event.target.value);
          if (RHYTHM.test(next)) onChange(next);
        }}
        onBlur={() => setTyped(null)}
      />
      {wrong && (
        <span role="alert" className="w-full text-error">
          Whole numbers of steps, such as 3 3 2
        </span>
      )}
    </label>
  );
}

interface NumberMeta {
  min: number;
  max: number;
  step: number;
  unit?: string;
}

function shown(value: number, unit: string | undefined): string {
  if (unit === "±") return `±${value}`;
  if (unit === "×") return `× ${value}`;
  return unit ? `${value} ${unit}` : String(value);
}

/**
 * One field for one parameter of a transform, option of a format or setting of ideas, built from its schema: slider and
 * number, choice, switch or seed.
 */
export function ParamField({ name, about, value, reset, place = "panel", onChange }: Props) {
  const label = about.label ?? name;
  const { row, choice, ...slider } = LAID[place];
  if (about.type === "boolean")
    return <SwitchField label={label} value={Boolean(value)} className={row} onChange={onChange} />;
  const { role, texts } = (about.meta ?? {}) as ParamMeta;
  if (role === "beats") {
    return <BeatChoice label={label} value={String(value)} onChange={onChange} />;
  }
  if (role === "track") {
    return <TrackChoice label={label} value={String(value)} onChange={onChange} />;
  }
  if (role === "steps") {
    return <StepPattern label={label} value={String(value)} onChange={onChange} />;
  }
  if (role === "groove") {
    return <GrooveField label={label} value={String(value)} onChange={onChange} />;
  }
  if (role === "rhythm") {
    return <RhythmField label={label} value={String(value)} onChange={onChange} />;
  }
  if (about.type === "string")
    return (
      <ChoiceField
        label={label}
        value={String(value)}
        options={(about.oneOf ?? []).map(String)}
        text={(option) => texts?.[option] ?? (role === "value" ? valueText(option) : option)}
        className={row}
        size={choice}
        onChange={onChange}
      />
    );
  const { min, max, step, unit } = about.meta as unknown as NumberMeta;
  const number = Number(value);
  const field = {
    label,
    value: number,
    min,
    max,
    step,
    reset: Number(reset),
    format: (value: number) => shown(value, unit),
    onChange,
    ...slider,
  };
  if (role === "rate") {
    return (
      <>
        <SliderField {...field} />
        <TempoChoice label={label} ms={number} min={min} max={max} onChange={onChange} />
      </>
    );
  }
  if (name === "seed") {
    return (
      <div className="flex items-center justify-between gap-2">
        <span className="quiet">{label}</span>
        <span className="flex items-center gap-1">
          <ValueField {...field} className="w-20 text-right font-medium" />
          <button
            className="btn btn-ghost btn-xs px-1"
            aria-label="New seed"
            title="New seed"
            onClick={() => onChange(Math.floor(Math.random() * 10000))}
          >
            <Dices size={14} />
          </button>
        </span>
      </div>
    );
  }
  return <SliderField {...field} />;
}

const valueText = (value: string) => (value === "own" ? "its own grid" : `1/${value}`);
