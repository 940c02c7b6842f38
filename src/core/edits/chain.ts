import {
  type ChainStep,
  type PartAddress,
  type Project,
  changePart,
  partOf,
  patternOf,
  sortNotes,
  trackOf,
  withBend,
} from "../score";
import { applyChain, contextOf } from "../transforms";
import { writtenPieces } from "./pieces";
import { holding } from "./transform";

/** Puts a transform at the end of a part's chain. */
export function addStep(project: Project, place: PartAddress, step: ChainStep): Project {
  return changePart(project, place, (part) => ({ ...part, chain: [...part.chain, step] }));
}

/** Changes a step of a part's chain: its switch, its parameters, its scope. */
export function changeStep(
  project: Project,
  place: PartAddress,
  id: string,
  change: Partial<Omit<ChainStep, "id" | "transform">>,
): Project {
  return changePart(project, place, (part) => ({
    ...part,
    chain: part.chain.map((step) => (step.id === id ? { ...step, ...change } : step)),
  }));
}

/** Takes a step out of a part's chain. */
export function deleteStep(project: Project, place: PartAddress, id: string): Project {
  return changePart(project, place, (part) => ({
    ...part,
    chain: part.chain.filter((step) => step.id !== id),
  }));
}

/** Moves a step to another place in the chain; `to` counts from 0. */
export function moveStep(project: Project, place: PartAddress, id: string, to: number): Project {
  return changePart(project, place, (part) => {
    const step = part.chain.find((step) => step.id === id);
    if (!step) return part;
    const chain = part.chain.filter((step) => step.id !== id);
    chain.splice(Math.max(0, Math.min(chain.length, to)), 0, step);
    return { ...part, chain };
  });
}

/**
 * Replaces the notes by what the chain makes of them and empties the chain, as one edit; the pattern grows
 * where it makes the loop longer than that. Notes that
 * are still themselves keep their ids; pieces become notes of their own, named by `idOf`.
 */
export function writeChain(project: Project, place: PartAddress, idOf: () => string): Project {
  const track = trackOf(project, place.track);
  const part = partOf(project, place);
  const pattern = patternOf(project, place.pattern);
  if (part.chain.length === 0) return project;
  const known = new Set(part.notes.map((note) => note.id));
  const result = applyChain(
    sortNotes(part.notes),
    part.chain,
    contextOf(project, track, part, pattern),
  );
  const { project: roomy, length } = holding(project, place, result.length ?? part.length);
  const notes = writtenPieces(result.notes, known, idOf);
  return changePart(roomy, place, () =>
    withBend({ ...part, notes, length, chain: [] }, result.bend),
  );
}
