import { describe, expect, it } from "vitest";
import { seeded } from "@/core/base";
import * as edits from "@/core/edits";
import { createProject, makeNote } from "@/core/score";
import { looped, timelineOf, type Timeline } from "./timeline";

const RATE = 44_100;
const BASS = { pattern: "a", track: "bass" };
const STARTS = [0, 1, 959, 960, 2400, 3839, 5000, 7679];

/** Two bars at a tempo whose ticks fall between samples, bent throughout. */
function music() {
  const notes = STARTS.map((start, i) =>
    makeNote({ id: `n${i}`, start, length: 100, pitch: 40 + i }),
  );
  const project = edits.setNotes(createProject({ tempo: 131.7, bars: 2 }), BASS, notes);
  return edits.drawBend(project, BASS, [
    { tick: 0, value: -8192 },
    { tick: 3840, value: 8191 },
    { tick: 7679, value: 0 },
  ]);
}
const SECONDS = (tick: number) => (tick / 960) * (60 / 131.7);

/** What begins in a stretch, asked for in windows. */
const inWindows = ({ between }: Timeline, marks: readonly number[]) =>
  marks
    .slice(1)
    .flatMap((to, i) =>
      between(marks[i]!, to).map(({ noteOn }) => [noteOn.pitch, noteOn.time] as const),
    );

describe("a timeline", () => {
  it("has each note at its time, counted from where it begins", () => {
    for (const from of [0, 960, 3840]) {
      const { seconds, between } = timelineOf(music(), from, 7680, { pattern: "a" });
      expect(seconds).toBeCloseTo(SECONDS(7680 - from), 9);
      const known = STARTS.filter((start) => start >= from);
      const found = between(0, seconds);
      expect(found.map(({ noteOn }) => noteOn.pitch)).toEqual(
        known.map((start) => 40 + STARTS.indexOf(start)),
      );
      found.forEach(({ noteOn }, i) =>
        expect(noteOn.time).toBeCloseTo(SECONDS(known[i]! - from), 9),
      );
    }
  });

  it("gives the same in any windows: nothing twice where two meet, nothing left out, also gone round", () => {
    const once = timelineOf(music(), 0, 7680, { pattern: "a" });
    const round = looped(once, RATE);
    const random = seeded(5);
    for (const [timeline, from, to] of [
      [once, 0, once.seconds],
      [round, -2 * round.seconds, 3 * round.seconds],
    ] as const) {
      const known = inWindows(timeline, [from, to]);
      expect(known).toHaveLength(Math.round((to - from) / timeline.seconds) * STARTS.length);
      for (let i = 0; i < 200; i++) {
        const cuts = Array.from({ length: 12 }, () => from + (to - from) * random());
        // On notes themselves too.
        cuts.push(known[i % known.length]![1]);
        expect(inWindows(timeline, [from, ...cuts.sort((a, b) => a - b), to])).toEqual(known);
      }
    }
  });

  it("goes round on the sample, every loop as the one before", () => {
    const round = looped(timelineOf(music(), 0, 7680, { pattern: "a" }), RATE);
    expect((round.seconds * RATE) % 1).toBeCloseTo(0, 6);
    expect(Math.abs(round.seconds - SECONDS(7680)) * RATE).toBeLessThanOrEqual(0.5);
    const first = inWindows(round, [0, round.seconds]);
    for (const loop of [-3, -1, 1, 4]) {
      const zero = loop * round.seconds;
      const other = inWindows(round, [zero, (loop + 1) * round.seconds]);
      expect(other.map(([pitch]) => pitch)).toEqual(first.map(([pitch]) => pitch));
      other.forEach(([, time], i) => expect(time - zero).toBeCloseTo(first[i]![1], 9));
    }
  });

  it("keeps what begins in its last sample where it is cut down to whole ones", () => {
    // Rounded down by a third of a sample; the last note begins within it.
    const { between } = timelineOf(music(), 0, 7680, { pattern: "a" });
    const [note] = between(0, 1);
    const late = { ...note!, noteOn: { ...note!.noteOn, time: 1 + 0.2 / RATE } };
    const once: Timeline = {
      seconds: 1 + 0.3 / RATE,
      between: (from, to) => [late].filter(({ noteOn: { time } }) => time >= from && time < to),
      bends: () => [],
    };
    const round = looped(once, RATE);
    expect(round.seconds).toBe(1);
    expect(inWindows(round, [0, 0.5, 1, 1.5, 2, 3])).toHaveLength(3);
  });

  it("is bent alike in one stretch and in parts of it", () => {
    const { bends, seconds } = timelineOf(music(), 0, 7680, { pattern: "a" });
    const at = (points: readonly { time: number; by: number }[], time: number) => {
      const i = points.findIndex((point) => point.time >= time);
      const [a, b] = [points[Math.max(0, i - 1)]!, points[i < 0 ? points.length - 1 : i]!];
      return b.time > a.time ? a.by + ((time - a.time) / (b.time - a.time)) * (b.by - a.by) : b.by;
    };
    const whole = bends("bass", 0, seconds);
    for (const [from, to] of [
      [0, 1],
      [0.7, 2.1],
      [1.5, seconds],
    ] as const) {
      const part = bends("bass", from, to);
      for (let time = from + 0.01; time < to - 0.01; time += 0.05)
        expect(at(part, time), `${time}`).toBeCloseTo(at(whole, time), 1);
    }
  });
});
