import * as edits from "@/core/edits";
import { type Bpm, plural } from "@/core/base";
import type { Metre } from "@/core/time";
import type { Key } from "@/core/pitch";
import { patternOf } from "@/core/score";
import { notesPastLoop } from "@/core/playback";
import type { SessionStore } from "../../state/store";

export type { KeyChange, MetreChange } from "@/core/edits";

/** Gives the project another name. */
export function renameProject(store: SessionStore, name: string): void {
  store.getState().edit("Rename", (project) => edits.renameProject(project, name));
}

/** Sets the tempo in quarters a minute. */
export function setTempo(store: SessionStore, bpm: Bpm): void {
  store.getState().edit("Tempo", (project) => edits.setTempo(project, bpm), { group: "tempo" });
}

/** Sets the key; notes stay. Changes of one `group` are one step of undo. */
export function setKey(store: SessionStore, key: Key, group: string): void {
  store.getState().edit("Key", (project) => edits.setKey(project, key), { group });
}

/** Takes the notes along from another key into the one that is set, as part of that step of undo. */
export function rekeyNotes(
  store: SessionStore,
  from: Key,
  how: edits.KeyChange,
  group: string,
): void {
  store
    .getState()
    .edit("Key", (project) => edits.rekeyNotes(project, from, project.key, how), { group });
}

/** A metre as it is written: 6/8. */
export const metreText = (metre: Metre): string => `${metre.beats}/${metre.unit}`;

/** Sets the metre of the project, and says what lies past the end of its loop then. */
export function setMetre(store: SessionStore, to: Metre, keep: edits.MetreChange): void {
  const { project, edit } = store.getState();
  const before = project.patterns.length;
  edit(
    "Metre",
    (project) => edits.setMetre(project, to, keep),
    (after) => {
      const count = after.patterns.reduce(
        (sum, { id, parts }) =>
          sum +
          parts.reduce(
            (count, { track }) => count + notesPastLoop(after, { pattern: id, track }).length,
            0,
          ),
        0,
      );
      const where = keep === "times" ? "times kept" : "places in the bar kept";
      const past = count > 0 ? `; ${plural(count, "note")} past the end of their loops` : "";
      return { message: `${metreText(to)} in ${plural(before, "pattern")}, ${where}${past}` };
    },
  );
}

/** Gives a pattern a metre of its own, or the project's (null). */
export function setPatternMetre(
  store: SessionStore,
  pattern: string,
  to: Metre | null,
  keep: edits.MetreChange,
): void {
  store
    .getState()
    .edit("Metre of the pattern", (project) => edits.setPatternMetre(project, pattern, to, keep), {
      message: `${patternOf(store.getState().project, pattern).name}: ${to ? metreText(to) : "the project's metre"}`,
    });
}
