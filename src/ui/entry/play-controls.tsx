"use client";
import { useRef, useSyncExternalStore, type PointerEvent } from "react";
import { KEY_LAYOUTS, type KeyLayout } from "@/core";
import { Choice } from "../controls/choice";
import { Toggle } from "../controls/toggle";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { Dynamics } from "./dynamics";
import { KEYS } from "./entry-keys";
import { Octave } from "./octave";
import { useChordNow } from "./use-played";

const LABELS: Readonly<Record<KeyLayout, string>> = {
  piano: "Piano",
  "two-row piano": "Two rows",
  pads: "Pads",
  "scale rows": "Scale rows",
};

/** What goes with playing: how the keys lie, how loud they are, bend and sustain. */
export function PlayControls() {
  const desk = useDesk();
  const { store, player } = desk;
  const settings = useSession((s) => s.play.settings);
  const inScale = useSession((s) => s.inScale);
  const change = store.getState().setPlaySettings;
  const chord = useChordNow();
  const sustained = useSyncExternalStore(
    player.watch,
    () => player.isPedalled(KEYS),
    () => false,
  );
  return (
    <>
      <div className="flex flex-wrap items-center gap-1">
        <Choice
          label="How the keys lie"
          className="flex gap-0.5"
          optionClass="h-[26px] border-transparent px-2"
          value={settings.layout}
          options={KEY_LAYOUTS.map((value) => ({
            value,
            shown: LABELS[value],
            title: "Brackets go from one to the next",
          }))}
          onChange={(layout) => change({ layout })}
        />
        {settings.layout === "scale rows" ? (
          <label className="flex items-center gap-1" title="Degrees from one row to the next">
            <span className="quiet">Row step</span>
            <ValueField
              label="Row step"
              className="w-8 font-medium"
              value={settings.rowStep}
              min={1}
              max={12}
              reset={3}
              onChange={(rowStep) => change({ rowStep })}
            />
          </label>
        ) : (
          settings.layout !== "pads" && (
            <Toggle
              label="In scale"
              title="Hold the keys to the scale"
              on={inScale}
              onClick={() => store.getState().setTools({ inScale: !inScale })}
            />
          )
        )}
        {chord.name && (
          <span className="quiet" data-testid="chord-now">
            Now <b className="text-base-content">{chord.name}</b>
          </span>
        )}
      </div>
      <Dynamics
        velocity={settings.velocity}
        keys="← softer, → louder, shift an accent"
        onChange={(velocity) => change({ velocity })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <Octave keys="↓ down, ↑ up" />
        <BendStrip />
        <Toggle
          label="Sustain"
          title="Hold what is played (/ as long as it is down)"
          on={sustained}
          onClick={() => player.pedal(KEYS, !sustained, performance.now())}
        />
      </div>
    </>
  );
}

/** The wheel: pulled to either side it bends, let go it springs back. */
function BendStrip() {
  const { player } = useDesk();
  const strip = useRef<HTMLDivElement>(null);
  const knob = useRef<HTMLSpanElement>(null);
  const to = (value: number, time: number) => {
    player.bend("strip", value, time);
    if (knob.current) knob.current.style.left = `${50 + (value / 8192) * 44}%`;
  };
  const pull = (event: PointerEvent) => {
    const frame = strip.current!.getBoundingClientRect();
    const share = (event.clientX - frame.left) / frame.width;
    to(Math.round(Math.min(8191, Math.max(-8192, (share - 0.5) * 2.2 * 8192))), event.timeStamp);
  };
  const rest = (event: PointerEvent) => to(0, event.timeStamp);
  return (
    <div
      ref={strip}
      className="relative h-[22px] w-[110px] cursor-ew-resize touch-none rounded-full border border-base-300"
      role="slider"
      tabIndex={0}
      aria-label="Bend"
      aria-valuemin={-2}
      aria-valuemax={2}
      aria-valuenow={0}
      title="Bend up to two semitones (comma down, full stop up)"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        pull(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && pull(event)}
      onPointerUp={rest}
      onPointerCancel={rest}
      onLostPointerCapture={rest}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -8192, ArrowRight: 8191 }[event.key];
        if (by === undefined || event.repeat) return;
        event.preventDefault();
        event.stopPropagation();
        to(by, event.timeStamp);
      }}
      onKeyUp={(event) => event.key.startsWith("Arrow") && to(0, event.timeStamp)}
      onBlur={() => to(0, performance.now())}
    >
      <span className="absolute top-[3px] bottom-[3px] left-1/2 w-px bg-base-300" />
      <span
        ref={knob}
        className="absolute top-[2px] h-[16px] w-[10px] -translate-x-1/2 rounded-full bg-base-content"
        style={{ left: "50%" }}
      />
    </div>
  );
}
