import type { Part, Pattern, Project, Track } from "./model";

/** The fields of a project besides its tracks and patterns. */
export type ProjectHead = Omit<Project, "tracks" | "patterns">;
/** A pattern without its parts. */
export type PatternHead = Omit<Pattern, "parts">;

/** What differs between two states of a project: the rows an edit touched, and no others. */
export interface Change {
  head?: ProjectHead;
  /** Ids of all tracks in order, given when the set or the order changed. */
  trackOrder?: string[];
  tracks?: Track[];
  patternOrder?: string[];
  patterns?: PatternHead[];
  parts?: { pattern: string; part: Part }[];
}

export function headOf(project: Project): ProjectHead {
  const { name, tempo, metre, key, song } = project;
  return { name, tempo, metre, key, song };
}

const headKeys = ["name", "tempo", "metre", "key", "song"] as const;
const sameIds = (a: readonly { id: string }[], b: readonly { id: string }[]) =>
  a.length === b.length && a.every((item, i) => item.id === b[i]!.id);

/** The change that leads from one state to another, by object identity; null when there is none. */
export function diffProjects(from: Project, to: Project): Change | null {
  if (from === to) return null;
  const change: Change = {};
  if (headKeys.some((key) => from[key] !== to[key])) change.head = headOf(to);

  if (from.tracks !== to.tracks) {
    const known = new Map(from.tracks.map((track) => [track.id, track]));
    const touched = to.tracks.filter((track) => known.get(track.id) !== track);
    if (touched.length > 0) change.tracks = touched;
    if (!sameIds(from.tracks, to.tracks)) change.trackOrder = to.tracks.map((t) => t.id);
  }
  if (from.patterns !== to.patterns) diffPatterns(from, to, change);
  return Object.keys(change).length > 0 ? change : null;
}

function diffPatterns(from: Project, to: Project, change: Change): void {
  const known = new Map(from.patterns.map((pattern) => [pattern.id, pattern]));
  if (!sameIds(from.patterns, to.patterns)) change.patternOrder = to.patterns.map((p) => p.id);
  for (const pattern of to.patterns) {
    const before = known.get(pattern.id);
    if (before === pattern) continue;
    const { id, name, bars } = pattern;
    if (!before || before.name !== name || before.bars !== bars) {
      (change.patterns ??= []).push({ id, name, bars });
    }
    const parts = new Map(before?.parts.map((part) => [part.track, part]));
    for (const part of pattern.parts) {
      if (parts.get(part.track) !== part) (change.parts ??= []).push({ pattern: id, part });
    }
  }
}
