import { type PartNotes, selectedByPart, countText } from "../notes/by-part";
import { plural } from "@/core/base";
import { padName } from "@/core/pitch";
import { type Part, type PartAddress, type Project, partOf, trackOf } from "@/core/score";
import { currentPlace, type Work } from "../../state/current";

export type ScopeKind =
  "selection" | "lane" | "part" | "open" | "melodic" | "pattern" | "melodic-project" | "project";

/** What a transform can work on. */
export interface Scope {
  kind: ScopeKind;
  label: string;
  /** The parts it works on. */
  places: PartAddress[];
  /** Ids of notes by place, or null for all of the lane or parts. */
  ids: string[][] | null;
  /** The lane it stays with, hits put on later included. */
  lane?: number;
  /** Key and chord lines go along where all pitches are transposed. */
  harmony?: boolean;
}

/** Whether a transform of a scope moves all pitches of the project, so that its key may go along. */
export const movesHarmony = (transform: string, { kind }: Scope): boolean =>
  transform === "transpose" && (kind === "melodic-project" || kind === "project");

/** The selected notes, of one track or several. */
export const selectionScope = (held: readonly PartNotes[]): Scope => ({
  kind: "selection",
  label: `Selection, ${countText(held)}`,
  places: held.map(({ at }) => at),
  ids: held.map(({ notes }) => notes.map(({ id }) => id)),
});

/** What a new transform can work on, the likeliest first. */
export function scopesOf(state: Work, part: Part): Scope[] {
  const { project, pattern } = state;
  const here = currentPlace(state);
  const track = trackOf(project, state.track);
  const drums = track.kind === "drums";
  const word = (count: number) => `${count} ${drums ? "hit" : "note"}${count === 1 ? "" : "s"}`;
  const scopes: Scope[] = [];
  const held = selectedByPart(state);
  const selection = selectionScope(held);
  if (held.length > 0 && !state.onlyTouched) scopes.push(selection);
  if (drums) {
    const { pitch } = state.caret;
    const count = part.notes.filter((note) => note.pitch === pitch).length;
    const name = track.lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);
    const label = `Lane ${name}, ${word(count)}`;
    scopes.push({ kind: "lane", label, places: [here], ids: null, lane: pitch });
  }
  // A hit that was only touched can be worked on alone, but is not what is meant at first.
  if (held.length > 0 && state.onlyTouched) scopes.push(selection);
  scopes.push({
    kind: "part",
    label: `All of ${track.name}, ${word(part.notes.length)}`,
    places: [here],
    ids: null,
  });
  const of = (patterns: readonly string[], which: (id: string) => boolean): PartAddress[] =>
    patterns.flatMap((p) =>
      project.tracks
        .filter((track) => which(track.id))
        .map((track) => ({ pattern: p, track: track.id })),
    );
  const melodic = (id: string) => trackOf(project, id).kind === "melody";
  const all = project.patterns.map((pattern) => pattern.id);
  const several: [ScopeKind, string, PartAddress[]][] = [
    ["open", "Open tracks", of([pattern], (id) => state.open.has(id))],
    ["melodic", "Melodic tracks of this pattern", of([pattern], melodic)],
    ["pattern", "All tracks of this pattern", of([pattern], () => true)],
    ["melodic-project", "Melodic tracks of the project", of(all, melodic)],
    ["project", "The whole project, drums too", of(all, () => true)],
  ];
  for (const [kind, label, places] of several) {
    if (places.length < 2) continue;
    const filled = places.filter((p) => partOf(project, p).notes.length > 0).length;
    const parts = plural(filled, "part");
    scopes.push({ kind, label: `${label}, ${parts}`, places, ids: null });
  }
  return scopes;
}

/** All parts whose chain has a step of this id: a step put on several parts is one step. */
export function placesOfStep(project: Project, step: string): PartAddress[] {
  return project.patterns.flatMap((pattern) =>
    pattern.parts
      .filter((part) => part.chain.some((s) => s.id === step))
      .map((part) => ({ pattern: pattern.id, track: part.track })),
  );
}
