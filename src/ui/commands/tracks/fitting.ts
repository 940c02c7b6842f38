import { fitGrid } from "@/core/analysis";
import { gridTicks, grid } from "@/core/time";
import type { Params } from "@/core/params";
import { type Note, trackOf } from "@/core/score";
import { currentMetre, currentPart } from "../../state/current";
import type { Session } from "../../state/store";
import { ownIds } from "../notes/notes";
import type { Scope } from "./scopes";

/** The notes of the current part that a scope is for; all where it is for more than one part. */
function notesOf(state: Session, scope?: Pick<Scope, "ids" | "lane">): readonly Note[] {
  const { notes } = currentPart(state);
  const ids = scope?.ids && ownIds(scope.ids.flat());
  return notes.filter(
    ({ id, pitch }) => (!ids || ids.has(id)) && (scope?.lane === undefined || pitch === scope.lane),
  );
}

/**
 * Values that a transform of time begins with by what is there: quantizing goes to the grid that what was played
 * fits, whatever grid it is drawn on; swing takes one pair of cells for a whole kit, sixteenths where any are played.
 */
export function fittingParams(
  state: Session,
  transform: string,
  scope?: Pick<Scope, "ids" | "lane">,
): Params {
  if (transform === "quantize") return quantizeParams(state, notesOf(state, scope));
  if (transform === "swing" && trackOf(state.project, state.track).kind === "drums")
    return { value: pairOf(notesOf(state, scope)), kind: "straight" };
  return {};
}

function quantizeParams(state: Session, notes: readonly Note[]): Params {
  const fit = fitGrid(notes, currentMetre(state));
  if (!fit?.clear) return {};
  const { value, kind, swing } = fit.grid;
  return { value: String(value), kind, swing };
}

/** The value of the cells that swing: sixteenths where a hit lies on one between eighths, else eighths. */
function pairOf(notes: readonly Note[]): string {
  const cell = gridTicks(grid(16));
  const odd = notes.some(({ start }) => Math.abs(Math.round(start / cell)) % 2 === 1);
  return odd || notes.length === 0 ? "16" : "8";
}
