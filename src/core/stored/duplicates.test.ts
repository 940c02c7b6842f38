import * as edits from "../edits";
import { type Note, createProject, partOf } from "../score";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { withoutDuplicates } from "./duplicates";

const DRUMS = { pattern: "a", track: "drums" };
const hit = (id: string, start: number, more: Partial<Note> = {}) =>
  n(start, { id, pitch: 36, ...more });
const before = edits.setNotes(createProject(), DRUMS, [hit("a", 0), hit("b", 240), hit("c", 480)]);
const ids = (project: typeof before) => partOf(project, DRUMS).notes.map((note) => note.id);
const moved = (id: string, start: number) =>
  edits.changeNotes(before, DRUMS, new Set([id]), (note) => ({ ...note, start }));

describe("two notes at one place", () => {
  it("are one after an edit: the one that was moved replaces the one that was there", () => {
    for (const id of ["a", "c"]) {
      const { project, replaced } = withoutDuplicates(before, moved(id, 240));
      expect(replaced).toBe(1);
      expect(ids(project)).toEqual(["a", "b", "c"].filter((other) => other !== "b"));
    }
  });

  it("of two that were both changed the selected one stays, else the louder, else the longer", () => {
    const both = (more: Partial<Note>) =>
      edits.setNotes(before, DRUMS, [hit("a", 100), hit("b", 100, more)]);
    const left = (more: Partial<Note>, preferred?: string) =>
      ids(
        withoutDuplicates(before, both(more), preferred ? new Set([preferred]) : undefined).project,
      );
    expect(left({ velocity: 127 })).toEqual(["b"]);
    expect(left({ velocity: 127 }, "a")).toEqual(["a"]);
    expect(left({ velocity: 1 })).toEqual(["a"]);
    expect(left({ length: 900 })).toEqual(["b"]);
  });

  it("stay two where they were two before, moved together or left alone", () => {
    const two = edits.setNotes(before, DRUMS, [hit("a", 0), hit("b", 0), hit("c", 480)]);
    const other = edits.addNotes(two, DRUMS, [hit("d", 960)]);
    expect(withoutDuplicates(two, other)).toEqual({ project: other, replaced: 0 });
    const later = (note: Note) => ({ ...note, start: note.start + 240 });
    const shifted = edits.changeNotes(two, DRUMS, new Set(["a", "b"]), later);
    expect(withoutDuplicates(two, shifted).replaced).toBe(0);
    expect(withoutDuplicates(two, two).project).toBe(two);
  });

  it("are told apart by pitch, and taps from notes with one", () => {
    const fine = edits.setNotes(before, DRUMS, [
      hit("a", 0),
      hit("b", 0, { pitch: 38 }),
      hit("c", 0, { unpitched: true }),
    ]);
    expect(withoutDuplicates(before, fine)).toEqual({ project: fine, replaced: 0 });
  });
});
