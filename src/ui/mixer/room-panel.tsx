"use client";
import {
  PLAIN_ROOM,
  ROOM_RANGES,
  type Room,
  type RoomField,
  SYNCED,
  type SyncedTime,
  TIME_VALUES,
  roomTime,
} from "@/core/sound";
import { SliderField } from "../controls/slider-field";
import { Toggle } from "../controls/toggle";
import { changeRoom, setPingPong } from "../commands/tracks/mix";
import { useDesk, useSession } from "../session/context";

const REVERB: readonly RoomField[] = ["size", "decay", "tone", "preDelay"];
const ECHO: readonly RoomField[] = ["echoTime", "feedback", "echoTone"];

const isTime = (field: RoomField): field is SyncedTime => Object.hasOwn(SYNCED, field);

function text(field: RoomField, value: number): string {
  const { unit } = ROOM_RANGES[field];
  if (unit === "Hz" && value >= 1000) return `${(value / 1000).toFixed(1)} kHz`;
  if (field === "decay") return `${(value / 1000).toFixed(2)} s`;
  return unit === "ms" ? `${Math.round(value)} ms` : `${value} ${unit}`;
}

/** The room that all tracks share: its reverb, and its echo. */
export function RoomPanel() {
  const { store } = useDesk();
  const room = useSession((s) => s.project.room);
  const pingPong = room?.pingPong ?? PLAIN_ROOM.pingPong;
  const fields = (of: string, list: readonly RoomField[]) =>
    list.map((field) => (
      <RoomValue
        key={field}
        of={of}
        field={field}
        room={room}
        onChange={(part) => changeRoom(store, part, { of, field })}
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
  field: RoomField;
  room: Room | undefined;
  onChange(part: Room): void;
}

function RoomValue({ of, field, room, onChange }: Props) {
  const tempo = useSession((s) => s.project.tempo);
  const values = { ...PLAIN_ROOM, ...room };
  const { label, min, max, step, plain } = ROOM_RANGES[field];
  const name = isTime(field) ? values[SYNCED[field]] : "";
  const value = isTime(field) ? roomTime(room, field, tempo) : values[field];
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
          format={(v) => text(field, v)}
          // A time set by hand is a time in ms.
          onChange={(v) =>
            onChange(isTime(field) ? { [field]: v, [SYNCED[field]]: "" } : { [field]: v })
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
