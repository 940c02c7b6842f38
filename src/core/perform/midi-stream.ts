import { type MidiPitch, type Velocity, clamp } from "../base";

/** What a MIDI device said, as far as playing in takes notice of it. Channels 1–16. */
export type MidiMessage =
  | { type: "on"; channel: number; pitch: MidiPitch; velocity: Velocity }
  | { type: "off"; channel: number; pitch: MidiPitch }
  /** 14 bits about the middle: −8192…8191. */
  | { type: "bend"; channel: number; value: number }
  | { type: "sustain"; channel: number; down: boolean }
  /** 0–127. */
  | { type: "modulation"; channel: number; value: number }
  /** Everything of the channel is let go: all sound off, all notes off, controllers reset. */
  | { type: "quiet"; channel: number }
  /** System reset: everything is let go. */
  | { type: "reset" };

/** Data bytes that follow a status byte, by its upper four bits. */
const DATA_BYTES: Readonly<Record<number, number>> = {
  0x8: 2,
  0x9: 2,
  0xa: 2,
  0xb: 2,
  0xc: 1,
  0xd: 1,
  0xe: 2,
};
/** Data bytes of the system common messages F1–F6. */
const COMMON_BYTES: Readonly<Record<number, number>> = { 0xf1: 1, 0xf2: 2, 0xf3: 1 };

/**
 * Reads the bytes of one MIDI cable as they come, in portions of any size. Source: MIDI 1.0 Detailed
 * Specification 4.2 (from memory): running status and its end by system common messages
 * ("Running Status"), note-on with velocity 0 as note-off ("Note-On"), real-time bytes between any
 * others ("System Real Time Messages"), pitch bend of 14 bits, low byte first ("Pitch Bend Change"),
 * system exclusive ended by any status byte but real time ("System Exclusive"). Any bytes are read:
 * what is no message is passed over.
 */
export class MidiStream {
  /** The status that data bytes belong to; 0 for none. */
  private status = 0;
  private wanted = 0;
  private data: number[] = [];

  push(bytes: Iterable<number>): MidiMessage[] {
    const found: MidiMessage[] = [];
    for (const byte of bytes) {
      const message = this.take(byte);
      if (message) found.push(message);
    }
    return found;
  }

  private take(byte: number): MidiMessage | null {
    if (!(byte >= 0 && byte <= 0xff)) return null;
    // Real time stands between any other bytes and changes nothing of them.
    if (byte >= 0xf8) return byte === 0xff ? this.reset() : null;
    if (byte >= 0x80) {
      this.status = byte;
      this.data = [];
      this.wanted = (byte < 0xf0 ? DATA_BYTES[byte >> 4] : COMMON_BYTES[byte]) ?? 0;
      if (this.wanted === 0) this.status = 0;
      return null;
    }
    if (this.status === 0) return null;
    this.data.push(byte);
    if (this.data.length < this.wanted) return null;
    const [first, second = 0] = this.data as [number, number?];
    this.data = [];
    // A system common message is said once; those of a channel go on.
    if (this.status >= 0xf0) {
      this.status = 0;
      return null;
    }
    return messageOf(this.status, first, second);
  }

  private reset(): MidiMessage {
    this.status = 0;
    this.data = [];
    return { type: "reset" };
  }
}

function messageOf(status: number, first: number, second: number): MidiMessage | null {
  const channel = (status & 0x0f) + 1;
  switch (status >> 4) {
    case 0x8:
      return { type: "off", channel, pitch: first };
    case 0x9:
      return second === 0
        ? { type: "off", channel, pitch: first }
        : { type: "on", channel, pitch: first, velocity: second };
    case 0xb:
      return controlOf(channel, first, second);
    case 0xe:
      return { type: "bend", channel, value: ((second << 7) | first) - 8192 };
    default:
      return null;
  }
}

/** Controllers by number: 1 modulation, 64 damper pedal (down from 64 on), 120, 121 and 123 to 127 channel mode. */
function controlOf(channel: number, control: number, value: number): MidiMessage | null {
  if (control === 1) return { type: "modulation", channel, value };
  if (control === 64) return { type: "sustain", channel, down: value >= 64 };
  // Mode changes (124–127) let all notes go as well.
  if (control === 120 || control === 121 || control >= 123) return { type: "quiet", channel };
  return null;
}

/** The bytes of a message, as a device sends them. */
export function midiBytes(message: MidiMessage): number[] {
  if (message.type === "reset") return [0xff];
  const channel = message.channel - 1;
  switch (message.type) {
    case "on":
      return [0x90 | channel, message.pitch, message.velocity];
    case "off":
      return [0x80 | channel, message.pitch, 64];
    case "bend": {
      const value = clamp(Math.round(message.value) + 8192, 0, 16383);
      return [0xe0 | channel, value & 0x7f, value >> 7];
    }
    case "sustain":
      return [0xb0 | channel, 64, message.down ? 127 : 0];
    case "modulation":
      return [0xb0 | channel, 1, message.value];
    case "quiet":
      return [0xb0 | channel, 123, 0];
  }
}
