"use client";
import { useEffect, useSyncExternalStore } from "react";
import type { MidiMessage } from "@/core/perform";
import { MidiIn, type MidiPort } from "@/input/midi-in";
import { SimulatedController } from "@/input/simulated";
import { NoMidi, openWebMidi } from "@/input/web-midi";
import { keyDown, keyUp, releaseKeys } from "../commands/perform/keys";
import { useDesk } from "../session/context";
import type { Desk } from "../session/desk";
import { setSettings, useSetting } from "../person/settings";
import { Watchers } from "../session/watchers";

/** MIDI on a page: its inputs, the simulated one among them, and what came of asking for it. */
interface MidiState {
  midi: MidiIn;
  controller: SimulatedController;
  /** Whether the machine's inputs are open. */
  open: boolean;
  /** Why they are not, once that is known. */
  problem: string;
  watchers: Watchers;
}

const states = new WeakMap<Desk, MidiState>();
let closeWeb: (() => void) | null = null;

function stateOf(desk: Desk): MidiState {
  let state = states.get(desk);
  if (!state) {
    const watchers = new Watchers();
    const midi = new MidiIn({
      message: (message, port, time) => hear(desk, message, port, time),
      gone: (port) => releasePort(desk, port),
      changed: () => watchers.changed(),
    });
    state = { midi, controller: new SimulatedController(), open: false, problem: "", watchers };
    states.set(desk, state);
  }
  return state;
}

/** Sources of a port, as the player knows them: one for each channel. */
const sourceOf = (port: MidiPort, channel: number) => `midi ${port.id} ${channel}`;

function releasePort(desk: Desk, port: MidiPort): void {
  for (let channel = 1; channel <= 16; channel++) releaseKeys(desk, sourceOf(port, channel));
}

/** What a message of a device does: the same as the keys of the computer do. */
function hear(desk: Desk, message: MidiMessage, port: MidiPort, time: number): void {
  if (message.type === "reset") {
    releasePort(desk, port);
    return;
  }
  const source = sourceOf(port, message.channel);
  switch (message.type) {
    case "on":
      keyDown(desk, source, String(message.pitch), { ...message, time });
      break;
    case "off":
      keyUp(desk, source, String(message.pitch), time);
      break;
    case "bend":
      desk.player.bend(source, message.value, time);
      break;
    case "sustain":
      desk.player.pedal(source, message.down, time);
      break;
    case "quiet":
      releaseKeys(desk, source);
      break;
    case "modulation":
      // Read, and nothing yet has a use for it.
      break;
  }
}

/** Asks for the machine's MIDI inputs; what keeps them away is said. */
export async function askForMidi(desk: Desk): Promise<void> {
  const state = stateOf(desk);
  try {
    closeWeb?.();
    closeWeb = await openWebMidi(state.midi);
    Object.assign(state, { open: true, problem: "" });
    setSettings({ midi: true });
  } catch (error) {
    if (!(error instanceof NoMidi)) throw error;
    Object.assign(state, { open: false, problem: error.message });
    setSettings({ midi: false });
  }
  state.watchers.changed();
}

/** Listens to the devices while a project is open: the simulated one always, others once they were asked for. */
export function useMidi(): void {
  const desk = useDesk();
  const input = useSetting("midiInput");
  const channel = useSetting("midiChannel");
  const wanted = useSetting("midi");
  useEffect(() => {
    const state = stateOf(desk);
    state.midi.plug(state.controller);
    // The probe is there once the effects of all have run.
    queueMicrotask(() => {
      if (window.hailstep) window.hailstep.controller = state.controller;
    });
    return () => {
      state.midi.close();
      closeWeb?.();
      closeWeb = null;
      state.open = false;
    };
  }, [desk]);
  useEffect(() => stateOf(desk).midi.choose({ input, channel }), [desk, input, channel]);
  useEffect(() => {
    if (wanted && !stateOf(desk).open) void askForMidi(desk);
  }, [desk, wanted]);
}

/** The inputs and what is known of them; looked at again whenever something comes. */
export function useMidiState(): MidiState {
  const state = stateOf(useDesk());
  const { watchers } = state;
  useSyncExternalStore(
    watchers.watch,
    () => watchers.version,
    () => 0,
  );
  return state;
}
