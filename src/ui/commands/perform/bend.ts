import * as edits from "@/core/edits";
import { currentPart, currentPlace } from "../../state/current";
import type { SessionStore } from "../../state/store";

/** Deletes the bend curve of the current part. */
export function deleteBendOfPart(store: SessionStore): void {
  const state = store.getState();
  if (!state.track || !currentPart(state).bend) {
    state.announce("This part has no bend");
    return;
  }
  state.edit("Delete the bend", (project) => edits.deleteBend(project, currentPlace(state)), {
    message: "Bend deleted",
  });
}
