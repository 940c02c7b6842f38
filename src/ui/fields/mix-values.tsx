"use client";
import { MIX_RANGES, type Mix, type MixField, PLAIN_MIX, SEND_OFF } from "@/core/sound";
import type { Track } from "@/core/score";
import { sendText } from "../controls/send-text";
import { SliderField } from "../controls/slider-field";
import { changeMix } from "../commands/tracks/mix";
import { useDesk, useSession } from "../session/context";

const DUCK: readonly MixField[] = ["duckDepth", "duckRelease"];

function text(field: MixField, value: number): string {
  const { unit, min } = MIX_RANGES[field];
  if (min === SEND_OFF) return sendText(value);
  if (field === "duckDepth") return `${value} dB`;
  return unit === "dB" ? `${value > 0 ? "+" : ""}${value} dB` : `${value} ${unit}`;
}

/** One value of what a track goes through. */
export function MixValue({ track, name }: { track: Track; name: MixField }) {
  const { store } = useDesk();
  const { label, min, max, step, plain } = MIX_RANGES[name];
  const duck = name.startsWith("duck");
  return (
    <SliderField
      label={duck ? `${label} of ducking` : `${label} of the track`}
      shown={label}
      labelWidth="w-[86px] pl-2.5"
      value={{ ...PLAIN_MIX, ...track.mix }[name]}
      min={min}
      max={max}
      step={step}
      reset={plain}
      format={(value) => text(name, value)}
      onChange={(value) =>
        changeMix(
          store,
          track.id,
          { [name]: value },
          { label: duck ? `Ducking ${label.toLowerCase()}` : label, field: name },
        )
      }
    />
  );
}

/** What ducks a track, how deep and how long. */
export function Ducking({ track }: { track: Track }) {
  const { store } = useDesk();
  return (
    <>
      <DuckChoice
        track={track}
        onChoose={(part) => changeMix(store, track.id, part, { label: "Ducking" })}
      />
      {{ ...PLAIN_MIX, ...track.mix }.duckBy !== "" &&
        DUCK.map((name) => <MixValue key={name} track={track} name={name} />)}
    </>
  );
}

/** Whose hits press the track down: a lane of a drum track, or none. */
function DuckChoice({ track, onChoose }: { track: Track; onChoose(part: Mix): void }) {
  const tracks = useSession((state) => state.project.tracks);
  const kits = tracks.filter(({ id, kind }) => kind === "drums" && id !== track.id);
  const { duckBy, duckPad } = { ...PLAIN_MIX, ...track.mix };
  const kit = kits.find(({ id }) => id === duckBy);
  const known = kit?.lanes.some(({ pitch }) => pitch === duckPad);
  if (kits.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      <span className="quiet w-[86px] shrink-0 pl-2.5">Ducked by</span>
      <select
        className="select select-xs min-w-0 flex-1"
        aria-label="Ducked by"
        value={duckBy && `${duckPad} ${duckBy}`}
        onChange={(event) => {
          const [pad, ...by] = event.target.value.split(" ");
          onChoose(by.length > 0 ? { duckBy: by.join(" "), duckPad: Number(pad) } : { duckBy: "" });
        }}
      >
        <option value="">nothing</option>
        {kit && !known && (
          <option value={`${duckPad} ${duckBy}`}>a lane of {kit.name} that is gone</option>
        )}
        {kits.map((one) => (
          <optgroup key={one.id} label={one.name}>
            {one.lanes.map((lane) => (
              <option key={lane.id} value={`${lane.pitch} ${one.id}`}>
                {lane.name}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
    </label>
  );
}
