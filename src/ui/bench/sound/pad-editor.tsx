"use client";
import { useEffect, useRef, useState } from "react";
import { padName } from "@/core/pitch";
import { SEND_OFF } from "@/core/sound";
import { type PadShape, PLAIN_KIT, type Track, padShapeOf, plainPad } from "@/core/score";
import { droppedFile, putSample } from "../../commands/files/sample";
import { shapePad } from "../../commands/tracks/shaping";
import { useDesk, useSession } from "../../session/context";
import { PadFields } from "./pad-fields";
import type { PadParts } from "./pad-parts";
import { PadKit, PadSample, PadVariants } from "./pad-source";
import { nth } from "@/core/base";
import { Waveform, useSource } from "./waveform";

/** How the pad of the current lane sounds: its source, and everything done to it. */
export function PadEditor({ track, kit }: { track: Track; kit: string }) {
  const { store, engine } = useDesk();
  const pitch = useSession((state) => state.caret.pitch);
  const [over, setOver] = useState(false);
  const whole = track.kit ?? PLAIN_KIT;
  const pad = padShapeOf(track.kit, pitch);
  const source = useSource(kit, pad);
  const name = track.lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);

  const shape: PadParts["shape"] = (label, change, field) =>
    shapePad(store, { track: track.id, pitch }, change, { label, ...(field && { field }) });
  const hear = (velocity: number) => void engine.audition(track.id, pitch, velocity, 0.5);
  const take = (file: File | null | undefined) => {
    if (file) void putSample(store, track.id, pitch, file);
  };
  useHeardWhenShaped(pad, hear);
  const plain = plainPad(pitch);
  const longest = source ? Math.ceil((nth(source.channels, 0).length / source.rate) * 1000) : 1000;
  const parts = { pad, shape };

  return (
    <section
      aria-label={`Pad ${name}`}
      className={`flex flex-col gap-1.5 rounded-box border p-2.5 ${over ? "border-primary" : "border-base-300"}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(droppedFile(event.dataTransfer));
      }}
    >
      <div className="flex items-baseline gap-2">
        <h3 className="min-w-0 flex-1 truncate text-[13px] font-semibold">Pad: {name}</h3>
        <button
          className="quiet min-h-6 underline underline-offset-2 disabled:opacity-50"
          disabled={JSON.stringify(pad) === JSON.stringify(plain)}
          onClick={() => shape("Reset pad", { ...plain, ...ITSELF })}
        >
          Reset pad
        </button>
      </div>
      <Waveform
        source={source}
        pad={pad}
        whole={whole}
        onHear={hear}
        onShape={(change) =>
          shape("start" in change ? "Start" : "Decay", change, Object.keys(change)[0])
        }
      />
      <PadSample {...parts} take={take} />
      {!pad.sample && (
        <>
          <PadKit {...parts} kit={kit} />
          <PadVariants {...parts} onNew={() => !store.getState().playing && hear(104)} />
        </>
      )}
      <PadFields {...parts} longest={longest} />
    </section>
  );
}

/** A pad of its own kit, itself, that sends nothing anywhere. */
const ITSELF = { from: "", variant: 0, reverb: SEND_OFF, echo: SEND_OFF } as const;

/** So long after the last change of a pad's values it sounds, where nothing plays, in ms. */
const SETTLED_MS = 150;

/** A pad sounds after its values were changed, by hand or by an undo, while nothing plays. */
function useHeardWhenShaped(pad: PadShape, hear: (velocity: number) => void): void {
  const { store } = useDesk();
  const shape = JSON.stringify(pad);
  const last = useRef({ pitch: pad.pitch, shape });
  const latest = useRef(hear);
  useEffect(() => {
    latest.current = hear;
  });
  useEffect(() => {
    const before = last.current;
    last.current = { pitch: pad.pitch, shape };
    // Another pad is no change of this one.
    if (before.pitch !== pad.pitch || before.shape === shape) return;
    const timer = setTimeout(() => {
      if (!store.getState().playing) latest.current(104);
    }, SETTLED_MS);
    return () => clearTimeout(timer);
  }, [store, pad.pitch, shape]);
}
