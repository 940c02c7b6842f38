import fc from "fast-check";
import { writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { readSmf } from "./read";

interface Stroke {
  /** Whether a lyric comes before, which ends running status. */
  lyric?: boolean;
  delta: number;
  channel: number;
  pitch: number;
  velocity: number;
}

/** Written by another library, with running status or without. */
const written = (strokes: readonly Stroke[], ticksPerBeat: number, running: boolean): Uint8Array =>
  Uint8Array.from(
    writeMidi(
      {
        header: { format: 0, numTracks: 1, ticksPerBeat },
        tracks: [
          [
            ...strokes.flatMap(({ delta, channel, pitch, velocity, lyric }) => {
              const type = velocity > 0 ? "noteOn" : "noteOff";
              const own = { deltaTime: delta, type, channel, noteNumber: pitch, velocity };
              return [
                ...(lyric ? [{ deltaTime: 0, type: "lyrics", text: "la" }] : []),
                own,
              ] as MidiEvent[];
            }),
            { deltaTime: 0, type: "endOfTrack" } as MidiEvent,
          ],
        ],
      },
      { running },
    ),
  );

/** Notes by channel as anyone would pair them by hand: the first that sounds of a pitch ends first. */
function paired(strokes: readonly Stroke[], division: number): string[] {
  const notes: { channel: number; pitch: number; velocity: number; on: number; off?: number }[] =
    [];
  let at = 0;
  for (const { delta, channel, pitch, velocity } of strokes) {
    at += delta;
    if (velocity > 0) notes.push({ channel, pitch, velocity, on: at });
    else {
      const first = notes.find(
        (one) => one.channel === channel && one.pitch === pitch && one.off === undefined,
      );
      if (first) first.off = at;
    }
  }
  const tick = (time: number) => Math.round((time * 960) / division);
  return notes
    .map(({ channel, pitch, velocity, on, off = at }) => {
      const length = Math.max(1, tick(off) - tick(on));
      return `${channel}: ${pitch} at ${tick(on)} for ${length}, ${velocity}`;
    })
    .sort();
}

const stroke = fc.record({
  delta: fc.oneof(fc.constant(0), fc.nat(2), fc.nat(100), fc.nat(3000), fc.nat(40_000)),
  channel: fc.nat(2),
  pitch: fc.integer({ min: 60, max: 63 }),
  velocity: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 127 })),
  lyric: fc.nat(9).map((n) => n === 0),
});

/** Two notes at once, the higher one first, with another event between. */
const higherFirst: Stroke[] = [
  { delta: 0, channel: 0, pitch: 62, velocity: 90 },
  { delta: 0, channel: 0, pitch: 60, velocity: 90, lyric: true },
  { delta: 100, channel: 0, pitch: 62, velocity: 0 },
];

describe("notes of a MIDI file", () => {
  it("are those of any line of events, paired by hand, in each division, with running status and without", () => {
    fc.assert(
      fc.property(
        // In short lines too: where one pair of notes comes in another order, the rest of their track is put in order.
        fc.oneof(
          fc.array(stroke, { minLength: 1, maxLength: 60 }),
          fc.array(stroke, { minLength: 1, maxLength: 4 }),
        ),
        fc.constantFrom(96, 480, 960, 1000, 1920),
        fc.boolean(),
        (strokes, division, running) => {
          const { project } = readSmf(written(strokes, division, running));
          expect(project.song).toEqual([]);
          const channelOf = new Map(
            project.tracks.map(({ id, name }) => [id, Number(/\d+/.exec(name)![0]) - 1]),
          );
          const read = project.patterns[0]!.parts.flatMap(({ track, notes }) =>
            notes.map(
              (one) =>
                `${channelOf.get(track)}: ${one.pitch} at ${one.start} for ${one.length}, ${one.velocity}`,
            ),
          );
          expect(read.sort()).toEqual(paired(strokes, division));
          for (const { notes } of project.patterns[0]!.parts)
            expect(notes.map(({ start, pitch }) => start * 128 + pitch)).toEqual(
              notes.map(({ start, pitch }) => start * 128 + pitch).sort((a, b) => a - b),
            );
        },
      ),
      { numRuns: 1000, examples: [[higherFirst, 960, false]] },
    );
  });

  it("have a bar of their own on the last bar line, if they are of no length", () => {
    const on = { delta: 3840, channel: 0, pitch: 60, velocity: 90 };
    const { project, report } = readSmf(
      written([on, { ...on, delta: 0, velocity: 0 }], 960, false),
    );
    const [pattern] = project.patterns;
    expect(pattern!.bars).toBe(2);
    expect(pattern!.parts[0]!.notes).toMatchObject([{ start: 3840, length: 1 }]);
    expect(report.notKept).toEqual(["1 note of no length, kept one tick long"]);
  });

  it("are read up to the last tick that 32 bits count, and told of beyond it", () => {
    const on = { channel: 0, pitch: 60, velocity: 90 };
    const farthest = 2 ** 28 - 1;
    const strokes = Array.from({ length: 10 }, () => [
      { ...on, delta: farthest },
      { ...on, delta: 100, velocity: 0 },
    ]).flat();
    const { report } = readSmf(written([{ ...on, delta: 0 }, ...strokes], 960, true));
    // Eight times 2^28 - 1 and a few hundred are beyond; what lies before is beyond the last bar.
    expect(report.notKept).toContain("3 notes beyond tick 2,147,483,647");
    expect(report.notKept).toContain("7 notes after bar 8,192");
    expect(report.notes).toBe(1);

    // Reached in many small steps, of two bytes each: the first note ends with the first, every second begins another.
    const step = 2 ** 14 - 1;
    const small = Array.from({ length: 131_200 }, (_, i) => [0xff, 0x7f, 0x90, 60, i % 2 ? 90 : 0]);
    const data = [0, 0x90, 60, 90, ...small.flat(), 0, 0xff, 0x2f, 0];
    const beyond = small.filter((_, i) => i % 2 === 1 && (i + 1) * step > 2 ** 31 - 1).length;
    const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 3, 192, 0x4d, 0x54, 0x72, 0x6b];
    const length = [24, 16, 8, 0].map((shift) => (data.length >> shift) & 255);
    const { notKept } = readSmf(Uint8Array.from([...head, ...length, ...data])).report;
    expect(beyond).toBeGreaterThan(0);
    expect(notKept).toContain(`${beyond} notes beyond tick 2,147,483,647`);
  });
});
