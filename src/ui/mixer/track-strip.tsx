"use client";
import { SlidersVertical } from "lucide-react";
import { useCallback } from "react";
import { SOUNDS, byCategory, soundOf } from "@/audio/sounds";
import { MIX_RANGES, PLAIN_MIX, SENDS, SEND_OFF } from "@/core/sound";
import { LIMITS, type Track } from "@/core/score";
import { chooseSound } from "../commands/tracks/tracks";
import { LevelBoard } from "../controls/level-board";
import { PAN_FIELD } from "../controls/pan-field";
import { sendText } from "../controls/send-text";
import { Switch } from "../controls/switch";
import { ValueField } from "../controls/value-field";
import { setTrackLevel, setTrackPan, setSend } from "../commands/tracks/mix";
import { flipSwitch } from "../commands/tracks/switches";
import { Popover } from "../controls/popover";
import { Ducking } from "../fields/mix-values";
import { useDesk, useSession } from "../session/context";

const MARKS = [6, 0, -6, -12, -24, -48] as const;
export const levelText = (db: number) =>
  db <= LIMITS.level.min ? "silent" : `${db > 0 ? "+" : ""}${db.toFixed(1)}`;

interface Props {
  track: Track;
  /** Its place among the tracks, for its colour. */
  index: number;
  lanes: boolean;
  onLanes(): void;
}

