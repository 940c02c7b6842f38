"use client";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { SOUNDS, byCategory, soundOf, type Sound } from "@/audio/sounds";
import type { Track } from "@/core/score";
import { previewSound } from "../../commands/tracks/tracks";
import { Choice } from "../../controls/choice";
import { nth } from "@/core/base";
import { useDesk, useSession } from "../../session/context";

/** It is pointed at for so long before it is heard: what is passed over is not. */
const REST_MS = 140;

/** Whether a sound is what is looked for: by its name, category or how it sounds. */
const fits = ({ label, category, about }: Sound, text: string): boolean =>
  text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => `${label} ${category} ${about}`.toLowerCase().includes(word));

/**
 * The sounds a track can have by category, found by what they are called or how they sound. One that is pointed at, or
 * walked to with the arrows from the field, is heard with what the track plays, in the running loop, before it is
 * chosen; the notes never change.
 */
export function SoundChoice({ track, onSound }: { track: Track; onSound(id: string): void }) {
  const { store, engine } = useDesk();
  const [text, setText] = useState("");
  const resting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const previewed = useSession((state) => state.soundPreview?.sound ?? null);
  const leave = () => {
    if (resting.current) clearTimeout(resting.current);
    previewSound(store, track.id, null);
  };
  useEffect(() => leave, [track.id]); // eslint-disable-line react-hooks/exhaustive-deps
  const hear = (sound: string) => {
    previewSound(store, track.id, sound);
    const { playing, caret } = store.getState();
    if (!playing) void engine.audition(track.id, caret.pitch, 100, 0.6);
  };
  const rest = (sound: string) => {
    if (resting.current) clearTimeout(resting.current);
    resting.current = setTimeout(() => hear(sound), REST_MS);
  };
  const found = SOUNDS.filter((sound) => sound.kind === track.kind && fits(sound, text));
  const list = useRef<HTMLDivElement>(null);
  const walk = (by: 1 | -1) => {
    const from = found.findIndex(({ id }) => id === (previewed ?? soundOf(track).id));
    const next = found[from < 0 ? 0 : (from + by + found.length) % found.length];
    if (!next) return;
    hear(next.id);
    list.current?.querySelector(`[data-sound="${next.id}"]`)?.scrollIntoView({ block: "nearest" });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp")
      walk(event.key === "ArrowDown" ? 1 : -1);
    else if (event.key === "Enter" && (previewed ?? found[0])) {
      const chosen = previewed ?? nth(found, 0).id;
      leave();
      onSound(chosen);
    } else if (event.key === "Escape" && (previewed || text)) {
      leave();
      setText("");
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div ref={list} className="flex flex-col gap-2" onPointerLeave={leave}>
      <input
        className="input input-sm"
        type="search"
        aria-label={track.kind === "drums" ? "Find a kit" : "Find a sound"}
        placeholder={
          track.kind === "drums"
            ? "Find a kit: dry, wooden, tiny …"
            : "Find a sound: warm, bell, bass …"
        }
        title="Arrow keys hear one after another, enter takes it"
        value={text}
        onKeyDown={onKeyDown}
        onBlur={leave}
        onChange={(event) => setText(event.target.value)}
      />
      <span className="sr-only" role="status">
        {previewed ? `Hearing ${SOUNDS.find(({ id }) => id === previewed)?.label ?? ""}` : ""}
      </span>
      {found.length === 0 && <p className="quiet px-2">No matching sound</p>}
      {byCategory(found).map(([category, sounds]) => (
        <section key={category} aria-label={category}>
          <h3 className="quiet px-2.5 pb-1 text-[12px]">{category}</h3>
          <Choice
            label={`Sound: ${category}`}
            className="grid grid-cols-2 gap-1"
            optionClass={`rounded-box border-base-300 px-2.5 py-1.5 text-left`}
            value={soundOf(track).id}
            options={sounds.map((sound) => ({
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
