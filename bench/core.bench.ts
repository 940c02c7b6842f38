import { parseMidi, writeMidi } from "midi-file";
import { test } from "vitest";
import * as edits from "@/core/edits";
import type { Params } from "@/core/params";
import { type Note, type Project, createProject, makeNote } from "@/core/score";
import { TRANSFORMS } from "@/core/transforms";
import { playbackEvents } from "@/core/playback";
import { generateIdeas } from "@/core/generate";
import { fitGrid } from "@/core/analysis";
import { readSmf, writeSmf } from "@/core/formats";
import { report, sideBySide } from "./side-by-side";

const BASS = { pattern: "a", track: "bass" };

/** `count` sixteenths one after another, four to a chord, over as many bars as they need. */
function notesOf(count: number): Note[] {
  return Array.from({ length: count }, (_, i) =>
    makeNote({
      id: `n${i}`,
      start: Math.floor(i / 4) * 240 + (i % 7),
      length: 240,
      pitch: 40 + ((i * 7) % 40),
      velocity: 1 + (i % 127),
    }),
  );
}

function projectOf(count: number): Project {
  const bars = Math.max(1, Math.ceil(count / 64));
  return edits.setNotes(createProject({ bars: Math.min(1024, bars) }), BASS, notesOf(count));
}

test("playback of one bar", () => {
  const [large, small] = [projectOf(10_000), projectOf(100)];
  const bars = (project: Project) => () => {
    for (let bar = 0; bar < 100; bar++) {
      const from = (bar % 2) * 3840;
      playbackEvents(project, from, from + 3840, { pattern: "a" });
    }
  };
  report(
    "playbackEvents, one bar: 10 000 notes against 100",
    sideBySide(bars(large), bars(small)),
    "below 5",
  );
});

const PARAMS: Record<string, Params> = {
  roll: { count: 2 },
  humanize: { velocity: 9, timing: 8, length: 10, seed: 3 },
  transpose: { degrees: 2 },
};

/** Copies that a transform of 100 000 notes may cost, where it is not 20. */
const BOUNDS: Record<string, number> = { humanize: 10, legato: 10, quantize: 10, transpose: 5 };
const copy = (list: readonly Note[]) => () => list.map((note) => ({ ...note }));

test("transforms, 100 000 notes against copying them", () => {
  const notes = notesOf(100_000);
  for (const [id, transform] of Object.entries(TRANSFORMS)) {
    const run = () => transform.apply(notes, PARAMS[id] ?? {});
    report(id, sideBySide(run, copy(notes)), `below ${BOUNDS[id] ?? 20}`);
  }
  const selection = new Set(notes.filter((_, i) => i % 2).map((note) => note.id));
  const half = () => TRANSFORMS.transpose!.apply(notes, { degrees: 2 }, { selection });
  report("transpose, every other note", sideBySide(half, copy(notes)), "below 5");
  report(
    "fitGrid",
    sideBySide(() => fitGrid(notes), copy(notes)),
    "below 20",
  );
});

test("from 10 000 to 1 000 000 notes", () => {
  const [few, many] = [notesOf(10_000), notesOf(1_000_000)];
  for (const id of ["transpose", "humanize", "roll"]) {
    const run = (list: readonly Note[]) => () => TRANSFORMS[id]!.apply(list, PARAMS[id] ?? {});
    // Copying a hundred times the notes does not cost a hundred times either: the measure is copies.
    const small = sideBySide(repeated(run(few), 20), repeated(copy(few), 20), 10);
    const large = sideBySide(run(many), copy(many), 4);
    report(`${id}: copies of 1 000 000 notes`, large, `as many as of 10 000`);
    console.log(
      `  against ${small.ratio.toFixed(2)} of 10 000: ${(large.ratio / small.ratio).toFixed(2)}`,
    );
  }
});

/** What is too short to be measured is done so often. */
const repeated = (work: () => unknown, times: number) => () => {
  for (let i = 0; i < times; i++) work();
};

/** Writes events as MIDI messages with their times, and nothing else: what any writer must do. */
function bareWriter(events: readonly { start: number; length: number; pitch: number }[]) {
  const messages = events.flatMap((event) => [
    { tick: event.start, status: 0x90, pitch: event.pitch },
    { tick: event.start + event.length, status: 0x80, pitch: event.pitch },
  ]);
  messages.sort((a, b) => a.tick - b.tick || a.status - b.status);
  const bytes: number[] = [];
  let last = 0;
  for (const { tick, status, pitch } of messages) {
    const delta = tick - last;
    if (delta >= 0x4000) bytes.push(0x80 | (delta >> 14));
    if (delta >= 0x80) bytes.push(0x80 | ((delta >> 7) & 0x7f));
    bytes.push(delta & 0x7f, status, pitch, 96);
    last = tick;
  }
  return Uint8Array.from(bytes);
}

test("Standard MIDI File", () => {
  // midi-file's time to write grows with the square of the notes, so more would only flatter us.
  const bytes = writeSmf(projectOf(2_000));
  const ours = () => writeSmf(readSmf(bytes).project);
  const theirs = () => writeMidi(parseMidi(bytes));
  const large = projectOf(100_000);
  const bare = () => bareWriter(playbackEvents(large, 0, 1024 * 3840, { loop: false }));
  const ours100 = () => writeSmf(large);
  report("writeSmf, 100 000 notes against a bare writer", sideBySide(ours100, bare), "below 1.5");
  report(
    "readSmf + writeSmf against midi-file parse + write, 2 000 notes",
    sideBySide(ours, theirs),
    "below 3",
  );
});

test("ideas", () => {
  const batch = (bars: number) => () => generateIdeas({ count: 24, bars });
  report("24 ideas of 8 bars against 24 of 1 bar", sideBySide(batch(8), batch(1)), "about 8");
});
