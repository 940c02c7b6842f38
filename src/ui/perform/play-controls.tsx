"use client";
import { useSyncExternalStore } from "react";
import { KEY_LAYOUTS, type KeyLayout } from "@/core/perform";
import { BendStrip } from "../controls/bend-strip";
import { Choice } from "../controls/choice";
import { Toggle } from "../controls/toggle";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { Dynamics } from "./dynamics";
import { KEYS } from "./entry-keys";
import { Octave } from "./octave";
import { useSettings, setSettings } from "../person/settings";
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
  const settings = useSettings();
  const inScale = useSession((state) => state.inScale);
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
          onChange={(layout) => setSettings({ layout })}
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
              onChange={(rowStep) => setSettings({ rowStep })}
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
        onChange={(velocity) => setSettings({ velocity })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <Octave keys="↓ down, ↑ up" />
        <BendStrip
          title="Bend up to two semitones (comma down, full stop up)"
          onBend={(value, time) => player.bend("strip", value, time)}
        />
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
