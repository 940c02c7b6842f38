import { inKey, partOf, type Note, type Project } from "@/core";
import { place, type SessionStore } from "../session/store";
import { chosen } from "../sheet/editing";

/** A way to select notes of the part in hand. One entry adds one to the menu and the palette. */
interface Selector {
  id: string;
  label: string;
  pick(notes: readonly Note[], own: ReadonlySet<string>, project: Project): readonly Note[];
}

const everyNth = (n: number): Selector => ({
  id: `every-${n}`,
  label: `Every ${n}${n === 2 ? "nd" : n === 3 ? "rd" : "th"} of them`,
  pick: (notes, own) => nth(notes, own, n),
});

/** Every n-th of the chosen notes, or of all where fewer than two are chosen, from the first on. */
function nth(notes: readonly Note[], own: ReadonlySet<string>, n: number): Note[] {
  const from = own.size > 1 ? notes.filter((note) => own.has(note.id)) : notes;
  return from.filter((_, i) => i % n === 0);
}

export const SELECTORS: readonly Selector[] = [
  { id: "whole", label: "All of the part", pick: (notes) => notes },
  {
    id: "same-pitch",
    label: "The same pitch",
    pick: (notes, own) => {
      const pitches = new Set(notes.filter((n) => own.has(n.id)).map((n) => n.pitch));
      return notes.filter((note) => pitches.has(note.pitch));
    },
  },
  {
    id: "in-key",
    label: "In the key",
    pick: (notes, _, { key }) => notes.filter((note) => inKey(key, note.pitch)),
  },
  {
    id: "out-of-key",
    label: "Out of the key",
    pick: (notes, _, { key }) => notes.filter((note) => !inKey(key, note.pitch)),
  },
  {
    id: "no-pitch",
    label: "Without a pitch yet",
    pick: (notes) => notes.filter((note) => note.unpitched),
  },
  everyNth(2),
  everyNth(3),
  everyNth(4),
  {
    id: "others",
    label: "All others",
    pick: (notes, own) => notes.filter((note) => !own.has(note.id)),
  },
];

function give(store: SessionStore, found: readonly Note[]): void {
  const said = `${found.length} note${found.length === 1 ? "" : "s"} selected`;
  store.setState({ selection: new Set(found.map((note) => note.id)), stretch: null, said });
}

export function select(store: SessionStore, { pick }: Selector): void {
  const state = store.getState();
  const { notes } = partOf(state.project, place(state));
  give(store, pick(notes, chosen(state), state.project));
}

/** Selects every n-th of the chosen notes, or of all. */
export function selectNth(store: SessionStore, n: number): void {
  const state = store.getState();
  const { notes } = partOf(state.project, place(state));
  give(store, nth(notes, chosen(state), n));
}
