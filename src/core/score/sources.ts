import { trackParams, tracksNamedBy } from "../transforms/registry";
import type { ChainStep, Project } from "./model";

/**
 * A project whose chains take their timing from tracks that are there: a step that named one that was
 * deleted names none. The same project when nothing is to do; it sounds as before either way.
 */
export function withoutDeadSources(project: Project): Project {
  const tracks = new Set(project.tracks.map((track) => track.id));
  const dead = (step: ChainStep) => tracksNamedBy(step).some((id) => !tracks.has(id));
  const mended = (step: ChainStep): ChainStep => {
    const gone = trackParams(step.transform).filter(
      (name) => !tracks.has(String(step.params[name])),
    );
    return { ...step, params: { ...step.params, ...Object.fromEntries(gone.map((n) => [n, ""])) } };
  };
  let found = false;
  const patterns = project.patterns.map((pattern) => {
    if (!pattern.parts.some((part) => part.chain.some(dead))) return pattern;
    found = true;
    const parts = pattern.parts.map((part) =>
      part.chain.some(dead)
        ? {
            ...part,
            chain: part.chain.map((step) => (dead(step) ? mended(step) : step)),
          }
        : part,
    );
    return { ...pattern, parts };
  });
  return found ? { ...project, patterns } : project;
}
