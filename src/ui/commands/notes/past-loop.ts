import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import type { PartAddress, Project } from "@/core/score";
import type { SessionStore } from "../../state/store";
import { notesPastLoop } from "@/core/playback";

/** What can be done with notes past the end of their loop. */
export const PAST_LOOP = [
  {
    id: "lengthen",
    label: "Lengthen the loop",
    change: (project: Project, place: PartAddress) =>
      edits.growLoops(project, place, () => nanoid(8)).project,
    message: "taken in: the loop is longer",
  },
  {
    id: "wrap",
    label: "Wrap round to the beginning",
    change: edits.wrapPastLoop,
    message: "wrapped round to the beginning",
  },
  { id: "delete", label: "Delete them", change: edits.deletePastLoop, message: "deleted" },
] as const;

/** Does one of them to a part. */
export function settlePastLoop(
  store: SessionStore,
  place: PartAddress,
  { label, change, message }: (typeof PAST_LOOP)[number],
): void {
  const { edit, project } = store.getState();
  const count = notesPastLoop(project, place).length;
  edit(label, (project) => change(project, place), {
    message: `${plural(count, "note")} ${message}`,
  });
}

/** What is said of an edit, with what it made longer so that nothing lies past a loop's end. */
export const withGrowthMessage = (message: string, growth: string) =>
  growth ? `${message}; ${growth}` : message;
