import { parseMidi, writeMidi } from "midi-file";
import { test } from "vitest";
import {
  TRANSFORMS,
  createProject,
  edits,
  generateIdeas,
  makeNote,
  playbackEvents,
  readSmf,
  writeSmf,
  type Note,
  type Params,
  type Project,
} from "@/core";
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

test("transforms", () => {
  const [notes, twice] = [notesOf(100_000), notesOf(200_000)];
  const copy = (list: readonly Note[]) => () => list.map((note) => ({ ...note }));
  for (const [id, transform] of Object.entries(TRANSFORMS)) {
    const run = (list: readonly Note[]) => () => transform.apply(list, PARAMS[id] ?? {});
    report(
      `${id}: 100 000 notes against copying them`,
      sideBySide(run(notes), copy(notes), 7),
      "below 10",
    );
    report(
      `${id}: 200 000 notes against copying them`,
      sideBySide(run(twice), copy(twice), 5),
      "no worse",
    );
  }
});

test("Standard MIDI File", () => {
  // midi-file's time to write grows with the square of the notes, so more would only flatter us.
  const bytes = writeSmf(projectOf(2_000));
  const ours = () => writeSmf(readSmf(bytes).project);
  const theirs = () => writeMidi(parseMidi(bytes));
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
