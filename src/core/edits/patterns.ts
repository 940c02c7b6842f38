import {
  type Colour,
  LIMITS,
  type PartAddress,
  type Project,
  changePattern,
  makePart,
  partOf,
  patternOf,
  patternTicks,
} from "../score";

/** Renames a pattern; an empty name changes nothing. */
export function renamePattern(project: Project, id: string, name: string): Project {
  const trimmed = name.trim().slice(0, LIMITS.name);
  return changePattern(project, id, (pattern) =>
    trimmed === "" || trimmed === pattern.name ? pattern : { ...pattern, name: trimmed },
  );
}

/** Gives a pattern a colour, or none. */
export function setColour(project: Project, id: string, colour: Colour | null): Project {
  return changePattern(project, id, (pattern) => {
    const { colour: before = null, ...rest } = pattern;
    if (before === colour) return pattern;
    return colour ? { ...rest, colour } : rest;
  });
}

/** Moves a pattern in the list to before the one that has an index now. */
export function movePattern(project: Project, id: string, to: number): Project {
  const pattern = patternOf(project, id);
  const { patterns } = project;
  const index = Math.max(0, to);
  const order = [
    ...patterns.slice(0, index).filter((p) => p !== pattern),
    pattern,
    ...patterns.slice(index).filter((p) => p !== pattern),
  ];
  return order.every((pattern, i) => pattern === patterns[i])
    ? project
    : { ...project, patterns: order };
}

/** Deletes all notes and chains of a pattern, and its chord line; grids and lengths stay. */
export function clearPattern(project: Project, id: string): Project {
  return changePattern(project, id, ({ chords: _, ...pattern }) => ({
    ...pattern,
    parts: pattern.parts.map(({ generated: _, bend: __, ...part }) => ({
      ...part,
      notes: [],
      chain: [],
    })),
  }));
}

/**
 * Moves what a track plays from one pattern to another, or copies it, in the place of what it plays there.
 * A loop longer than the pattern is cut to it.
 */
export function movePart(
  project: Project,
  from: PartAddress,
  to: string,
  { copy = false } = {},
): Project {
  if (from.pattern === to) return project;
  const part = partOf(project, from);
  const longest = patternTicks(project, patternOf(project, to));
  const put = changePattern(project, to, (pattern) => ({
    ...pattern,
    parts: pattern.parts.map((p) =>
      p.track === from.track ? { ...part, length: Math.min(part.length, longest) } : p,
    ),
  }));
  if (copy) return put;
  return changePattern(put, from.pattern, (pattern) => ({
    ...pattern,
    parts: pattern.parts.map((p) =>
      p === part ? makePart(part.track, patternTicks(project, pattern), part.grid) : p,
    ),
  }));
}
