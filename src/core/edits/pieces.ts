import { type Note, drawnWith, sortNotes } from "../score";

/** A note that is none of a part's own as one of them: pieces of one hit go on to sound together by chance. */
export const asOwn = (note: Note, idOf: () => string): Note => ({
  ...note,
  id: note.chance === undefined ? idOf() : drawnWith(idOf(), note.id),
});

/** What a chain made as notes of a part: its own, which are `known`, keep their ids. */
export const writtenPieces = (
  notes: readonly Note[],
  known: ReadonlySet<string>,
  idOf: () => string,
): readonly Note[] =>
  sortNotes(notes.map((note) => (known.has(note.id) ? note : asOwn(note, idOf))));
