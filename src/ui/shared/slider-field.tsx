"use client";
import { ValueField, type ValueFieldProps } from "./value-field";

type Props = Omit<ValueFieldProps, "className"> & {
  /** Width of the label, as a Tailwind class, so that the sliders of a panel line up. */
  labelWidth?: string;
};

/** A number with its label, as a slider and as a field for the exact value. */
export function SliderField({ labelWidth = "w-[88px]", ...field }: Props) {
  const { label, value, min, max, step = 1, onChange } = field;
  return (
    <div className="flex items-center gap-2">
      <span className={`quiet shrink-0 leading-tight ${labelWidth}`}>{label}</span>
      <input
        type="range"
        className="range range-xs min-w-0 flex-1 [--range-fill:0]"
        aria-label={label}
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
      />
      <ValueField {...field} className="w-20 text-right font-medium" />
    </div>
  );
}
