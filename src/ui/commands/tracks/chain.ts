import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural, nth, must } from "@/core/base";
import type { Params } from "@/core/params";
import { keyName } from "@/core/pitch";
import { type ChainStep, type PartAddress, type Project, partOf } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { currentPart, currentPlace, workOf } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { selectionOf } from "../notes/by-part";
import { revealNotes } from "../notes/rows";
import { fittingParams } from "./fitting";
import { placesOfStep, scopesOf, type Scope } from "./scopes";

/** Values that a transform is asked with: as it was applied last, else those meant for a beginning. */
export function startingParams(state: Session, id: string, scope?: Scope): Params {
  const { defaults, starts } = transformOf(id);
  return { ...defaults, ...starts, ...state.lastParams[id], ...fittingParams(state, id, scope) };
}

/**
 * Adds a transform to the chain as a card: on a scope, or what is likeliest (the selection, else the
 * current lane, else the part). Put on several parts it is one card still: its values change in all.
 */
export function addToChain(store: SessionStore, transform: string, on?: Scope): void {
  const state = store.getState();
  const scopes = scopesOf(workOf(state), currentPart(state));
  const asked = on ?? nth(scopes, 0);
  const { label, defaults, starts, whole } = transformOf(transform);
  const narrow = asked.kind === "lane" || asked.kind === "selection";
  // What is meant for parts works on the part, whatever lane or notes are in hand.
  const scope = whole && narrow ? must(scopes.find(({ kind }) => kind === "part")) : asked;
  const step = {
    id: nanoid(8),
    transform,
    on: true,
    params: { ...defaults, ...starts, ...fittingParams(state, transform, scope) },
    ...(scope.lane !== undefined && { lane: scope.lane }),
  };
  const added = state.edit(
    `Add ${label} to chain`,
    (project) =>
      scope.places.reduce(
        (all, at, i) => edits.addStep(all, at, { ...step, scope: scope.ids?.[i] ?? null }),
        project,
      ),
    { message: `${label} added to the chain: ${scope.label}` },
  );
  if (added) state.setTools({ bench: "transform" });
}

/** A step put on several parts is one: what is done to it is done in all of them. */
const everywhere =
  (step: string, change: (project: Project, at: PartAddress) => Project) =>
  (project: Project): Project =>
    placesOfStep(project, step).reduce(change, project);

/** Moves a card to a place in the chain of the current part, from 0. */
export function moveStep(store: SessionStore, step: string, to: number): void {
  const state = store.getState();
  state.edit("Reorder", (project) => edits.moveStep(project, currentPlace(state), step, to));
}

/** Switches a card on or off. */
export function switchStep(store: SessionStore, step: string, to: "on" | "off"): void {
  store.getState().edit(
    to === "on" ? "Switch on" : "Switch off",
    everywhere(step, (project, at) => edits.changeStep(project, at, step, { on: to === "on" })),
  );
}

/** Gives a card other values: all of them; a run of changes of the value `of` is one step of undo. */
export function setStepParams(
  store: SessionStore,
  { id, transform }: Pick<ChainStep, "id" | "transform">,
  params: Params,
  { name, of }: { name?: string; of?: string } = {},
): void {
  const { label } = transformOf(transform);
  store.getState().edit(
    name ? `${label}: ${name}` : label,
    everywhere(id, (project, at) => edits.changeStep(project, at, id, { params })),
    { group: of && `${id}-${of}` },
  );
}

/** Deletes a card from the chain, in all parts it is on. */
export function deleteStep(
  store: SessionStore,
  { id, transform }: Pick<ChainStep, "id" | "transform">,
): void {
  const { label } = transformOf(transform);
  store.getState().edit(
    `Delete ${label} card`,
    everywhere(id, (project, at) => edits.deleteStep(project, at, id)),
    { message: `${label} deleted from the chain` },
  );
}

