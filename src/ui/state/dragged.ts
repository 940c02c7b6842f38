import type { PlayedNote } from "@/core/perform";

/** Played notes that are being dragged: a drag's own data cannot be looked at before it is dropped. */
let dragged: readonly PlayedNote[] | null = null;

/** Takes played notes up to be dropped on a track; null lets go of them. */
export function dragNotes(notes: readonly PlayedNote[] | null): void {
  dragged = notes;
}

/** What is being dragged, if it is played notes. */
export const draggedNotes = () => dragged;
