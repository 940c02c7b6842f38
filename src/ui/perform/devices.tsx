"use client";
import { Piano as PianoIcon } from "lucide-react";
import { useEffect, useState } from "react";
import { Popover } from "../controls/popover";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { useSettings, setSettings } from "../person/settings";
import { askForMidi, useMidiState } from "./use-midi";

/** MIDI inputs: which there are, which speaks, which is listened to; and the simulated controller. */
export function Devices() {
  const [open, setOpen] = useState(false);
  return (
    <Popover
      label="MIDI devices"
      open={open}
      onOpenChange={setOpen}
      className="w-[300px] gap-2 p-3"
      trigger={
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="MIDI devices"
          title="MIDI devices and the simulated controller"
        >
          <PianoIcon size={16} />
        </button>
      }
    >
      <List />
    </Popover>
  );
}

function List() {
  const desk = useDesk();
  const { store } = desk;
  const { midi, open, problem } = useMidiState();
  const settings = useSettings();
  const shown = useSession((state) => state.perform.controllerOpen);
  const now = useNow();
  return (
    <>
      <ul className="flex flex-col gap-1" aria-label="MIDI inputs">
        {midi.ports.map((port) => (
          <li key={port.id} className="flex h-[26px] items-center gap-2">
            <span
              className={`h-2.5 w-2.5 rounded-full border border-base-content ${
                midi.isActive(port, now) ? "bg-primary" : ""
              }`}
              role="img"
              aria-label={midi.isActive(port, now) ? "speaks" : "silent"}
            />
            <span className={`truncate ${midi.isHeard(port) ? "" : "quiet line-through"}`}>
              {port.name}
            </span>
          </li>
        ))}
      </ul>
      {problem && (
        <p role="alert" className="text-error">
          {problem}
        </p>
      )}
      {!open && (
        <button className="btn btn-sm" onClick={() => void askForMidi(desk)}>
          Look for MIDI devices
        </button>
      )}
      <label className="flex items-center justify-between gap-2">
        <span className="quiet">Listen to</span>
        <select
          className="select select-sm w-40"
          aria-label="MIDI input"
          value={settings.midiInput ?? ""}
          onChange={(event) => setSettings({ midiInput: event.target.value || null })}
        >
          <option value="">All inputs</option>
          {[
            ...new Set([
              ...midi.ports.filter((port) => !port.simulated).map((port) => port.name),
              settings.midiInput ?? "",
            ]),
          ]
            .filter(Boolean)
            .map((name) => (
              <option key={name}>{name}</option>
            ))}
        </select>
      </label>
      <label className="flex items-center justify-between gap-2">
        <span className="quiet">Channel</span>
        <ValueField
          label="MIDI channel"
          className="w-20 text-right font-medium"
          value={settings.midiChannel}
          min={0}
          max={16}
          reset={0}
          format={(value) => (value === 0 ? "all" : String(value))}
          parse={(text) =>
            /^\s*\d{1,2}\s*$/.test(text) ? Number(text) : text.trim() === "all" ? 0 : null
          }
          onChange={(midiChannel) => setSettings({ midiChannel })}
        />
      </label>
      <button
        className="btn btn-sm"
        aria-pressed={shown}
        onClick={() => store.getState().setPerform({ controllerOpen: !shown })}
      >
        {shown ? "Close the simulated controller" : "Open the simulated controller"}
      </button>
    </>
  );
}

/** The page's clock, looked at again so often that a light goes out. */
function useNow(): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), 120);
    return () => clearInterval(timer);
  }, []);
  return now;
}
