import * as edits from "@/core/edits";
import { type Note, withChance } from "@/core/score";
import { currentPlace } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { louder, ownIds } from "./notes";
import { selectedIds } from "./selected";

/** Changes one value of all selected notes; a run of changes of one value is one step of undo. */
export function changeSelected(
  store: SessionStore,
  label: string,
  change: (note: Note) => Note,
): void {
  const state = store.getState();
  state.edit(
    label,
    (project) => edits.changeNotes(project, currentPlace(state), selectedIds(state), change),
    {
      group: `values-${label}`,
    },
  );
}

/** Changes notes of the current part by id, as one stroke over them does; `group` names the stroke. */
export function paintValues(
  store: SessionStore,
  ids: ReadonlySet<string>,
  change: (note: Note) => Note,
  { label, group }: { label: string; group: string },
): void {
  const state = store.getState();
  state.edit(label, (project) => edits.changeNotes(project, currentPlace(state), ids, change), {
    group,
  });
}

/** Makes selected notes louder by so many steps of the wheel over one of them. */
export function wheelVelocity(store: SessionStore, over: Note, steps: number): void {
  wheel(store, "Velocity", over, (note) => louder(note, steps));
}

/** Gives selected notes the chance that one of them has, and so many steps of the wheel more. */
export function wheelChance(store: SessionStore, over: Note, steps: number): void {
  const chance = (over.chance ?? 100) + 5 * steps;
  wheel(store, "Chance", over, (note) => withChance(note, chance));
}

function wheel(store: SessionStore, label: string, over: Note, change: (note: Note) => Note): void {
  const state = store.getState();
  const ids = ownIds(state.selection);
  state.edit(label, (project) => edits.changeNotes(project, currentPlace(state), ids, change), {
    group: `wheel-${label}-${over.id}`,
  });
}
