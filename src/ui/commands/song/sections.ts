import * as edits from "@/core/edits";
import type { Bpm } from "@/core/base";
import type { SessionStore } from "../../state/store";
import { selectedSections } from "./song";

/** Moves a section, or all that are selected where it is one of them, before the section at a place. */
export function moveSectionsTo(store: SessionStore, dragged: string, at: number): void {
  const state = store.getState();
  const chosen = selectedSections(state).map((entry) => entry.id);
  const ids = new Set(chosen.includes(dragged) ? chosen : [dragged]);
  state.edit("Move sections", (project) => edits.moveSections(project, ids, at));
}

/** Names a section; an empty name is its pattern's. */
export function renameSection(store: SessionStore, id: string, text: string): void {
  const name = text.trim();
  store
    .getState()
    .edit("Section name", (project) =>
      edits.changeSection(project, id, { name: name === "" ? undefined : name }),
    );
}

/** Lets a section play another pattern, and shows it. */
export function setSectionPattern(store: SessionStore, id: string, pattern: string): void {
  store
    .getState()
    .edit("Section's pattern", (project) => edits.changeSection(project, id, { pattern }));
  store.getState().setPattern(pattern);
}

/** Sets how often a section repeats. */
export function setSectionTimes(store: SessionStore, id: string, times: number): void {
  store.getState().edit("Repeats", (project) => edits.setSectionTimes(project, id, times), {
    group: `section-times-${id}`,
  });
}

/** Sets the length of a section in bars. */
export function setSectionBars(store: SessionStore, id: string, bars: number): void {
  store.getState().edit("Section length", (project) => edits.setSectionBars(project, id, bars), {
    group: `section-bars-${id}`,
  });
}

/** Gives a section a tempo of its own; the project's is none. */
export function setSectionTempo(store: SessionStore, id: string, bpm: Bpm): void {
  store
    .getState()
    .edit(
      "Section tempo",
      (project) => edits.setSectionTempo(project, id, bpm === project.tempo ? null : bpm),
      {
        group: `section-tempo-${id}`,
      },
    );
}

/** Leaves a track out of a section, or lets it play again. */
export function muteInSection(
  store: SessionStore,
  id: string,
  track: string,
  what: "mute" | "unmute",
): void {
  store
    .getState()
    .edit(what === "mute" ? "Mute in the section" : "Unmute in the section", (project) =>
      edits.muteInSection(project, id, track, what === "mute"),
    );
}

/** Whether a section counts its loops on from the one before it, which plays the same pattern. */
export function continueSection(store: SessionStore, id: string, on: boolean): void {
  store
    .getState()
    .edit(on ? "Count loops on" : "Count loops anew", (project) =>
      edits.changeSection(project, id, { continues: on ? true : undefined }),
    );
}
