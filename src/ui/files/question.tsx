"use client";
import type { SchemaDescription } from "yup";
import type { ParamMeta, ParamValue } from "@/core";
import { SliderField } from "../controls/slider-field";

interface Props {
  name: string;
  /** What the format's schema says of it. */
  about: SchemaDescription & { oneOf?: unknown[] };
  value: ParamValue;
  reset: ParamValue;
  onChange(value: ParamValue): void;
}

/** One question of a format, from its schema: a switch, a choice or a number. */
export function Question({ name, about, value, reset, onChange }: Props) {
  const label = about.label ?? name;
  if (about.type === "boolean") {
    return (
      <label className="flex min-h-7 items-center justify-between gap-2">
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
      <label className="flex min-h-7 items-center justify-between gap-2">
        <span className="quiet">{label}</span>
        <select
          className="select select-sm w-44"
          value={String(value)}
          onChange={(event) => onChange(event.target.value)}
        >
          {(about.oneOf ?? []).map((option) => (
            <option key={String(option)} value={String(option)}>
              {String(option)}
            </option>
          ))}
        </select>
      </label>
    );
  }
  const { min, max, step, unit } = about.meta as ParamMeta & { min: number; max: number };
  return (
    <SliderField
      label={label}
      labelWidth="w-[136px]"
      value={Number(value)}
      reset={Number(reset)}
      min={min}
      max={max}
      step={step ?? 1}
      format={(v) => (unit ? `${v} ${unit}` : String(v))}
      onChange={onChange}
    />
  );
}
