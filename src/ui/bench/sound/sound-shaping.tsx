"use client";
import { shapingOf, soundOf } from "@/audio/sounds";
import { shapesFor } from "@/audio/melodic/controls";
import { PLAIN_SOUND, SOUND_CONTROLS, type Shaping, type SoundControl } from "@/core/sound";
import type { Track } from "@/core/score";
import { soundPresets } from "@/core/stored";
import { SliderField } from "../../controls/slider-field";
import { useDesk } from "../../session/context";
import { takeShaping, shapeSound } from "../../commands/tracks/shaping";
import { Presets } from "../shared/presets";

/** A control's value as it is read. */
function controlText(control: SoundControl, value: number): string {
  const { unit } = SOUND_CONTROLS[control];
  if (unit === "±%") return `${value > 0 ? "+" : ""}${value} %`;
  if (control === "glide" && value === 0) return "off";
  return unit === "×" ? `× ${value}` : `${value} ${unit}`;
}

/** How the sound of a melodic track is shaped: the controls that suit it, and values under a name. */
export function SoundShaping({ track }: { track: Track }) {
  const { store } = useDesk();
  const sound = soundOf(track);
  const { id, label, category, controls } = sound;
  const own = shapingOf(track, sound);
  const values = { ...PLAIN_SOUND, ...own };
  const take = (shaping: Shaping, name: string) =>
    takeShaping(store, track.id, shaping, { sound: label, name });
  return (
    <section
      aria-label={`Shape of ${label}`}
      className="flex flex-col gap-1.5 rounded-box border border-base-300 p-2.5"
    >
      <div className="flex items-baseline gap-2">
        <h3 className="min-w-0 flex-1 truncate text-[13px] font-semibold">Shape: {label}</h3>
        <button
          className="quiet min-h-6 underline underline-offset-2 disabled:opacity-50"
          disabled={Object.keys(own).length === 0}
          onClick={() => take({}, "As it is")}
        >
          Reset shape
        </button>
      </div>
      {controls.map((control) => {
        const { label: name, min, max, step, plain } = SOUND_CONTROLS[control];
        const many = max / min > 20 && min > 0;
        return (
          <SliderField
            key={control}
            label={`${name} of the sound`}
            shown={name}
            labelWidth="w-[76px]"
            value={values[control]}
            min={min}
            max={max}
            step={step}
            log={many}
            reset={plain}
            format={(value) => controlText(control, value)}
            onChange={(value) => shapeSound(store, track.id, control, value)}
          />
        );
      })}
      <Presets of={soundPresets(id)} shipped={shapesFor(category)} params={own} onTake={take} />
    </section>
  );
}
