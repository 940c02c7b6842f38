import { ordinal, plural } from "@/core/base";
import { barTicks, lineAt, nearestLine, stepTicks } from "@/core/time";
import { inKey } from "@/core/pitch";
import { type Note, type Project, trackOf } from "@/core/score";
import { currentPart, currentMetre } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { currentRow } from "./current-row";
import { selectedIds } from "./selected";

/** A way to select notes of the current part. One entry adds one to the menu and the palette. */
interface Selector {
  id: string;
  label: string;
  pick(notes: readonly Note[], own: ReadonlySet<string>, project: Project): readonly Note[];
}

const everyNth = (count: number): Selector => ({
  id: `every-${count}`,
  label: `Every ${ordinal(count)} of them`,
  pick: (notes, own) => nth(notes, own, count),
});

/** Every n-th of the selected notes, or of all where fewer than two are selected, from the first on. */
function nth(notes: readonly Note[], own: ReadonlySet<string>, count: number): Note[] {
  const from = own.size > 1 ? notes.filter((note) => own.has(note.id)) : notes;
  return from.filter((_, i) => i % count === 0);
}

export const SELECTORS: readonly Selector[] = [
  { id: "whole", label: "All of the part", pick: (notes) => notes },
  {
    id: "same-pitch",
    label: "The same pitch",
    pick: (notes, own) => {
      const pitches = new Set(notes.filter((note) => own.has(note.id)).map((note) => note.pitch));
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
  const { select, announce } = store.getState();
  select(found.map((note) => note.id));
  announce(`${plural(found.length, "note")} selected`);
}

/** Selects what a selector picks of the current part. */
export function selectBy(store: SessionStore, { pick }: Selector): void {
  const state = store.getState();
  give(store, pick(currentPart(state).notes, selectedIds(state), state.project));
}

/** Selects every n-th of the selected notes, or of all. */
export function selectNth(store: SessionStore, count: number): void {
  const state = store.getState();
  give(store, nth(currentPart(state).notes, selectedIds(state), count));
}

/** Selects the current lane (or melodic part), a second time the whole part. */
export function selectAll(store: SessionStore): void {
  const state = store.getState();
  const { notes } = currentPart(state);
  const drums = trackOf(state.project, state.track).kind === "drums";
  const inLane = notes.filter((note) => !drums || note.pitch === state.caret.pitch);
  give(store, inLane.every((note) => state.selection.has(note.id)) ? notes : inLane);
}

/** Selects a lane, a step across all lanes, or the caret's bar, as a stretch of time. */
export function selectStretch(store: SessionStore, kind: "lane" | "column" | "bar"): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  const { tick } = state.caret;
  const bar = barTicks(currentMetre(state));
  const cell = stepTicks(row.grid);
  const gridLine = nearestLine(row.grid, tick);
  const [from, to] =
    kind === "lane"
      ? [0, row.period]
      : kind === "bar"
        ? [Math.floor(tick / bar) * bar, (Math.floor(tick / bar) + 1) * bar]
        : row.grid.kind === "off"
          ? [tick, tick + cell]
          : [lineAt(row.grid, gridLine), lineAt(row.grid, gridLine + 1)];
  // Hits a little early belong to the step or bar they lead into.
  const early = Math.min(120, cell / 2);
  const inside = currentPart(state).notes.filter(
    (note) =>
      note.start >= from - early &&
      note.start < to - early &&
      (kind !== "lane" || row.lane === null || note.pitch === row.pitch),
  );
  state.select(
    inside.map((note) => note.id),
    { stretch: { kind, from, to } },
  );
  state.announce(`${plural(inside.length, "hit")} selected`);
}
