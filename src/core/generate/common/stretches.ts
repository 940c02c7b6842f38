import { chordClasses, parseChord } from "../../pitch";
import { type Pattern, type Project, chordSpans } from "../../score";
import type { ChordStretch } from "./options";

/** The chord line of a pattern as ideas need it: pitch classes with the root first, and a bass of its own. */
export function chordStretches(project: Project, pattern: Pattern): ChordStretch[] {
  return chordSpans(project, pattern).flatMap(({ mark, from, to }) => {
    const chord = parseChord(mark.name);
    if (!chord) return [];
    const classes = [chord.root, ...[...chordClasses(chord)].filter((pc) => pc !== chord.root)];
    return [{ from, to, classes, ...(chord.bass !== null && { bass: chord.bass }) }];
  });
}
