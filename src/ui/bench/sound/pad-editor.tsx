"use client";
import { padName } from "@/core/pitch";
import { PAD_SENDS, SENDS, SEND_OFF } from "@/core/sound";
import {
  MAX_VARIANTS,
  PAD_FILTERS,
  PAD_RANGES,
  PLAIN_KIT,
  type PadField,
  type PadFilter,
  type PadShape,
  type Track,
  padShapeOf,
  plainPad,
} from "@/core/score";
import { KITS } from "@/audio/kits/registry";
import { Dices } from "lucide-react";
import { useRef, useState } from "react";
import { SAMPLE_TYPES, droppedFile, putSample } from "../../commands/files/sample";
import { PAN_FIELD } from "../../controls/pan-text";
import { sendText } from "../../controls/send-text";
import { SliderField } from "../../controls/slider-field";
import { ValueField } from "../../controls/value-field";
import { useRequest } from "../../session/requested";
import { useDesk, useSession } from "../../session/context";
import { shapePad } from "../../commands/tracks/shaping";
import { Waveform, useSource } from "./waveform";

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

/** How the pad of the current lane sounds: its source, and everything done to it. */
export function PadEditor({ track, kit }: { track: Track; kit: string }) {
  const { store, engine } = useDesk();
  const pitch = useSession((state) => state.caret.pitch);
  const picker = useRef<HTMLInputElement>(null);
  const pitchField = useRef<HTMLInputElement>(null);
  useRequest("pad-pitch", () => pitchField.current?.focus());
  const [over, setOver] = useState(false);
  const whole = track.kit ?? PLAIN_KIT;
  const pad = padShapeOf(track.kit, pitch);
  const source = useSource(kit, pad);
  const name = track.lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);

  const shape = (label: string, change: Partial<PadShape>, field?: string) =>
    shapePad(store, { track: track.id, pitch }, change, { label, ...(field && { field }) });
  const hear = (velocity: number) => void engine.audition(track.id, pitch, velocity, 0.5);
  const take = (file: File | null | undefined) => {
    if (file) void putSample(store, track.id, pitch, file);
  };
  const plain = plainPad(pitch);
  const longest = source ? Math.ceil((source.channels[0]!.length / source.rate) * 1000) : 1000;

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
    <section
      aria-label={`Pad ${name}`}
      className={`flex flex-col gap-1.5 rounded-box border p-2.5 ${over ? "border-primary" : "border-base-300"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(droppedFile(event.dataTransfer));
      }}
    >
      <div className="flex items-baseline gap-2">
        <h3 className="min-w-0 flex-1 truncate text-[13px] font-semibold">Pad: {name}</h3>
        <button
          className="quiet min-h-6 underline underline-offset-2 disabled:opacity-50"
          disabled={JSON.stringify(pad) === JSON.stringify(plain)}
          onClick={() => shape("Reset pad", { ...plain, ...ITSELF })}
        >
          Reset pad
        </button>
      </div>
      <Waveform
        source={source}
        pad={pad}
        whole={whole}
        onHear={hear}
        onShape={(change) =>
          shape("start" in change ? "Start" : "Decay", change, Object.keys(change)[0])
        }
      />
      <div className="flex items-center gap-2">
        <span
          className="min-w-0 flex-1 truncate"
          title={pad.sample?.name}
          data-testid="sample-name"
        >
          {pad.sample ? (
            pad.sample.name
          ) : (
            <span className="quiet">Drop a WAV, FLAC, MP3 or OGG</span>
          )}
        </span>
        {pad.sample && (
          <button className="btn btn-xs" onClick={() => shape("Kit’s own sound", { sample: null })}>
            Kit’s own
          </button>
        )}
        <button className="btn btn-xs" onClick={() => picker.current?.click()}>
          Choose a file
        </button>
        <input
          ref={picker}
          type="file"
          accept={SAMPLE_TYPES}
          className="hidden"
          aria-label="Sample file for the pad"
          onChange={(event) => {
            take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </div>
      {!pad.sample && (
        <div className="flex items-center gap-2">
          <label className="flex min-w-0 flex-1 items-center gap-2">
            <span className="quiet w-[76px] shrink-0">From</span>
            <select
              className="select select-xs min-w-0 flex-1"
              aria-label="Kit this pad is from"
              value={pad.from ?? ""}
              onChange={(event) =>
                shape("Pad of another kit", { from: event.target.value, variant: 0 })
              }
            >
              <option value="">its own kit</option>
              {KITS.filter(({ id }) => id !== kit).map(({ id, label }) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      {!pad.sample && (
        <div className="flex items-center gap-1.5">
          <button
            className="btn btn-xs gap-1"
            title="Another sound from the same voice, its values drawn anew"
            onClick={() => {
              shape(
                "Another like this",
                { variant: nextVariant(pad.variant) },
                `like-${track.id}-${pitch}`,
              );
              if (!store.getState().playing) hear(104);
            }}
          >
            <Dices size={13} /> Another like this
          </button>
          {pad.variant !== undefined && (
            <>
              <ValueField
                label="Which like it"
                className="w-14 text-right"
                value={pad.variant}
                min={1}
                max={MAX_VARIANTS}
                format={(value) => `no. ${value}`}
                onChange={(variant) => shape("Another like this", { variant })}
              />
              <button
                className="btn btn-xs"
                onClick={() => shape("The pad itself", { variant: 0 })}
              >
                Itself
              </button>
            </>
          )}
        </div>
      )}
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
    </section>
  );
}

/** A pad of its own kit, itself, that sends nothing anywhere. */
const ITSELF = { from: "", variant: 0, reverb: SEND_OFF, echo: SEND_OFF } as const;

/** The next of a pad's likes. */
const nextVariant = (variant = 0) => (variant % MAX_VARIANTS) + 1;

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
