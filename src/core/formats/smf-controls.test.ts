import { writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { readSmf } from "./smf-read";
import { volumeToLevel } from "./smf-write";

/** A file of one track on channel 1, written by another library: what comes before each note. */
function file(...events: MidiEvent[]): Uint8Array {
  return Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: 2, ticksPerBeat: 480 },
      tracks: [
        [{ deltaTime: 0, type: "endOfTrack" } as MidiEvent],
        [...events, { deltaTime: 0, type: "endOfTrack" } as MidiEvent],
      ],
    }),
  );
}
const event = (rest: object) => ({ deltaTime: 0, channel: 0, ...rest }) as MidiEvent;
const volume = (value: number) => event({ type: "controller", controllerType: 7, value });
const program = (programNumber: number) => event({ type: "programChange", programNumber });
const note = (noteNumber = 60) => [
  event({ type: "noteOn", noteNumber, velocity: 80 }),
  event({ deltaTime: 240, type: "noteOff", noteNumber, velocity: 0 }),
];

describe("a track's volume", () => {
  it("is the one set last before its notes", () => {
    const { project, report } = readSmf(file(volume(40), volume(90), ...note(), ...note(62)));
    expect(project.tracks[0]!.level).toBe(volumeToLevel(90));
    expect(report.notKept).toEqual([]);
  });

  it("is the one most notes begin at: a fade-out at the end does not silence the track", () => {
    const fade = [volume(60), ...note(64), volume(30), ...note(65), volume(0)];
    const { project, report } = readSmf(
      file(volume(100), ...note(), ...note(61), ...note(62), ...fade),
    );
    expect(project.tracks[0]!.level).toBe(0);
    expect(report.notKept).toEqual(["1 track whose volume changes, kept at one level"]);
  });
});

describe("a track's program", () => {
  it("chooses a sound of its family (General MIDI 1 sound set, families of eight)", () => {
    const sound = (number: number) =>
      readSmf(file(program(number), ...note())).project.tracks[0]!.sound;
    // Piano, glockenspiel, acoustic guitar, electric bass, saw lead.
    expect([0, 9, 25, 33, 81].map(sound)).toEqual([
      "attic-upright",
      "tin-chimes",
      "rope-pluck",
      "keel-bass",
      "wire-lead",
    ]);
    const lost = (number: number) => readSmf(file(program(number), ...note())).report.notKept;
    expect(lost(25)).toEqual([]);
    expect(lost(26)).toEqual(["1 track given the sound nearest to its program"]);
    const changing = [program(25), ...note(), program(38), ...note(), ...note()];
    const { project, report } = readSmf(file(...changing));
    expect(project.tracks[0]!.sound).toBe("reed-bass");
    expect(report.notKept).toEqual(["1 track whose program changes, kept at one sound"]);
  });
});