/** The current part, and the parts that share cards with its chain: they are written together. */
export function linkedPlaces(state: Pick<Session, "project" | "pattern" | "track">): PartAddress[] {
  const here = currentPlace(state);
  const pattern = state.project.patterns.find((pattern) => pattern.id === here.pattern);
  const chain = pattern?.parts.find((part) => part.track === here.track)?.chain ?? [];
  const all = [here, ...chain.flatMap((step) => placesOfStep(state.project, step.id))];
  const same = (a: PartAddress, b: PartAddress) => a.pattern === b.pattern && a.track === b.track;
  return all.filter((at, i) => all.findIndex((other) => same(at, other)) === i);
}

/** Replaces the notes by what the chain makes of them and empties the chain, in all linked parts. */
export function writeChain(store: SessionStore): void {
  const state = store.getState();
  const { chain } = currentPart(state);
  if (chain.length === 0) return;
  const name = chain.length === 1 ? transformOf(nth(chain, 0).transform).label : "the chain";
  const places = linkedPlaces(state);
  state.edit(
    `Write ${name} to notes`,
    (project) => places.reduce((all, at) => edits.writeChain(all, at, () => nanoid(8)), project),
    (after) => ({
      selection: [],
      message: `Written to ${plural(
        places.reduce((sum, at) => sum + partOf(after, at).notes.length, 0),
        "note",
      )}`,
    }),
  );
}

/** What a transform makes of a scope. Throws a RangeError for wrong values. */
export function resultOn(
  project: Project,
  transform: string,
  params: Params,
  scope: Scope,
): { project: Project; message: string; fresh: string[][] } {
  const idOf = () => nanoid(8);
  const [only] = scope.places;
  if (scope.places.length > 1 || !only) {
    const wish = { transform, params, ids: scope.ids };
    const all = edits.transformParts(project, scope.places, wish, idOf);
    const { fresh } = all;
    if (!scope.harmony) return { project: all.project, message: all.sentence, fresh };
    const moved = edits.transposeHarmony(all.project, {
      semitones: Number(params["semitones"] ?? 0),
      degrees: Number(params["degrees"] ?? 0),
    });
    const key = moved.key === all.project.key ? "" : `, the key is ${keyName(moved.key)}`;
    return { project: moved, message: `${all.sentence}${key}`, fresh };
  }
  const on = {
    selection: scope.ids && new Set(scope.ids[0]),
    lane: scope.lane ?? null,
    range: null,
  };
  const one = edits.transformPart(project, only, { transform, params, scope: on }, idOf);
  return { project: one.project, message: one.effect.sentence, fresh: [one.fresh] };
}

/** Applies a transform to a scope now, its values set before, which are those it is asked with again. */
export function applyAsked(store: SessionStore, id: string, params: Params, scope: Scope): void {
  const { lastParams, setTools } = store.getState();
  setTools({ lastParams: { ...lastParams, [id]: params } });
  applyTo(store, { transform: id, params }, scope);
}

/** Applies a transform to a scope; edits of a `group` that follow one another are one step of undo. */
export function applyTo(
  store: SessionStore,
  { transform, params }: { transform: string; params: Params },
  scope: Scope,
  group?: string,
): void {
  const state = store.getState();
  let message = "";
  let fresh: string[][] = [];
  store.getState().edit(
    transformOf(transform).label,
    (project) => {
      const done = resultOn(project, transform, params, scope);
      ({ message, fresh } = done);
      return done.project;
    },
    (after) => ({
      message,
      group,
      ...(scope.ids && selectionOf(state, made(after, scope, fresh))),
    }),
  );
  const now = store.getState();
  const { notes } = currentPart(now);
  revealNotes(store, scope.ids ? notes.filter(({ id }) => now.selection.has(id)) : notes);
}

/** What is there of the notes of a scope after a transform, those made anew with them, by part. */
const made = (after: Project, { places, ids }: Scope, fresh: readonly (readonly string[])[]) =>
  places.map((at, i) => {
    const there = new Set(partOf(after, at).notes.map(({ id }) => id));
    return { at, ids: [...(ids?.[i] ?? []), ...(fresh[i] ?? [])].filter((id) => there.has(id)) };
  });
