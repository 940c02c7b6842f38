import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural, nth } from "@/core/base";
import { toast } from "sonner";
import { type Colour, patternBar, patternOf, patternTicks, trackOf } from "@/core/score";
import type { SessionStore } from "../../state/store";

/**
 * Shows a pattern that was chosen. While the song plays and the sheet goes along with it, it stays from then
 * on, or the hand would lose what it reached for.
 */
export function choosePattern(store: SessionStore, id: string): void {
  const { project, pattern, plays, playing, stay, setArranging, setPattern, announce } =
    store.getState();
  if (id === pattern) return;
  setPattern(id);
  if (plays !== "song" || !playing || stay) return;
  setArranging({ stay: true });
  announce(
    `The sheet stays on ${patternOf(project, id).name} while the song goes on (alt H lets it go along)`,
  );
}

/** Shows the pattern with a number in the list, from 1. */
export function choosePatternNumber(store: SessionStore, number: number): void {
  const { project, announce } = store.getState();
  const pattern = project.patterns[number - 1];
  if (pattern) choosePattern(store, pattern.id);
  else announce(`There is no pattern ${number}`);
}

/** Makes the next or previous pattern the current one, round the list. */
export function stepPattern(store: SessionStore, by: 1 | -1): void {
  const { project, pattern } = store.getState();
  const at = project.patterns.findIndex((p) => p.id === pattern);
  const next = nth(project.patterns, (at + by + project.patterns.length) % project.patterns.length);
  choosePattern(store, next.id);
}

/** Adds a pattern after the others, a copy of the current one or empty, and makes it current. */
export function addPattern(store: SessionStore, how: "copy" | "empty"): void {
  const id = nanoid(8);
  const { pattern, edit } = store.getState();
  const added = edit(how === "copy" ? "Duplicate pattern" : "Add pattern", (project) =>
    edits.addPattern(project, id, pattern, how),
  );
  if (added) store.getState().setPattern(id);
}

/** Deletes the current pattern; the last one stays. */
export function deletePattern(store: SessionStore): void {
  const { project, pattern, edit, announce } = store.getState();
  const { name } = patternOf(project, pattern);
  if (project.patterns.length < 2) {
    announce(`${name} is the only pattern: it stays`);
    return;
  }
  const label = `Delete pattern ${name}`;
  edit(label, (project) => edits.deletePattern(project, pattern), {
    message: `Pattern ${name} deleted`,
  });
}

/** Adds a copy of the current pattern with what some of its tracks play, and makes it current. */
export function duplicateTracks(store: SessionStore, tracks: ReadonlySet<string>): void {
  const id = nanoid(8);
  const { pattern, edit } = store.getState();
  const done = edit(
    "Duplicate pattern",
    (project) => edits.copyPattern(project, pattern, id, tracks),
    (after) => ({
      message: `${plural(tracks.size, "track")} copied to ${patternOf(after, id).name}`,
    }),
  );
  if (done) choosePattern(store, id);
}

/** Deletes all that the current pattern holds. */
export function clearPattern(store: SessionStore): void {
  const { project, pattern, edit } = store.getState();
  const { name } = patternOf(project, pattern);
  edit(`Clear pattern ${name}`, (project) => edits.clearPattern(project, pattern), {
    selection: [],
    message: `Pattern ${name} cleared`,
  });
}

/** Moves or copies what the current track plays to another pattern. */
export function movePartTo(store: SessionStore, to: string, copy: boolean): void {
  const { project, pattern, track, edit } = store.getState();
  if (!track) return;
  const [name, target] = [trackOf(project, track).name, patternOf(project, to).name];
  const done = `${name} ${copy ? "copied" : "moved"} to ${target}`;
  edit(
    copy ? "Copy part" : "Move part",
    (project) => edits.movePart(project, { pattern, track }, to, { copy: copy }),
    {
      message: done,
    },
  );
}

/** Gives a pattern another name. */
export function renamePattern(store: SessionStore, id: string, name: string): void {
  store.getState().edit("Rename pattern", (project) => edits.renamePattern(project, id, name));
}

/** Moves a pattern in the list, before the one at a place. */
export function movePattern(store: SessionStore, id: string, before: number): void {
  const { patterns } = store.getState().project;
  if (before < 0 || before > patterns.length) return;
  store.getState().edit("Move pattern", (project) => edits.movePattern(project, id, before));
}

/** Gives a pattern a colour, or none. */
export function setPatternColour(store: SessionStore, id: string, colour: Colour | null): void {
  store.getState().edit("Colour", (project) => edits.setColour(project, id, colour));
}

/** Sets the length of a pattern in bars. Loops that go on under what came offer to be written out. */
export function setPatternBars(store: SessionStore, id: string, bars: number): void {
  const before = store.getState().project;
  const total = patternTicks(before, patternOf(before, id));
  const done = store
    .getState()
    .edit("Pattern length", (project) => edits.setBars(project, id, bars));
  const { project } = store.getState();
  const pattern = patternOf(project, id);
  const whole = pattern.parts.filter(
    ({ notes, length }) =>
      notes.length > 0 && length === total && length < patternTicks(project, pattern),
  );
  if (!done || whole.length === 0) return;
  const loop = plural(Math.round(total / patternBar(project, pattern)), "bar");
  toast(`The loops of ${loop} go on under the new bars`, {
    id: "pattern-length",
    action: { label: "Write them out", onClick: () => writeLoopsOut(store, id) },
  });
}

/** Writes the loops of a pattern out: each bar has notes of its own then. */
export function writeLoopsOut(store: SessionStore, id: string): void {
  const { project, edit, announce } = store.getState();
  const { name } = patternOf(project, id);
  const done = edit(
    "Write loops out",
    (project) => edits.loopsWrittenOut(project, id, () => nanoid(8)),
    { message: `The loops of ${name} are written out: each bar has its own notes` },
  );
  if (!done) announce(`All loops of ${name} are as long as the pattern`);
}
