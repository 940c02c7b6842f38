import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { HeldNotes } from "./held-notes";
import { MidiStream, midiBytes, type MidiMessage } from "./midi-stream";

const read = (...bytes: number[]) => new MidiStream().push(bytes);

// Sections named are those of the MIDI 1.0 Detailed Specification, version 4.2 (values from memory).
describe("bytes of MIDI", () => {
  it("are notes on and off, of sixteen channels (“Channel Voice Messages”)", () => {
    expect(read(0x90, 60, 100, 0x8f, 61, 64)).toEqual([
      { type: "on", channel: 1, pitch: 60, velocity: 100 },
      { type: "off", channel: 16, pitch: 61 },
    ]);
  });

  it("go on with the last status (“Running Status”), and a note-on of velocity 0 is a note-off", () => {
    expect(read(0x90, 60, 100, 64, 90, 60, 0, 64, 0).map((m) => m.type)).toEqual([
      "on",
      "on",
      "off",
      "off",
    ]);
  });

  it("may hold real-time bytes anywhere, which end no running status (“System Real Time”)", () => {
    expect(read(0x90, 0xf8, 60, 0xfe, 100, 0xfa, 62, 0xfc, 80)).toEqual([
      { type: "on", channel: 1, pitch: 60, velocity: 100 },
      { type: "on", channel: 1, pitch: 62, velocity: 80 },
    ]);
  });

  it("bend by 14 bits, the low seven first, the middle 0x2000 (“Pitch Bend Change”)", () => {
    const bend = (low: number, high: number) =>
      (read(0xe2, low, high)[0] as { value: number }).value;
    expect([bend(0, 0x40), bend(0, 0), bend(0x7f, 0x7f), bend(1, 0x40)]).toEqual([
      0, -8192, 8191, 1,
    ]);
  });

  it("hold the damper pedal from 64 on, modulation, and the mode messages that let go (“Control Change”)", () => {
    expect(read(0xb0, 64, 63, 64, 64, 1, 90, 7, 100, 123, 0, 120, 0, 121, 0)).toEqual([
      { type: "sustain", channel: 1, down: false },
      { type: "sustain", channel: 1, down: true },
      { type: "modulation", channel: 1, value: 90 },
      { type: "quiet", channel: 1 },
      { type: "quiet", channel: 1 },
      { type: "quiet", channel: 1 },
    ]);
    expect(read(0x90, 60, 100, 0xff)[1]).toEqual({ type: "reset" });
    // Omni and mono modes let all notes go as well (“Channel Mode Messages”); local control does not.
    expect(
      [122, 124, 125, 126, 127].map((mode) => read(0xb2, mode, 0).map(({ type }) => type)),
    ).toEqual([[], ["quiet"], ["quiet"], ["quiet"], ["quiet"]]);
    // Of the pedals the sustain alone: portamento, sostenuto and soft are none.
    expect(read(0xb0, 65, 127, 66, 127, 67, 127, 68, 127, 69, 127)).toEqual([]);
  });

  it("pass over system exclusive, and system common messages end running status", () => {
    expect(read(0xf0, 0x7e, 60, 100, 0xf7, 60, 100)).toEqual([]);
    // System exclusive may also be ended by any other status byte.
    expect(read(0xf0, 1, 2, 0x90, 60, 100)).toHaveLength(1);
    expect(read(0x90, 60, 100, 0xf2, 1, 2, 62, 100)).toHaveLength(1);
    expect(read(0x90, 60, 100, 0xf6, 62, 100)).toHaveLength(1);
  });

  it("of program change and pressure have one byte of data, and of polyphonic pressure two", () => {
    expect(read(0xc0, 5, 6, 0x90, 60, 1)).toHaveLength(1);
    expect(read(0xd3, 90, 0xa0, 60, 5, 0x91, 60, 1)).toEqual([
      { type: "on", channel: 2, pitch: 60, velocity: 1 },
    ]);
  });

  it("are the same in whatever portions they come", () => {
    const bytes = [0x90, 60, 100, 62, 90, 0xf8, 0xe0, 0, 0x50, 0x80, 60, 0];
    const stream = new MidiStream();
    expect(bytes.flatMap((byte) => stream.push([byte]))).toEqual(read(...bytes));
  });

  it("are written as they are read", () => {
    const messages: MidiMessage[] = [
      { type: "on", channel: 3, pitch: 0, velocity: 127 },
      { type: "off", channel: 3, pitch: 0 },
      { type: "bend", channel: 16, value: -8192 },
      { type: "bend", channel: 16, value: 8191 },
      { type: "sustain", channel: 1, down: true },
      { type: "modulation", channel: 1, value: 64 },
      { type: "quiet", channel: 9 },
      { type: "reset" },
    ];
    for (const message of messages) expect(read(...midiBytes(message))).toEqual([message]);
  });
});

/** Keys that a stream of messages holds, and notes that sound for them. */
function handsOf() {
  const sounding = new Set<object>();
  let begun = 0;
  const hands = new HeldNotes(() => {
    // Ended once and no more: what is not there cannot be deleted.
    const note = { end: () => expect(sounding.delete(note)).toBe(true) };
    sounding.add(note);
    begun++;
    return note;
  });
  const play = (message: MidiMessage) => {
    if (message.type === "reset") return hands.release(0);
    const source = `c${message.channel}`;
    if (message.type === "on")
      hands.down(source, `${message.pitch}`, { track: "t", time: 0, ...message });
    else if (message.type === "off") hands.up(source, `${message.pitch}`, 0);
    else if (message.type === "sustain") hands.pedal(source, message.down, 0);
    else if (message.type === "quiet") hands.release(0, source);
  };
  return { hands, sounding, play, begun: () => begun };
}

describe("random bytes", () => {
  it("10,000 streams of them: no exception, messages in their ranges, and no note that sticks", () => {
    let notes = 0;
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 3 }),
            // Some of what may be messages, and some of that cut short.
            fc.tuple(fc.constantFrom(0x90, 0x91, 0x80, 0xb0, 0xe0), fc.nat(127), fc.nat(127)),
            fc.tuple(fc.constantFrom(0x90, 0xb0, 0xf2), fc.constantFrom(60, 64, 123)),
          ),
          { maxLength: 20 },
        ),
        (bytes) => {
          const { hands, sounding, play, begun } = handsOf();
          for (const message of new MidiStream().push(bytes.flat())) {
            if ("pitch" in message) expect(message.pitch).toBeLessThan(128);
            if (message.type === "bend") expect(Math.abs(message.value)).toBeLessThanOrEqual(8192);
            play(message);
          }
          expect(sounding.size).toBe(hands.count);
          // The device disappears with keys down.
          for (let channel = 1; channel <= 16; channel++) hands.release(0, `c${channel}`);
          expect([sounding.size, hands.count]).toEqual([0, 0]);
          notes += begun();
        },
      ),
      { numRuns: 10_000 },
    );
    expect(notes).toBeGreaterThan(5000);
  });

  it("with values that are no bytes at all change nothing", () => {
    expect(read(-1, 256, NaN, 1.5, 0x90, 60, 100)).toHaveLength(1);
  });
});
