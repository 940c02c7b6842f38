import type { MidiPitch } from "../base";

/**
 * General MIDI 1 percussion key map (keys 35–81, MIDI channel 10), shortened to the words a
 * beatmaker uses. All kits fill the same slots, so any part drives any kit.
 */
export const PERCUSSION: Readonly<Record<number, string>> = {
  35: "Deep kick",
  36: "Kick",
  37: "Rim",
  38: "Snare",
  39: "Clap",
  40: "Snare 2",
  41: "Floor tom",
  42: "Closed hat",
  43: "High floor tom",
  44: "Pedal hat",
  45: "Low tom",
  46: "Open hat",
  47: "Mid tom",
  48: "High mid tom",
  49: "Crash",
  50: "High tom",
  51: "Ride",
  52: "China",
  53: "Ride bell",
  54: "Tambourine",
  55: "Splash",
  56: "Cowbell",
  57: "Crash 2",
  58: "Vibraslap",
  59: "Ride 2",
  60: "High bongo",
  61: "Low bongo",
  62: "Mute conga",
  63: "Open conga",
  64: "Low conga",
  65: "High timbale",
  66: "Low timbale",
  67: "High agogo",
  68: "Low agogo",
  69: "Cabasa",
  70: "Shaker",
  71: "Short whistle",
  72: "Long whistle",
  73: "Short guiro",
  74: "Long guiro",
  75: "Claves",
  76: "High block",
  77: "Low block",
  78: "Mute cuica",
  79: "Open cuica",
  80: "Mute triangle",
  81: "Open triangle",
};

/** Name of a pad slot; slots outside the map are called by their number. */
export function padName(pitch: MidiPitch): string {
  return PERCUSSION[pitch] ?? `Pad ${pitch}`;
}
