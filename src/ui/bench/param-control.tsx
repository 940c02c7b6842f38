"use client";
import { Dices } from "lucide-react";
import type { SchemaDescription } from "yup";
import type { ParamValue } from "@/core";
import { SliderField } from "../shared/slider-field";
import { ValueField } from "../shared/value-field";

interface Props {
  name: string;
  /** What the transform's schema says of this parameter. */
  about: SchemaDescription & { oneOf?: unknown[] };
  value: ParamValue;
  reset: ParamValue;
  onChange(value: ParamValue): void;
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

/** One control for one parameter, built from its schema: slider and number, choice, switch or seed. */
export function ParamControl({ name, about, value, reset, onChange }: Props) {
  const label = about.label ?? name;
  if (about.type === "boolean") {
    return (
      <label className="flex items-center justify-between gap-2">
        <span className="quiet">{label}</span>
        <input
          type="checkbox"
          className="toggle toggle-primary toggle-xs"
          checked={Boolean(value)}
          onChange={(event) => onChange(event.target.checked)}
        />
      </label>
    );
  }
  if (about.type === "string") {
    return (
      <label className="flex items-center justify-between gap-2">
        <span className="quiet">{label}</span>
        <select
          className="select select-xs w-36"
          value={String(value)}
          onChange={(event) => onChange(event.target.value)}
        >
          {(about.oneOf ?? []).map((option) => (
            <option key={String(option)} value={String(option)}>
              {optionText(name, String(option))}
            </option>
          ))}
        </select>
      </label>
    );
  }
  const { min, max, step, unit } = about.meta as unknown as NumberMeta;
  const number = Number(value);
  const field = {
    label,
    value: number,
    min,
    max,
    step,
    reset: Number(reset),
    format: (v: number) => shown(v, unit),
    onChange,
  };
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

function optionText(name: string, option: string): string {
  if (name === "value" && /^\d+$/.test(option)) return `1/${option}`;
  if (name === "value" && option === "own") return "its own grid";
  return option;
}
