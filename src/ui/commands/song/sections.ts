import * as edits from "@/core/edits";
import type { Bpm } from "@/core/base";
import type { SessionStore } from "../../state/store";
import { selectedSections } from "./song";

/** Moves a section, or all that are selected where it is one of them, before the section at a place. */
export function moveSectionsTo(store: SessionStore, dragged: string, at: number): void {
  const state = store.getState();
  const chosen = selectedSections(state).map((entry) => entry.id);
  const ids = new Set(chosen.includes(dragged) ? chosen : [dragged]);
  state.edit("Move sections", (p) => edits.moveSections(p, ids, at));
}

/** Names a section; an empty name is its pattern's. */
export function renameSection(store: SessionStore, id: string, text: string): void {
  const name = text.trim();
  store
    .getState()
    .edit("Section name", (p) =>
      edits.changeSection(p, id, { name: name === "" ? undefined : name }),
    );
}

/** Lets a section play another pattern, and shows it. */
export function setSectionPattern(store: SessionStore, id: string, pattern: string): void {
  store.getState().edit("Section's pattern", (p) => edits.changeSection(p, id, { pattern }));
  store.getState().setPattern(pattern);
}

/** Sets how often a section repeats. */
export function setSectionTimes(store: SessionStore, id: string, times: number): void {
  store.getState().edit("Repeats", (p) => edits.setSectionTimes(p, id, times), {
    group: `section-times-${id}`,
  });
}

/** Sets the length of a section in bars. */
export function setSectionBars(store: SessionStore, id: string, bars: number): void {
  store.getState().edit("Section length", (p) => edits.setSectionBars(p, id, bars), {
    group: `section-bars-${id}`,
  });
}

/** Gives a section a tempo of its own; the project's is none. */
export function setSectionTempo(store: SessionStore, id: string, bpm: Bpm): void {
  store
    .getState()
    .edit("Section tempo", (p) => edits.setSectionTempo(p, id, bpm === p.tempo ? null : bpm), {
      group: `section-tempo-${id}`,
    });
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
    .edit(what === "mute" ? "Mute in the section" : "Unmute in the section", (p) =>
      edits.muteInSection(p, id, track, what === "mute"),
    );
}
