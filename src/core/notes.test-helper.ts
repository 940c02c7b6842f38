import * as fc from "fast-check";
import { type Note, makeNote } from "./score";

/** A note as tests write it: start, then what matters. */
export const n = (start: number, rest: Partial<Note> = {}): Note =>
  makeNote({ id: `n${start}-${rest.pitch ?? 60}`, start, ...rest });

/** Any note the model allows, within about sixteen bars. */
export const anyNote: fc.Arbitrary<Omit<Note, "id">> = fc.record({
  start: fc.integer({ min: -480, max: 60_000 }),
  length: fc.integer({ min: 1, max: 8000 }),
  pitch: fc.integer({ min: 0, max: 127 }),
  velocity: fc.integer({ min: 1, max: 127 }),
  pan: fc.double({ min: -1, max: 1, noNaN: true }),
  tune: fc.integer({ min: -48, max: 48 }),
  slide: fc.boolean(),
});

/** Any part's notes, with ids of their own. */
export const anyNotes: fc.Arbitrary<Note[]> = fc
  .array(anyNote, { maxLength: 40 })
  .map((notes) => notes.map((note, i) => ({ ...note, id: `n${i}` })));