/** One track of the mixer: sound, level with its meter, pan, sends, mute and solo. */
export function TrackStrip({ track, index, lanes, onLanes }: Props) {
  const { store, engine } = useDesk();
  const current = useSession((state) => state.track === track.id);
  const peak = useCallback(() => engine.peakOf(track.id), [engine, track.id]);
  const sounding = useCallback(() => engine.isSounding, [engine]);
  const mix = { ...PLAIN_MIX, ...track.mix };
  const ink = `var(--track-${index % 8})`;
  return (
    <section
      aria-label={`Mixer: ${track.name}`}
      className={`flex w-[112px] shrink-0 flex-col border-r border-base-300 px-2 pt-1 pb-2 text-[12px] ${current ? "bg-primary/5" : ""}`}
      onPointerDownCapture={() => store.getState().setTrack(track.id)}
      onFocusCapture={() => store.getState().setTrack(track.id)}
    >
      <div className="h-[3px] rounded-full" style={{ background: ink }} />
      <div className="flex h-7 items-center gap-1">
        <span
          className={`min-w-0 flex-1 truncate text-[13px] ${current ? "font-semibold" : "font-medium"}`}
          title={track.name}
        >
          {track.name}
        </span>
        {track.kind === "drums" && (
          <button
            className={`grid h-6 w-6 shrink-0 place-items-center rounded-full ${lanes ? "bg-primary text-primary-content" : "hover:bg-base-200"}`}
            aria-pressed={lanes}
            aria-label={`Levels of the lanes of ${track.name}`}
            title="Levels of its lanes"
            onClick={onLanes}
          >
            <SlidersVertical size={13} />
          </button>
        )}
      </div>
      <select
        className="select select-xs w-full pr-5 pl-1.5"
        aria-label={`Sound of ${track.name}`}
        value={soundOf(track).id}
        onChange={(event) => chooseSound(store, track.id, event.target.value)}
      >
        {byCategory(SOUNDS.filter(({ kind }) => kind === track.kind)).map(([category, sounds]) => (
          <optgroup key={category} label={category}>
            {sounds.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <LevelBoard
        className="mt-1 min-h-[96px] flex-1 pb-2"
        label={`Level of ${track.name}`}
        value={track.level}
        scale={LIMITS.level}
        marks={MARKS}
        colour={ink}
        peak={peak}
        sounding={sounding}
        text={(value) => (value <= LIMITS.level.min ? "silent" : `${value} dB`)}
        onChange={(level) => setTrackLevel(store, track.id, level)}
      />
      <div className="mb-1 flex shrink-0 items-center justify-between gap-1">
        <ValueField
          label={`Level of ${track.name} in dB`}
          className="w-[52px] font-medium"
          value={track.level}
          {...LIMITS.level}
          step={0.5}
          reset={0}
          format={levelText}
          onChange={(level) => setTrackLevel(store, track.id, level)}
        />
        <span className="flex gap-1">
          <Switch
            letter="M"
            label={`Mute ${track.name}`}
            on={track.mute}
            onClick={() => flipSwitch(store, { track: track.id }, "mute")}
          />
          <Switch
            letter="S"
            label={`Solo ${track.name}`}
            on={track.solo}
            onClick={() => flipSwitch(store, { track: track.id }, "solo")}
          />
        </span>
      </div>
      <Line
        label="Pan"
        full={`Pan of ${track.name}`}
        value={Math.round(track.pan * 100)}
        {...PAN_FIELD}
        step={1}
        onChange={(pan) => setTrackPan(store, track.id, pan / 100)}
      />
      {SENDS.map((send) => (
        <Line
          key={send}
          label={MIX_RANGES[send].label}
          full={`${MIX_RANGES[send].label} of ${track.name}`}
          value={mix[send]}
          min={SEND_OFF}
          max={MIX_RANGES[send].max}
          step={0.5}
          reset={SEND_OFF}
          format={sendText}
          onChange={(db) => setSend(store, track.id, send, db)}
        />
      ))}
      <DuckButton track={track} />
    </section>
  );
}

/** What ducks the track, to open and set. */
function DuckButton({ track }: { track: Track }) {
  const by = useSession(({ project }) => {
    const { duckBy, duckPad } = { ...PLAIN_MIX, ...track.mix };
    const kit = project.tracks.find(({ id }) => id === duckBy);
    return kit ? (kit.lanes.find(({ pitch }) => pitch === duckPad)?.name ?? kit.name) : "–";
  });
  const any = useSession(({ project }) =>
    project.tracks.some(({ id, kind }) => kind === "drums" && id !== track.id),
  );
  return (
    <Popover
      label={`Ducking of ${track.name}`}
      side="top"
      className="w-[270px] gap-1.5 p-3 text-[12px]"
      trigger={
        <button
          className="flex h-[24px] items-center justify-between gap-1 rounded px-0.5 hover:bg-base-200 disabled:opacity-50"
          aria-label={`Ducking of ${track.name}: ${by}`}
          title={
            any
              ? "Ducking: whose hits press this track down"
              : "Ducking needs another track with a kit"
          }
          disabled={!any}
        >
          <span className="quiet">Duck</span>
          <span className="truncate">{by}</span>
        </button>
      }
    >
      <Ducking track={track} />
    </Popover>
  );
}

interface LineProps {
  label: string;
  full: string;
  value: number;
  min: number;
  max: number;
  step: number;
  reset: number;
  format(value: number): string;
  parse?(text: string): number | null;
  onChange(value: number): void;
}

/** A value of a strip: its name and figure, and under them a slider as wide as the strip. */
function Line({ label, full, ...field }: LineProps) {
  return (
    <div className="shrink-0">
      <div className="flex items-center justify-between">
        <span className="quiet">{label}</span>
        <ValueField
          label={`${full}: value`}
          className="w-[62px] text-right"
          {...field}
          // A strip is narrow, and all its levels are in dB.
          format={(value) => field.format(value).replace(" dB", "")}
        />
      </div>
      <input
        type="range"
        className="range range-xs my-2 w-full [--range-fill:0]"
        aria-label={full}
        aria-valuetext={field.format(field.value)}
        min={field.min}
        max={field.max}
        step={field.step}
        value={field.value}
        onDoubleClick={() => field.onChange(field.reset)}
        onChange={(event) => field.onChange(Number(event.target.value))}
      />
    </div>
  );
}
