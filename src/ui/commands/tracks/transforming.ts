import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import type { Params } from "@/core/params";
import { partOf, trackOf } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { currentPlace, currentStretch } from "../../state/current";
import { selectedOnPurpose } from "../../state/selected";
import type { SessionStore } from "../../state/store";
import { ownIds } from "../notes/notes";
import { notesByPart } from "../notes/by-part";
import { selectedIds, showSelected } from "../notes/selected";
import { applyTo } from "./chain";
import { selectionScope } from "./scopes";

interface How {
  /** Name of the edit. */
  label: string;
  /**
   * What it works on: `selected`, the selection or else the note at the caret; `lane`, what was selected
   * on purpose or else the whole current lane (or melodic line).
   */
  on?: "selected" | "lane";
  group?: string;
}

/**
 * Applies a transform now and says what it did. What is made anew of a selection is selected with
 * it, and a selected stretch stays one.
 */
export function transformNow(store: SessionStore, id: string, params: Params, how: How): void {
  const { label, on = "selected", group } = how;
  // A bend goes along with the notes it belongs to.
  if ("bends" in transformOf(id).defaults) params = { bends: true, ...params };
  const state = store.getState();
  const at = currentPlace(state);
  const held = on === "selected" || !state.onlyTouched ? notesByPart(state) : [];
  if (held.length > 1) {
    applyTo(store, { transform: id, params }, selectionScope(held), group);
    return;
  }
  const own = on === "selected" ? selectedIds(state) : ownIds(selectedOnPurpose(state));
  if (own.size === 0 && on === "selected") {
    state.announce("Nothing selected: put the cursor on a hit, or select some");
    return;
  }
  const drums = trackOf(state.project, state.track).kind === "drums";
  const stretch = currentStretch(state);
  const scope = {
    selection: own.size > 0 ? own : null,
    lane: own.size === 0 && drums ? state.caret.pitch : null,
    range: stretch ? ([stretch.from, stretch.to] as const) : null,
  };
  let message = "";
  let fresh: string[] = [];
  state.edit(
    label,
    (project) => {
      const done = edits.transformPart(project, at, { transform: id, params, scope }, () =>
        nanoid(8),
      );
      message = done.effect.sentence;
      fresh = done.fresh;
      return done.project;
    },
    (after) => {
      const now = new Set(partOf(after, at).notes.map((note) => note.id));
      const made = own.size > 0 ? [...own, ...fresh] : [];
      return { message, group, selection: made.filter((note) => now.has(note)), stretch };
    },
  );
  showSelected(store);
}
