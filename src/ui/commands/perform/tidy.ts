import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import type { Params } from "@/core/params";
import type { ChainStep } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { currentPart, currentPlace } from "../../state/current";
import { fittingParams } from "../tracks/fitting";
import type { Session, SessionStore } from "../../state/store";

/** One thing that a take may want: a card of the chain, with the values that matter most. */
export interface Tidying {
  transform: string;
  label: string;
  /** Values a card begins with besides its defaults. */
  begins: Params;
  /** Fields shown beside it, by the names of its parameters. */
  fields: readonly string[];
  /** Only where there are pitches. */
  melody?: true;
}

/** What is offered after a take, in the order it is best done. */
export const TIDYINGS: readonly Tidying[] = [
  {
    transform: "strays",
    label: "Delete stray notes",
    begins: {},
    fields: ["softer", "shorter", "twice"],
  },
  { transform: "quantize", label: "Quantize", begins: { strength: 70 }, fields: ["strength"] },
  {
    transform: "velocity",
    label: "Level velocities",
    begins: { way: "level", amount: 50 },
    fields: ["amount"],
  },
  { transform: "legato", label: "Legato", begins: {}, fields: [], melody: true },
  { transform: "snap-to-scale", label: "Snap to scale", begins: {}, fields: [], melody: true },
];

/** The card that does it on the whole current part, where there is one. */
export function tidyCard(state: Session, { transform, begins }: Tidying): ChainStep | undefined {
  if (!state.track) return undefined;
  return currentPart(state).chain.find(
    (step) =>
      step.transform === transform &&
      step.scope === null &&
      step.lane === undefined &&
      (begins.way === undefined || step.params.way === begins.way),
  );
}

/** Adds the card, or deletes it: the take itself stays as it was played. */
export function toggleTidy(store: SessionStore, tidying: Tidying): void {
  const state = store.getState();
  const known = tidyCard(state, tidying);
  const place = currentPlace(state);
  if (known) {
    state.edit(`Without ${tidying.label.toLowerCase()}`, (project) =>
      edits.deleteStep(project, place, known.id),
    );
    return;
  }
  const { transform, begins, label } = tidying;
  const { defaults } = transformOf(transform);
  const params = { ...defaults, ...fittingParams(state, transform), ...begins };
  const step = { id: nanoid(8), transform, on: true, params, scope: null };
  state.edit(label, (project) => edits.addStep(project, place, step));
}

/** Changes a value of the card; one drag is one step of the history. */
export function setTidy(store: SessionStore, tidying: Tidying, name: string, value: number): void {
  const state = store.getState();
  const known = tidyCard(state, tidying);
  if (!known) return;
  state.edit(
    tidying.label,
    (project) =>
      edits.changeStep(project, currentPlace(state), known.id, {
        params: { ...known.params, [name]: value },
      }),
    { group: `tidy-${known.id}-${name}` },
  );
}
