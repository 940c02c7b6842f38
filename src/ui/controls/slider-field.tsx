"use client";
import type { Ref } from "react";
import { ValueField, type ValueFieldProps } from "./value-field";

type Props = Omit<ValueFieldProps, "className"> & {
  /** Width of the label, as a Tailwind class, so that the sliders of a panel line up. */
  labelWidth?: string;
  /** The label as it is seen, where the full name would be too long. */
  shown?: string;
  /** Equal distances are equal ratios, as for frequencies. */
  log?: boolean;
  /** The slider itself, to give it the keyboard. */
  sliderRef?: Ref<HTMLInputElement>;
};

/** Steps of a logarithmic slider. */
const FINE = 1000;

/** A number with its label, as a slider and as a field for the exact value. */
export function SliderField({
  labelWidth = "w-[88px]",
  log = false,
  shown,
  sliderRef,
  ...field
}: Props) {
  const { label, value, min, max, step = 1, onChange } = field;
  return (
    <div className="flex items-center gap-2">
      <span className={`quiet shrink-0 leading-tight ${labelWidth}`}>{shown ?? label}</span>
      <input
        ref={sliderRef}
        type="range"
        className="range range-xs min-w-0 flex-1 [--range-fill:0]"
        aria-label={label}
        min={log ? 0 : min}
        max={log ? FINE : max}
        step={log ? 1 : step}
        value={log ? (FINE * Math.log(value / min)) / Math.log(max / min) : value}
        aria-valuetext={field.format?.(value)}
        onChange={(event) => {
          const at = Number(event.target.value);
          const to = log ? rounded(min * (max / min) ** (at / FINE)) : at;
          onChange(to, { how: "set", to });
        }}
      />
      <ValueField {...field} className="w-20 text-right font-medium" />
    </div>
  );
}

/** Three figures are enough for what is heard. */
const rounded = (value: number) => Number(value.toPrecision(3));
