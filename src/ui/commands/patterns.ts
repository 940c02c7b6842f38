import type { Desk } from "../session/desk";
import { nanoid } from "nanoid";
import { edits } from "@/core";
export function stepPattern({ store }: Desk, by: 1 | -1): void {
  const { project, pattern, takePattern } = store.getState();
  const at = project.patterns.findIndex((p) => p.id === pattern);
  const next = project.patterns[(at + by + project.patterns.length) % project.patterns.length]!;
  takePattern(next.id);
}

/** Adds a pattern after the others, a copy of the one in hand or empty, and takes it in hand. */
export function addPattern({ store }: Desk, copy: boolean): void {
  const id = nanoid(8);
  const state = store.getState();
  state.edit(copy ? "Duplicate the pattern" : "Add a pattern", (p) =>
    edits.addPattern(p, id, state.pattern, copy),
  );
  store.getState().takePattern(id);
}
