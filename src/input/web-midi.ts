import type { Input } from "webmidi";
import type { MidiIn, MidiPort } from "./midi-in";

/** Why there is no MIDI, as a sentence. */
export class NoMidi extends Error {}

/** Whether this browser has Web MIDI at all. */
export const hasMidi = (): boolean =>
  typeof navigator !== "undefined" && "requestMIDIAccess" in navigator;

const portOf = (input: Input): MidiPort => ({
  id: `device ${input.id}`,
  name: input.name || "Unnamed input",
  simulated: false,
  listen(listener) {
    const hear = (event: { message: { rawData: Uint8Array }; timestamp: number }) =>
      listener(event.message.rawData, event.timestamp);
    input.addListener("midimessage", hear);
    return () => input.removeListener("midimessage", hear);
  },
});

/**
 * Opens the machine's MIDI inputs, and follows what is plugged in and out. The browser asks for permission:
 * call it when that is wanted. Throws a `NoMidi` that says what is missing.
 */
export async function openWebMidi(midi: MidiIn): Promise<() => void> {
  if (!hasMidi()) {
    throw new NoMidi(
      "This browser has no Web MIDI. Use one that has, or the simulated controller below",
    );
  }
  const { WebMidi } = await import("webmidi");
  try {
    await WebMidi.enable({ sysex: false });
  } catch (error) {
    const refused =
      error instanceof Error &&
      /denied|permission|security|notallowed/i.test(`${error.name} ${error.message}`);
    throw new NoMidi(
      refused
        ? "The browser does not allow MIDI for this page. Allow it beside the address, then ask again"
        : `MIDI could not be opened: ${error instanceof Error ? error.message : String(error)}`,
    );
  }
  const plug = () => WebMidi.inputs.forEach((input) => midi.plug(portOf(input)));
  // Asked of the browser itself: the library tells of some ports that go, by how they were open, and not of others.
  const access = WebMidi.interface;
  const unplug = (event: Event) => {
    const { port } = event as Event & { port: { id: string; state: string } | null };
    if (port?.state === "disconnected") midi.unplug(`device ${port.id}`);
  };
  WebMidi.addListener("connected", plug);
  access.addEventListener("statechange", unplug);
  plug();
  return () => {
    WebMidi.removeListener("connected", plug);
    access.removeEventListener("statechange", unplug);
    for (const input of WebMidi.inputs) midi.unplug(`device ${input.id}`);
  };
}
