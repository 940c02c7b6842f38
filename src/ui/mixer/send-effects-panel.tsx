"use client";
import {
  PLAIN_SEND_EFFECTS,
  SEND_EFFECT_RANGES,
  type SendEffects,
  type SendEffectField,
  SYNCED,
  type SyncedTime,
  TIME_VALUES,
  sendEffectTime,
} from "@/core/sound";
import { SliderField } from "../controls/slider-field";
import { Toggle } from "../controls/toggle";
import { changeSendEffects, setPingPong } from "../commands/tracks/mix";
import { useDesk, useSession } from "../session/context";

const REVERB: readonly SendEffectField[] = ["size", "decay", "tone", "preDelay"];
const ECHO: readonly SendEffectField[] = ["echoTime", "feedback", "echoTone"];

const isTime = (field: SendEffectField): field is SyncedTime => Object.hasOwn(SYNCED, field);

function text(field: SendEffectField, value: number): string {
  const { unit } = SEND_EFFECT_RANGES[field];
  if (unit === "Hz" && value >= 1000) return `${(value / 1000).toFixed(1)} kHz`;
  if (field === "decay") return `${(value / 1000).toFixed(2)} s`;
  return unit === "ms" ? `${Math.round(value)} ms` : `${value} ${unit}`;
}

/** The room that all tracks share: its reverb, and its echo. */
export function SendEffectsPanel() {
  const { store } = useDesk();
  const room = useSession((state) => state.project.room);
  const pingPong = room?.pingPong ?? PLAIN_SEND_EFFECTS.pingPong;
  const fields = (of: string, list: readonly SendEffectField[]) =>
    list.map((field) => (
      <SendEffectValue
        key={field}
        of={of}
        field={field}
        room={room}
        onChange={(part) => changeSendEffects(store, part, { of, field })}
      />
    ));
  return (
    <div className="flex w-[300px] shrink-0 flex-col gap-1 overflow-y-auto border-l border-base-300 px-3 py-1 text-[12px]">
      <section aria-label="Reverb" className="flex flex-col gap-1">
        <h3 className="flex h-7 items-center text-[13px] font-medium">Reverb</h3>
        {fields("Reverb", REVERB)}
      </section>
      <section aria-label="Echo" className="flex flex-col gap-1">
        <div className="flex h-7 items-center justify-between">
          <h3 className="text-[13px] font-medium">Echo</h3>
          <Toggle
            label="Ping-pong"
            title="Back and forth between left and right"
            on={pingPong}
            onClick={() => setPingPong(store, !pingPong)}
          />
        </div>
        {fields("Echo", ECHO)}
      </section>
    </div>
  );
}

interface Props {
  of: string;
  field: SendEffectField;
  room: SendEffects | undefined;
  onChange(part: SendEffects): void;
}

function SendEffectValue({ of, field, room, onChange }: Props) {
  const tempo = useSession((state) => state.project.tempo);
  const values = { ...PLAIN_SEND_EFFECTS, ...room };
  const { label, min, max, step, plain } = SEND_EFFECT_RANGES[field];
  const name = isTime(field) ? values[SYNCED[field]] : "";
  const value = isTime(field) ? sendEffectTime(room, field, tempo) : values[field];
  return (
    <div className="flex items-center gap-1">
      <div className="min-w-0 flex-1">
        <SliderField
          label={`${label} of the ${of.toLowerCase()}`}
          shown={label}
          labelWidth="w-[58px]"
          value={Math.round(value * 100) / 100}
          min={min}
          max={max}
          step={step}
          reset={plain}
          log={max / Math.max(min, 1) > 15 && min > 0}
          format={(value) => text(field, value)}
          // A time set by hand is a time in ms.
          onChange={(value) =>
            onChange(isTime(field) ? { [field]: value, [SYNCED[field]]: "" } : { [field]: value })
          }
        />
      </div>
      {isTime(field) && (
        <select
          className="select select-xs w-[64px] shrink-0 px-1.5"
          aria-label={`${label} of the ${of.toLowerCase()} as a note value`}
          title="A note value: it follows the tempo"
          value={name}
          onChange={(event) => onChange({ [SYNCED[field]]: event.target.value })}
        >
          <option value="">ms</option>
          {TIME_VALUES.map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
