"use client";
import { useRef } from "react";
import { PAD_SENDS, SENDS, SEND_OFF } from "@/core/sound";
import { PAD_FILTERS, PAD_RANGES, type PadField, type PadFilter, plainPad } from "@/core/score";
import { PAN_FIELD } from "../../controls/pan-field";
import { sendText } from "../../controls/send-text";
import { SliderField } from "../../controls/slider-field";
import { useRequest } from "../../session/requested";
import type { PadParts } from "./pad-parts";

/** Values in the order of the screen; those of the filter stand with its type. */
const FIRST: readonly PadField[] = ["start", "tune", "stretch", "decay", "drive"];
const FILTER: readonly PadField[] = ["cutoff", "resonance"];
const LAST: readonly PadField[] = ["level", "pan", "choke"];

/** Full names of what other panels have too. */
const OF_PAD: Partial<Record<PadField, string>> = {
  tune: "Pitch of the pad",
  level: "Level of the pad",
  pan: "Pan of the pad",
  start: "Start of the sound",
};

/** Everything of a pad that is a number, and its filter. `longest` is the length of its sound in ms. */
export function PadFields({ pad, shape, longest }: PadParts & { longest: number }) {
  const pitchField = useRef<HTMLInputElement>(null);
  useRequest("pad-pitch", () => pitchField.current?.focus());
  const plain = plainPad(pad.pitch);

  const field = (key: PadField) => {
    const range = PAD_RANGES[key];
    const pan = key === "pan";
    const label = OF_PAD[key] ?? range.label;
    const max = key === "start" ? Math.max(10, longest - 5) : key === "decay" ? 4000 : range.max;
    return (
      <SliderField
        key={key}
        {...(key === "tune" && { sliderRef: pitchField })}
        label={label}
        shown={range.label}
        labelWidth="w-[76px]"
        log={key === "cutoff"}
        value={pan ? Math.round(pad.pan * 100) : pad[key]}
        min={range.min}
        max={Math.max(max, pad[key])}
        step={pan ? 1 : range.step}
        reset={plain[key]}
        format={(value) => shown(key, value)}
        {...(pan && PAN_FIELD)}
        {...(key === "cutoff" && { parse: parseHz })}
        onChange={(value) => shape(range.label, { [key]: pan ? value / 100 : value }, key)}
      />
    );
  };

  return (
    <>
      {FIRST.map(field)}
      <label className="flex items-center gap-2">
        <span className="quiet w-[76px] shrink-0">Filter</span>
        <select
          className="select select-xs flex-1"
          value={pad.filter}
          onChange={(event) => shape("Filter", { filter: event.target.value as PadFilter })}
        >
          {PAD_FILTERS.map((kind) => (
            <option key={kind} value={kind}>
              {kind}
            </option>
          ))}
        </select>
      </label>
      {pad.filter !== "off" && FILTER.map(field)}
      {LAST.map(field)}
      {SENDS.map((send) => (
        <SliderField
          key={send}
          label={`${PAD_SENDS[send].label} of the pad`}
          shown={PAD_SENDS[send].label}
          labelWidth="w-[76px]"
          value={pad[send] ?? SEND_OFF}
          min={SEND_OFF}
          max={PAD_SENDS[send].max}
          step={0.5}
          reset={SEND_OFF}
          format={sendText}
          onChange={(db) => shape(PAD_SENDS[send].label, { [send]: db }, send)}
        />
      ))}
    </>
  );
}

function shown(key: PadField, value: number): string {
  if (key === "decay" && value === 0) return "natural";
  if (key === "choke") return value === 0 ? "none" : `group ${value}`;
  if (key === "level") return `${value.toFixed(1)} dB`;
  if (key === "cutoff") return value >= 1000 ? `${(value / 1000).toFixed(2)} kHz` : `${value} Hz`;
  const { unit } = PAD_RANGES[key];
  if (key === "tune") return `${value > 0 ? "+" : ""}${value} st`;
  return unit === "×" ? `× ${value}` : `${value} ${unit}`;
}

/** `900`, `1.2k`, `1.2 kHz`. */
function parseHz(text: string): number | null {
  const found = /(\d+(?:[.,]\d+)?)\s*(k?)/i.exec(text);
  return found ? Number(found[1]!.replace(",", ".")) * (found[2] ? 1000 : 1) : null;
}
