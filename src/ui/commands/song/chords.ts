import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import { chordText } from "@/core/pitch";
import { type ChordMark, patternBar, patternOf, sortChords, trackOf } from "@/core/score";
import { chordedSection, currentPlace } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { lowOf } from "../ideas/hear-chord";

/** Velocity of chords that are added as notes. */
const HELD_VELOCITY = 84;

/** The chord line that is shown: the current section's own, else the pattern's. */
function shownChords(state: Session): { section: string | null; chords: readonly ChordMark[] } {
  const section = chordedSection(state);
  const own = patternOf(state.project, state.pattern).chords ?? [];
  return section?.chords
    ? { section: section.id, chords: section.chords }
    : { section: section?.id ?? null, chords: own };
}

/** Puts a chord into the chord line that is shown, in place of one at its tick. */
export function putChord(store: SessionStore, mark: ChordMark): void {
  const state = store.getState();
  const { section, chords } = shownChords(state);
  const others = chords.filter(({ id, start }) => id !== mark.id && start !== mark.start);
  state.edit(
    "Chord",
    (project) =>
      section !== null
        ? edits.setSectionChords(project, section, sortChords([...others, mark]))
        : edits.putChords(project, state.pattern, [mark]),
    { group: `chord-${mark.id}` },
  );
}

/** Deletes a chord of the chord line that is shown. */
export function deleteChord(store: SessionStore, id: string): void {
  const state = store.getState();
  const { section, chords } = shownChords(state);
  const left = chords.filter((mark) => mark.id !== id);
  state.edit(
    "Delete chord",
    (project) =>
      section !== null
        ? edits.setSectionChords(project, section, left)
        : edits.deleteChord(project, state.pattern, id),
    { message: "Chord deleted" },
  );
}

/** Finds the chords that the notes of the current part make, bar by bar. */
export function chordsFromNotes(store: SessionStore): void {
  const state = store.getState();
  const bar = patternBar(state.project, patternOf(state.project, state.pattern));
  const found = edits.detectChords(state.project, currentPlace(state), bar, () => nanoid(8));
  state.edit("Chords from notes", (project) => edits.putChords(project, state.pattern, found), {
    message: `${plural(found.length, "chord")} found in the notes`,
  });
}

/** Adds the chords of the line to the current part as notes. */
export function holdChords(store: SessionStore): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const how = { low: lowOf(track), velocity: HELD_VELOCITY, idOf: () => nanoid(8) };
  state.edit(
    `Add chords to ${track.name}`,
    (project) => edits.holdChords(project, currentPlace(state), how),
    {
      selection: [],
      message: `Chords added as notes to ${track.name}`,
    },
  );
}

/** Adds one chord of the line to the current part as notes. */
export function holdChord(store: SessionStore, mark: ChordMark): void {
  const state = store.getState();
  const low = lowOf(trackOf(state.project, state.track));
  const how = { low, velocity: HELD_VELOCITY, idOf: () => nanoid(8) };
  state.edit(
    `Add ${mark.name} as notes`,
    (project) => edits.holdChord(project, currentPlace(state), mark.id, how),
    { message: `${chordText(mark.name)} added as notes` },
  );
}

/** Gives a section chords of its own, or the pattern's where there are none. */
export function setSectionChords(
  store: SessionStore,
  section: string,
  chords: readonly ChordMark[],
): void {
  store
    .getState()
    .edit("Chords of the section", (project) => edits.setSectionChords(project, section, chords), {
      message:
        chords.length > 0 ? "The section has chords of its own" : "The pattern's chords hold",
    });
}
