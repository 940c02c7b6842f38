"use client";
import { Volume2 } from "lucide-react";
import { SOUNDS, soundOf } from "@/audio/sounds";
import { LIMITS, edits, type Track } from "@/core";
import { panText, parsePan } from "../foot/foot";
import { useDesk, useSession } from "../session/context";
import { SliderField } from "../shared/slider-field";

/** Sound, level and pan of the track in hand. Changing the sound never touches the notes. */
export function SoundPanel() {
  const { store, engine } = useDesk();
  const track = useSession((s) => s.project.tracks.find((t) => t.id === s.track));
  const pitch = useSession((s) => s.caret.pitch);
  if (!track) return <p className="quiet p-4">Add a track first, on the left.</p>;
  const change = (label: string, part: Parameters<typeof edits.changeTrack>[2], group?: string) =>
    store.getState().edit(label, (p) => edits.changeTrack(p, track.id, part), group);
  const hear = () => void engine.audition(track.id, pitch, 104, 0.5);
  const choose = (sound: string) => {
    change("Sound", { sound });
    if (!store.getState().playing) hear();
  };
  const remove = () => {
    store.getState().edit(`Remove ${track.name}`, (p) => edits.removeTrack(p, track.id));
    const first = store.getState().project.tracks[0];
    if (first) store.getState().takeTrack(first.id);
    else store.setState({ track: "" });
  };
  return (
    <div className="flex flex-col gap-4 overflow-y-auto p-3.5 text-[12px]">
      <TrackName key={track.id} track={track} onName={(name) => change("Rename", { name })} />
      <div role="radiogroup" aria-label="Sound" className="flex flex-col gap-1.5">
        {SOUNDS.filter((sound) => sound.kind === track.kind).map((sound) => {
          const on = soundOf(track).id === sound.id;
          return (
            <button
              key={sound.id}
              role="radio"
              aria-checked={on}
              className={`rounded-box border px-3 py-2 text-left ${on ? "border-primary bg-primary/10" : "border-base-300 hover:border-base-content"}`}
              onClick={() => choose(sound.id)}
            >
              <span className="quiet float-right">{sound.category}</span>
              <span className="text-[13px] font-semibold">{sound.label}</span>
              <span className="quiet block">{sound.about}</span>
            </button>
          );
        })}
      </div>
      <button className="btn btn-sm gap-2 self-start" onClick={hear}>
        <Volume2 size={15} /> Hear it
      </button>
      <SliderField
        label="Level"
        labelWidth="w-12"
        value={track.level}
        min={LIMITS.level.min}
        max={LIMITS.level.max}
        step={0.5}
        reset={0}
        format={(v) => (v <= LIMITS.level.min ? "silent" : `${v.toFixed(1)} dB`)}
        onChange={(level) => change("Level", { level }, `level-${track.id}`)}
      />
      <SliderField
        label="Pan"
        labelWidth="w-12"
        value={Math.round(track.pan * 100)}
        min={-100}
        max={100}
        reset={0}
        format={panText}
        parse={parsePan}
        onChange={(pan) => change("Pan", { pan: pan / 100 }, `pan-${track.id}`)}
      />
      <button className="btn btn-sm btn-ghost self-start text-error" onClick={remove}>
        Remove this track
      </button>
    </div>
  );
}

function TrackName({ track, onName }: { track: Track; onName(name: string): void }) {
  return (
    <label className="flex items-center gap-2">
      <span className="quiet w-12">Name</span>
      <input
        className="input input-sm flex-1"
        defaultValue={track.name}
        maxLength={LIMITS.name}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        onBlur={(event) => {
          const name = event.target.value.trim();
          if (name && name !== track.name) onName(name);
          else event.target.value = track.name;
        }}
      />
    </label>
  );
}
