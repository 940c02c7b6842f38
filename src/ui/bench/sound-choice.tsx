"use client";
import { useEffect, useRef, useState } from "react";
import { SOUNDS, soundOf, type Sound } from "@/audio/sounds";
import type { Track } from "@/core";
import { previewSound } from "../commands/tracks";
import { Choice } from "../controls/choice";
import { useDesk, useSession } from "../session/context";

/** It is pointed at for so long before it is heard: what is passed over is not. */
const REST_MS = 140;

/** Whether a sound is what is looked for: by its name, category or how it sounds. */
const fits = ({ label, category, about }: Sound, text: string): boolean =>
  text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${label} ${category} ${about}`.toLowerCase().includes(word));

/**
 * The melodic sounds by category, found by what they are called or how they sound. One that is pointed at is heard
 * with what the track plays, in the running loop, before it is chosen; the notes never change.
 */
export function SoundChoice({ track, onSound }: { track: Track; onSound(id: string): void }) {
  const { store, engine } = useDesk();
  const [text, setText] = useState("");
  const resting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const previewed = useSession((s) => s.soundPreview?.sound ?? null);
  const leave = () => {
    if (resting.current) clearTimeout(resting.current);
    previewSound(store, track.id, null);
  };
  useEffect(() => leave, [track.id]); // eslint-disable-line react-hooks/exhaustive-deps
  const rest = (sound: string) => {
    if (resting.current) clearTimeout(resting.current);
    resting.current = setTimeout(() => {
      previewSound(store, track.id, sound);
      const { playing, caret } = store.getState();
      if (!playing) void engine.audition(track.id, caret.pitch, 100, 0.6);
    }, REST_MS);
  };
  const found = SOUNDS.filter((sound) => sound.kind === "melody" && fits(sound, text));
  const categories = [...new Set(found.map((sound) => sound.category))];
  return (
    <div className="flex flex-col gap-2" onPointerLeave={leave}>
      <input
        className="input input-sm"
        type="search"
        aria-label="Find a sound"
        placeholder="Find a sound: warm, bell, bass …"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {found.length === 0 && <p className="quiet px-2">No matching sound</p>}
      {categories.map((category) => (
        <section key={category} aria-label={category}>
          <h3 className="quiet px-2.5 pb-1 text-[12px]">{category}</h3>
          <Choice
            label={`Sound: ${category}`}
            className="grid grid-cols-2 gap-1"
            optionClass={`rounded-box border-base-300 px-2.5 py-1.5 text-left`}
            value={soundOf(track).id}
            options={found
              .filter((sound) => sound.category === category)
              .map((sound) => ({
                value: sound.id,
                label: `${sound.label}: ${sound.about}`,
                shown: (
                  <span
                    className="block"
                    data-sound={sound.id}
                    data-previewed={previewed === sound.id || undefined}
                    onPointerEnter={() => rest(sound.id)}
                  >
                    <span
                      className={`block text-[13px] font-semibold ${previewed === sound.id ? "text-primary" : ""}`}
                    >
                      {sound.label}
                    </span>
                    <span className="quiet block text-[12px] leading-tight font-normal">
                      {sound.about}
                    </span>
                  </span>
                ),
              }))}
            onChange={(id) => {
              leave();
              onSound(id);
            }}
          />
        </section>
      ))}
    </div>
  );
}
