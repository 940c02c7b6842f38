import { type Note, rootId } from "@/core/score";

/** Ids of the notes that a part has itself; looked up once for each list of notes. */
const own = new WeakMap<readonly Note[], ReadonlySet<string>>();

export function ownNotes(notes: readonly Note[]): ReadonlySet<string> {
  let ids = own.get(notes);
  if (!ids) own.set(notes, (ids = new Set(notes.map(({ id }) => id))));
  return ids;
}

/** Whether a note that is heard was made by a card: it is none of the part's own, nor a piece of one. */
export const isMade = (notes: readonly Note[], id: string): boolean =>
  !ownNotes(notes).has(rootId(id));
