"use client";
import type { SchemaDescription } from "yup";
import type { ParamValue, ParamMeta } from "@/core/params";
import { ChoiceField, SwitchField } from "../controls/labelled";
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
  if (about.type === "boolean")
    return (
      <SwitchField label={label} value={Boolean(value)} className="min-h-7" onChange={onChange} />
    );
  if (about.type === "string")
    return (
      <ChoiceField
        label={label}
        value={String(value)}
        options={(about.oneOf ?? []).map(String)}
        className="min-h-7"
        size="select-sm w-44"
        onChange={onChange}
      />
    );
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
