import { TRANSFORMS } from "../transforms/registry";
import type { Project } from "./model";
import type { Problem } from "./schema";

/** Ids used twice, and what refers to a track, pattern or transform that is not there. */
export function referenceProblems(project: Project): Problem[] {
  const problems: Problem[] = [];
  const add = (path: string, reason: string) => problems.push({ path, reason });

  const tracks = uniqueIds(project.tracks, "tracks", add);
  const patterns = uniqueIds(project.patterns, "patterns", add);
  project.tracks.forEach((track, i) => {
    uniqueIds(track.lanes, `tracks[${i}].lanes`, add);
    const pads = new Set<number>();
    track.kit?.pads.forEach(({ pitch }, j) => {
      if (pads.has(pitch)) add(`tracks[${i}].kit.pads[${j}].pitch`, `pad ${pitch} is shaped twice`);
      pads.add(pitch);
    });
    if (track.kit && track.kind !== "drums") add(`tracks[${i}].kit`, "belongs to drum tracks only");
  });

  project.patterns.forEach((pattern, i) => {
    const seen = new Set<string>();
    uniqueIds(pattern.chords ?? [], `patterns[${i}].chords`, add);
    pattern.parts.forEach((part, j) => {
      const path = `patterns[${i}].parts[${j}]`;
      if (!tracks.has(part.track))
        add(`${path}.track`, `“${part.track}” is no track of this project`);
      if (seen.has(part.track)) add(`${path}.track`, `“${part.track}” already has a part here`);
      seen.add(part.track);
      part.chain.forEach((step, k) => {
        const at = `${path}.chain[${k}]`;
        const transform = TRANSFORMS[step.transform];
        if (!transform) {
          add(`${at}.transform`, `“${step.transform}” is no known transform`);
          return;
        }
        for (const p of transform.problems(step.params)) add(`${at}.params.${p.path}`, p.reason);
      });
    });
    for (const track of tracks) {
      if (!seen.has(track)) add(`patterns[${i}].parts`, `has no part for track “${track}”`);
    }
  });

  const sections = new Set<string>();
  project.song.forEach((entry, i) => {
    if (entry.id !== undefined && sections.has(entry.id)) {
      add(`song[${i}].id`, `“${entry.id}” is used twice`);
    }
    sections.add(entry.id);
    if (!patterns.has(entry.pattern)) {
      add(`song[${i}].pattern`, `“${entry.pattern}” is no pattern of this project`);
    }
  });
  return problems;
}

function uniqueIds(
  items: readonly { id: string }[],
  path: string,
  add: (path: string, reason: string) => void,
): Set<string> {
  const ids = new Set<string>();
  items.forEach((item, i) => {
    if (ids.has(item.id)) add(`${path}[${i}].id`, `“${item.id}” is used twice`);
    ids.add(item.id);
  });
  return ids;
}
