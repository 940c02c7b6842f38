"use client";
import { SOUNDS, soundOf } from "@/audio/sounds";
import { KIT_RANGES, LIMITS, PLAIN_KIT, type Track } from "@/core/score";
import { KIT_PRESETS } from "@/core/stored";
import { useState, type ReactNode } from "react";
import { ChevronLeft, ChevronRight, Drum, Volume2 } from "lucide-react";
import {
  chooseSound,
  deleteTrack,
  previewSound,
  stepSound,
  takeKit,
  renameTrack,
} from "../../commands/tracks/tracks";
import { PAN_FIELD } from "../../controls/pan-field";
import { SliderField } from "../../controls/slider-field";
import { useDesk, useSession } from "../../session/context";
import { SoundShaping } from "./sound-shaping";
import { SoundChoice } from "./sound-choice";
import { Presets } from "../shared/presets";
import { TrackMix } from "./track-mix";
import { setTrackLevel, setTrackPan } from "../../commands/tracks/mix";
import { shapeKit } from "../../commands/tracks/shaping";
import { PadEditor } from "./pad-editor";
import { keyed } from "../../person/keys";

/** Sound, level and pan of the current track. Changing the sound never touches the notes. */
export function SoundPanel() {
  const { store, engine } = useDesk();
  const track = useSession((state) =>
    state.project.tracks.find((track) => track.id === state.track),
  );
  const pitch = useSession((state) => state.caret.pitch);
  if (!track) return <p className="quiet p-4">Add a track first, on the left.</p>;
  const hear = () => void engine.audition(track.id, pitch, 104, 0.5);
  const choose = (sound: string) => {
    chooseSound(store, track.id, sound);
    if (!store.getState().playing) hear();
  };
  return (
    <div className="flex flex-col gap-3 overflow-y-auto p-3.5 text-[12px]">
      <TrackName
        key={`${track.id} ${track.name}`}
        track={track}
        onName={(name) => renameTrack(store, track.id, name)}
      />
      {track.kind === "drums" ? (
        <>
          <KitChoice track={track} onKit={choose} />
          <PadEditor track={track} kit={soundOf(track).id} />
          <WholeKit track={track} />
        </>
      ) : (
        <>
          <CurrentSound track={track} onHear={hear} />
          <SoundShaping track={track} />
          <SoundChoice track={track} onSound={choose} />
        </>
      )}
      <h3 className="px-2.5 text-[13px] font-semibold">Track</h3>
      <SliderField
        label="Level of the track"
        shown="Level"
        labelWidth="w-[86px] pl-2.5"
        value={track.level}
        min={LIMITS.level.min}
        max={LIMITS.level.max}
        step={0.5}
        reset={0}
        format={(value) => (value <= LIMITS.level.min ? "silent" : `${value.toFixed(1)} dB`)}
        onChange={(level) => setTrackLevel(store, track.id, level)}
      />
      <SliderField
        label="Pan of the track"
        shown="Pan"
        labelWidth="w-[86px] pl-2.5"
        value={Math.round(track.pan * 100)}
        {...PAN_FIELD}
        onChange={(pan) => setTrackPan(store, track.id, pan / 100)}
      />
      <TrackMix track={track} />
      <button
        className="btn btn-sm btn-ghost self-start text-error"
        onClick={() => deleteTrack(store, track.id)}
      >
        Delete track
      </button>
    </div>
  );
}

interface ChoiceProps {
  track: Track;
}

/** Which kit plays the hits; stepped through with a key, also while it plays. */
function KitChoice({ track, onKit }: ChoiceProps & { onKit(id: string): void }) {
  const { store } = useDesk();
  const kits = SOUNDS.filter((sound) => sound.kind === "drums");
  const [open, setOpen] = useState(false);
  const kit = soundOf(track);
  return (
    <div className="flex flex-col gap-1">
      <div className="flex gap-1">
        <Stepper what="kit" onStep={(by) => stepSound(store, by)}>
          <select
            className="select select-sm min-w-0 flex-1 font-semibold"
            aria-label="Kit"
            value={kit.id}
            onChange={(event) => onKit(event.target.value)}
          >
            {kits.map((sound) => (
              <option key={sound.id} value={sound.id}>
                {sound.label}
              </option>
            ))}
          </select>
        </Stepper>
      </div>
      <p className="quiet leading-snug">{kit.about}</p>
      <button
        className="quiet flex min-h-6 items-center gap-1 self-start rounded px-1 text-[12px]"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <Drum size={12} /> Try all kits
      </button>
      {open && <SoundChoice track={track} onSound={onKit} />}
      <Presets
        of={KIT_PRESETS}
        label="Your kits"
        params={{ sound: kit.id, kit: track.kit ?? PLAIN_KIT }}
        onTake={(own, name) => takeKit(store, track.id, own, name)}
        onPoint={(own) => previewSound(store, track.id, own && own.sound, own?.kit)}
      />
    </div>
  );
}

/** What is done to all pads at once. */
function WholeKit({ track }: ChoiceProps) {
  const { store } = useDesk();
  const kit = track.kit ?? PLAIN_KIT;
  return (
    <section aria-label="Whole kit" className="flex flex-col gap-1.5 px-2.5">
      <h3 className="text-[13px] font-semibold">Whole kit</h3>
      {(Object.keys(KIT_RANGES) as (keyof typeof KIT_RANGES)[]).map((field) => {
        const { label, min, max, step, unit } = KIT_RANGES[field];
        return (
          <SliderField
            key={field}
            label={`${label} of the kit`}
            shown={label}
            labelWidth="w-[76px]"
            value={kit[field]}
            min={min}
            max={max}
            step={step}
            reset={PLAIN_KIT[field]}
            format={(value) =>
              unit === "×" ? `× ${value}` : `${value > 0 ? "+" : ""}${value} ${unit}`
            }
            onChange={(value) => shapeKit(store, track.id, field, value)}
          />
        );
      })}
    </section>
  );
}

/** What a melodic track sounds with; stepped through with a key, and heard. */
function CurrentSound({ track, onHear }: ChoiceProps & { onHear(): void }) {
  const { store } = useDesk();
  const { label, category, about } = soundOf(track);
  return (
    <div className="flex flex-col gap-1">
      <div className="flex items-center gap-1">
        <Stepper what="sound" onStep={(by) => stepSound(store, by)}>
          <span className="min-w-0 flex-1 truncate text-center text-[13px] font-semibold">
            {label} <span className="quiet font-normal">{category.toLowerCase()}</span>
          </span>
        </Stepper>
        <button className="btn btn-sm px-2" onClick={onHear}>
          <Volume2 size={15} /> Hear
        </button>
      </div>
      <p className="quiet leading-snug">{about}</p>
    </div>
  );
}

/** The one before and the one after, about something. */
function Stepper({
  what,
  onStep,
  children,
}: {
  what: string;
  onStep(by: 1 | -1): void;
  children: ReactNode;
}) {
  return (
    <>
      <button
        className="btn btn-sm px-2"
        aria-label={`Previous ${what}`}
        {...keyed(`Previous ${what}`, "previous-kit")}
        onClick={() => onStep(-1)}
      >
        <ChevronLeft size={15} />
      </button>
      {children}
      <button
        className="btn btn-sm px-2"
        aria-label={`Next ${what}`}
        {...keyed(`Next ${what}`, "next-kit")}
        onClick={() => onStep(1)}
      >
        <ChevronRight size={15} />
      </button>
    </>
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
