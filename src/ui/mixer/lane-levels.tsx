"use client";
import { PAD_RANGES, type Track, padShapeOf } from "@/core/score";
import { setLaneLevel } from "../commands/tracks/lanes";
import { SliderField } from "../controls/slider-field";
import { Switch } from "../controls/switch";
import { flipSwitch } from "../commands/tracks/switches";
import { useDesk } from "../session/context";

/** Levels of the lanes of a kit, one under another, with mute and solo. */
export function LaneLevels({ track }: { track: Track }) {
  const { store } = useDesk();
  const { min, max, step } = PAD_RANGES.level;
  const flip = (lane: Track["lanes"][number], what: "mute" | "solo") =>
    flipSwitch(store, { track: track.id, lane: lane.id }, what);
  return (
    <section
      aria-label={`Lanes of ${track.name}`}
      className="flex w-[284px] shrink-0 flex-col gap-1 overflow-y-auto border-r border-base-300 px-2 py-1 text-[12px]"
    >
      <h3 className="flex h-7 items-center text-[13px] font-medium">Lanes of {track.name}</h3>
      {track.lanes.map((lane) => (
        <div key={lane.id} className="flex min-h-7 shrink-0 items-center gap-1.5">
          <div className="min-w-0 flex-1">
            <SliderField
              label={`Level of ${lane.name}`}
              shown={lane.name}
              labelWidth="w-[64px] truncate"
              value={padShapeOf(track.kit, lane.pitch).level}
              min={min}
              max={max}
              step={step}
              reset={0}
              format={(value) => value.toFixed(1)}
              onChange={(level) => setLaneLevel(store, track.id, lane, level)}
            />
          </div>
          <Switch
            letter="M"
            label={`Mute ${lane.name} in the mixer`}
            on={lane.mute}
            onClick={() => flip(lane, "mute")}
          />
          <Switch
            letter="S"
            label={`Solo ${lane.name} in the mixer`}
            on={lane.solo}
            onClick={() => flip(lane, "solo")}
          />
        </div>
      ))}
    </section>
  );
}
