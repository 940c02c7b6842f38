import { writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { readSmf } from "./read";
import { volumeToLevel } from "./levels";

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
  });

  it("that changes makes a track of each, with the notes that were played with it", () => {
    const changing = [program(25), ...note(60), program(38), ...note(61), ...note(62)];
    const back = [program(25), ...note(63)];
    const { project, report } = readSmf(file(...changing, ...back));
    expect(project.tracks.map((track) => track.sound)).toEqual(["rope-pluck", "reed-bass"]);
    const pitches = project.patterns[0]!.parts.map((part) => part.notes.map((one) => one.pitch));
    expect(pitches).toEqual([
      [60, 63],
      [61, 62],
    ]);
    expect(report.notKept).toEqual([]);
  });
});

describe("the sustain pedal", () => {
  const pedal = (value: number, deltaTime = 0) =>
    event({ type: "controller", controllerType: 64, value, deltaTime });
  const on = (noteNumber: number, deltaTime = 0) =>
    event({ type: "noteOn", noteNumber, velocity: 80, deltaTime });
  const off = (noteNumber: number, deltaTime = 0) =>
    event({ type: "noteOff", noteNumber, velocity: 0, deltaTime });
  /** Starts and lengths in ticks of the file, of 480 a quarter. */
  const read = (held: boolean, ...events: ReturnType<typeof event>[]) => {
    const { project, report } = readSmf(file(...events), "x", { pedal: held });
    const notes = project.patterns[0]!.parts[0]!.notes;
    return { report, lengths: notes.map((one) => [one.pitch, one.start / 2, one.length / 2]) };
  };
  // Down, two notes let go of, one of them struck again, up at 2,000; one more without it.
  const played = [
    pedal(127),
    on(60),
    off(60, 240),
    on(64, 0),
    off(64, 240),
    on(60, 480),
    off(60, 100),
    pedal(0, 940),
    on(67, 0),
    off(67, 100),
  ];

  it("holds notes until it comes up, or until they are struck again, where that is wished", () => {
    const { lengths, report } = read(true, ...played);
    expect(lengths).toEqual([
      [60, 0, 960],
      [64, 240, 1760],
      [60, 960, 1040],
      [67, 2000, 100],
    ]);
    expect(report).toMatchObject({ pedal: true, notKept: [] });
  });

  it("is counted and changes nothing where it is not", () => {
    const { lengths, report } = read(false, ...played);
    expect(lengths).toEqual([
      [60, 0, 240],
      [64, 240, 240],
      [60, 960, 100],
      [67, 2000, 100],
    ]);
    expect(report).toMatchObject({ pedal: true, notKept: ["2 controller changes"] });
    expect(read(true, on(60), off(60, 100)).report.pedal).toBe(false);
  });

  it("that stays down holds to the end of its track", () => {
    const { lengths } = read(true, pedal(64), on(60), off(60, 100), on(62, 900), off(62, 100));
    expect(lengths).toEqual([
      [60, 0, 1100],
      [62, 1000, 100],
    ]);
  });
});
