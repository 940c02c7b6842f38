import { contextOf, applyChain } from "../../transforms/chain";
import { barTicks } from "../../time/ticks";
import { sortNotes, type ChainStep, type Project } from "../model";
import { changePart, patternOf, trackOf, type Place } from "./parts";

/** Puts a transform at the end of a part's chain. */
export function addStep(project: Project, place: Place, step: ChainStep): Project {
  return changePart(project, place, (part) => ({ ...part, chain: [...part.chain, step] }));
}

/** Changes a step of a part's chain: its switch, its parameters, its scope. */
export function changeStep(
  project: Project,
  place: Place,
  id: string,
  change: Partial<Omit<ChainStep, "id" | "transform">>,
): Project {
  return changePart(project, place, (part) => ({
    ...part,
    chain: part.chain.map((step) => (step.id === id ? { ...step, ...change } : step)),
  }));
}

/** Takes a step out of a part's chain. */
export function deleteStep(project: Project, place: Place, id: string): Project {
  return changePart(project, place, (part) => ({
    ...part,
    chain: part.chain.filter((step) => step.id !== id),
  }));
}

/** Moves a step to another place in the chain; `to` counts from 0. */
export function moveStep(project: Project, place: Place, id: string, to: number): Project {
  return changePart(project, place, (part) => {
    const step = part.chain.find((s) => s.id === id);
    if (!step) return part;
    const chain = part.chain.filter((s) => s.id !== id);
    chain.splice(Math.max(0, Math.min(chain.length, to)), 0, step);
    return { ...part, chain };
  });
}

/**
 * Replaces the notes by what the chain makes of them and empties the chain, as one edit. Notes that
 * are still themselves keep their ids; pieces become notes of their own, named by `idOf`.
 */
export function writeChain(project: Project, place: Place, idOf: () => string): Project {
  const track = trackOf(project, place.track);
  const longest = patternOf(project, place.pattern).bars * barTicks(project.metre);
  return changePart(project, place, (part) => {
    if (part.chain.length === 0) return part;
    const known = new Set(part.notes.map((note) => note.id));
    const result = applyChain(sortNotes(part.notes), part.chain, contextOf(project, track, part));
    return {
      ...part,
      notes: sortNotes(result.notes.map((n) => (known.has(n.id) ? n : { ...n, id: idOf() }))),
      length: Math.min(result.length ?? part.length, longest),
      chain: [],
    };
  });
}
