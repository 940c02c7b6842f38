import type { Note, Pattern, Starred } from "./model";

/** A pattern with these starred ideas, and no others. */
export function withStars(pattern: Pattern, stars: readonly Starred[]): Pattern {
  const { stars: _, ...rest } = pattern;
  return stars.length > 0 ? { ...rest, stars } : rest;
}

/** What tells one line from another, as a text: starts, lengths and pitches of its notes, not velocities. */
export const shapeOf = (notes: readonly Note[]): string =>
  notes.map((note) => `${note.start},${note.length},${note.pitch}`).join(" ");

/** What tells one starred idea from another: what it is for, and its notes. */
export const starSign = ({ track, notes }: Pick<Starred, "track" | "notes">): string =>
  `${track ?? ""}: ${shapeOf(notes)}`;
