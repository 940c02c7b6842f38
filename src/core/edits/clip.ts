import type { MidiPitch } from "../base";
import { LIMITS, type Note, type Part, sortNotes } from "../score";

/** What was copied: notes with starts from the clip's own beginning, and how long it is in ticks. */
export interface Clip {
  kind: "notes" | "lane" | "column" | "bar";
  notes: readonly Note[];
  span: number;
}

/** Takes notes up for pasting, `from` becoming their tick 0. */
export function makeClip(
  kind: Clip["kind"],
  notes: readonly Note[],
  from: number,
  span: number,
): Clip {
  return { kind, span, notes: notes.map((note) => ({ ...note, start: note.start - from })) };
}

/** Where and how a clip is pasted. */
export interface Paste {
  /** Tick of the part where the clip's beginning goes. */
  at: number;
  /** Pad (or pitch) that the notes of a single row go to; null to keep their own. */
  pitch: MidiPitch | null;
  /** Names the new notes. */
  idOf: (note: Note) => string;
}

/**
 * Puts a clip into a part. Columns, bars and lanes take the place of what was in their stretch;
 * single notes are added, in place of one that begins on the same tick of the same pitch. Gives the
 * part and the ids of the new notes. A part never holds more notes than its limit.
 */
export function pasteClip(
  part: Part,
  clip: Clip,
  { at, pitch, idOf }: Paste,
): { part: Part; ids: string[] } {
  const rows = new Set(clip.notes.map((note) => note.pitch));
  const only = pitch !== null && rows.size <= 1 ? pitch : null;
  const fresh = clip.notes
    .map((note) => ({
      ...note,
      id: idOf(note),
      start: Math.max(-480, note.start + at),
      pitch: only ?? note.pitch,
    }))
    .filter((note) => note.start <= LIMITS.ticks);
  const taken = new Set(fresh.map((note) => `${note.pitch}:${note.start}`));
  const span = { from: at, to: at + clip.span };
  const replaced = (note: Note) => {
    if (clip.kind === "notes") return taken.has(`${note.pitch}:${note.start}`);
    if (clip.kind === "lane" && note.pitch !== (only ?? [...rows][0])) return false;
    return note.start >= span.from && note.start < span.to;
  };
  const kept = part.notes.filter((note) => !replaced(note));
  const notes = sortNotes([...kept, ...fresh].slice(0, LIMITS.notesPerPart));
  return { part: { ...part, notes }, ids: fresh.map((note) => note.id) };
}
