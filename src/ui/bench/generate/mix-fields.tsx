"use client";
import { parsePitch, pitchName } from "@/core/pitch";
import { VALUES } from "../../commands/ideas/settings";
import { ValueField } from "../../controls/value-field";

/** The note values in the mix, each with its share of the time. */
export function Mix({
  weights,
  onChange,
}: {
  weights: number[];
  onChange(weights: number[]): void;
}) {
  return (
    <fieldset className="rounded-box border border-base-300 px-2 pt-1 pb-1.5">
      <legend className="quiet px-1">Note values 1/n, share of the time</legend>
      <div className="grid grid-cols-9">
        {VALUES.map((v, i) => (
          <label key={v.label} className="flex flex-col items-center gap-1">
            <input
              type="range"
              className="h-12 w-4 accent-[var(--color-primary)] [direction:rtl] [writing-mode:vertical-lr]"
              aria-label={`Share of ${v.label}`}
              min={0}
              max={5}
              step={1}
              value={weights[i]}
              onChange={(event) =>
                onChange(weights.map((w, k) => (k === i ? Number(event.target.value) : w)))
              }
            />
            <span className="figure text-[12px]">{v.label.slice(2)}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

/** Two ends of a range. */
export function FromTo(props: {
  label: string;
  low: number;
  high: number;
  onLow(value: number): void;
  onHigh(value: number): void;
  names: [string, string];
  pitch?: boolean;
}) {
  const { label, low, high, onLow, onHigh, names, pitch = false } = props;
  const shown = pitch
    ? { format: (pitch: number) => pitchName(pitch), parse: (text: string) => parsePitch(text) }
    : {};
  const field = { className: "w-12 text-center", ...shown };
  return (
    <div className="flex items-center justify-between">
      <span className="quiet">{label}</span>
      <span className="flex items-center gap-1">
        <ValueField
          {...field}
          label={names[0]}
          value={low}
          min={pitch ? 0 : 1}
          max={high}
          onChange={(value) => onLow(Math.round(value))}
        />
        to
        <ValueField
          {...field}
          label={names[1]}
          value={high}
          min={low}
          max={127}
          onChange={(value) => onHigh(Math.round(value))}
        />
      </span>
    </div>
  );
}
