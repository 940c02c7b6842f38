import { test } from "vitest";
import { parseMidi, writeMidi } from "midi-file";
import * as edits from "@/core/edits";
import { type Note, createProject, makeNote } from "@/core/score";
import { readSmf, writeFile, writeSmf } from "@/core/formats";
import { report, sideBySide } from "./side-by-side";

/** Five thousand notes of a line with chords and ties, over as many bars as they need. */
const notes: Note[] = Array.from({ length: 5000 }, (_, i) =>
  makeNote({
    id: `n${i}`,
    start: Math.floor(i / 2) * 240 + (i % 5),
    length: 200 + 240 * (i % 4),
    pitch: 48 + ((i * 7) % 30),
    velocity: 30 + (i % 90),
  }),
);
const project = edits.setNotes(
  createProject({ bars: 160 }),
  { pattern: "a", track: "bass" },
  notes,
);

test("a score of 5,000 notes", () => {
  const score = () => writeFile(project, "score", { pattern: "a" });
  const json = () => {
    for (let i = 0; i < 10; i++) JSON.stringify(project);
  };
  report("MusicXML of 5,000 notes against ten times its JSON", sideBySide(score, json), "below 2");
});

test("MIDI against a bare parser and writer", () => {
  const bytes = writeSmf(project);
  const parsed = parseMidi(bytes);
  const read = sideBySide(
    () => readSmf(bytes),
    () => parseMidi(bytes),
    60,
  );
  report("readSmf of 5,000 notes against midi-file's parse", read, "below 1.3");
  const write = sideBySide(
    () => writeSmf(project),
    () => writeMidi(parsed),
  );
  report("writeSmf of 5,000 notes against midi-file's write", write, "below 1");
});
