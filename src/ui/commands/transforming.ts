import { chosen } from "./selected";
import { ownIds } from "./notes";
import { nanoid } from "nanoid";
import { edits, partOf, trackOf, type Params } from "@/core";
import { place, stretchInHand, type SessionStore } from "../session/store";

/**
 * Applies a transform at once and says what it did. `chosen`: to the selection, else the note at the
 * caret. `lane`: to the selection, else the whole lane (or melodic line) in hand. What is made anew
 * of a selection is selected with it, and a selected stretch stays one.
 */
export function transformNow(
  store: SessionStore,
  id: string,
  params: Params,
  label: string,
  on: "chosen" | "lane" = "chosen",
  group?: string,
): void {
  const state = store.getState();
  const at = place(state);
  const own = on === "chosen" ? chosen(state) : ownIds(state.selection);
  if (own.size === 0 && on === "chosen") {
    store.setState({ said: "Nothing is chosen: put the caret on a hit, or select some" });
    return;
  }
  const drums = trackOf(state.project, state.track).kind === "drums";
  const stretch = stretchInHand(state);
  const scope = {
    selection: own.size > 0 ? own : null,
    lane: own.size === 0 && drums ? state.caret.pitch : null,
    range: stretch ? ([stretch.from, stretch.to] as const) : null,
  };
  let said = "";
  let fresh: string[] = [];
  state.edit(
    label,
    (project) => {
      const done = edits.transformPart(project, at, id, params, scope, () => nanoid(8));
      said = done.effect.sentence;
      fresh = done.fresh;
      return done.project;
    },
    group,
  );
  const now = new Set(partOf(store.getState().project, at).notes.map((note) => note.id));
  const selection = new Set([...own, ...(own.size > 0 ? fresh : [])].filter((n) => now.has(n)));
  store.setState({ said, selection, ...(stretch && { stretch: { ...stretch, of: selection } }) });
}
