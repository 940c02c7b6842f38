import { writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { LIMITS } from "../../score";
import { playbackEvents } from "../../playback";
import { parseProject } from "../../stored";
import { readSmf } from "./read";

const event = (rest: object) => ({ deltaTime: 0, channel: 0, ...rest }) as MidiEvent;
const note = (noteNumber: number, channel = 0) => [
  event({ type: "noteOn", noteNumber, velocity: 80, channel }),
  event({ deltaTime: 480, type: "noteOff", noteNumber, velocity: 0, channel }),
];

/** A file of format 2, written by another library: each track a sequence of its own. */
const file = (...tracks: MidiEvent[][]) =>
  Uint8Array.from(
    writeMidi({
      header: { format: 2, numTracks: tracks.length, ticksPerBeat: 480 },
      tracks: tracks.map((track) => [...track, event({ type: "endOfTrack" })]),
    }),
  );

describe("a MIDI file of format 2", () => {
  const bytes = file(
    [event({ type: "trackName", text: "Ebb" }), ...note(60), ...note(36, 9)],
    [
      event({ type: "trackName", text: "Flow" }),
      event({ type: "setTempo", microsecondsPerBeat: 400_000 }),
      event({
        type: "timeSignature",
        ...{ numerator: 3, denominator: 4, metronome: 24, thirtyseconds: 8 },
      }),
      ...note(62),
      ...note(38, 9),
    ],
    [event({ type: "text", text: "nothing" })],
  );

  it("is its sequences one after another: patterns with their names, and a song at their tempos", () => {
    const { project, report } = readSmf(bytes, "tide");
    parseProject(project);
    expect(project.name).toBe("tide");
    expect(project.patterns.map(({ name, bars, metre }) => [name, bars, metre?.beats])).toEqual([
      ["Ebb", 1, undefined],
      ["Flow", 1, 3],
    ]);
    expect(project.song.map(({ pattern, tempo }) => [pattern, tempo])).toEqual([
      ["p1", undefined],
      ["p2", 150],
    ]);
    // Tracks of the same channel and sound are one.
    expect(project.tracks.map((track) => track.kind)).toEqual(["melody", "drums"]);
    expect(project.tracks[1]!.lanes.map((lane) => lane.pitch)).toEqual([36, 38]);
    const heard = playbackEvents(project, 0, 3840 + 2880, { loop: false });
    expect(heard.map((e) => [e.start, e.pitch])).toEqual([
      [0, 60],
      [960, 36],
      [3840, 62],
      [4800, 38],
    ]);
    expect(report).toMatchObject({ format: 2, tracks: 2, notes: 4, notKept: ["1 text"] });
  });

  it("of more sequences than there may be patterns is read as far as they fit", () => {
    const many = file(...Array.from({ length: LIMITS.patterns + 2 }, () => note(60)));
    const { project, report } = readSmf(many);
    parseProject(project);
    expect(project.patterns).toHaveLength(LIMITS.patterns);
    expect(report.notKept).toEqual(["2 further sequences beyond what fits"]);
  });
});
