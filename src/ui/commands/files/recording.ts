import * as edits from "@/core/edits";
import type { SessionStore } from "../../state/store";

/** Deletes the recording behind a pattern; its notes stay. */
export function deleteRecording(store: SessionStore, pattern: string): void {
  store
    .getState()
    .edit("Delete recording", (project) => edits.setRecording(project, pattern, null), {
      message: "Recording deleted",
    });
}
