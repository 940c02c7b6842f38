import type { Note, Part, Pattern, Project, Track } from "../score";
import { nth } from "../base";

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

/** What changed in a part whose notes are many: those that went, those that came or are others now. */
export interface PartEdit {
  pattern: string;
  track: string;
  removed: string[];
  put: Note[];
  /** The part's other fields, where any of them changed. */
  rest?: Omit<Part, "notes" | "track">;
}

/** A change as it is sent: large parts as what differs from the save it was made on. */
export interface SentChange extends Change {
  partEdits?: PartEdit[];
}

/** A pattern without its parts. */
export function patternHead({ parts: _, ...head }: Pattern): PatternHead {
  return head;
}

/** The fields of a project that are saved together, apart from its tracks and patterns. */
export function headOf(project: Project): ProjectHead {
  const { name, tempo, metre, key, song, seed, room } = project;
  return { name, tempo, metre, key, song, ...(seed && { seed }), ...(room && { room }) };
}

const headKeys = ["name", "tempo", "metre", "key", "song", "seed", "room"] as const;
const patternKeys = ["name", "bars", "colour", "metre", "chords", "recording", "stars"] as const;
const sameIds = (a: readonly { id: string }[], b: readonly { id: string }[]) =>
  a.length === b.length && a.every((item, i) => item.id === nth(b, i).id);

/** The change that leads from one state to another, by object identity; null when there is none. */
export function diffProjects(from: Project, to: Project): Change | null {
  if (from === to) return null;
  const change: Change = {};
  if (headKeys.some((key) => from[key] !== to[key])) change.head = headOf(to);

  if (from.tracks !== to.tracks) {
    const known = new Map(from.tracks.map((track) => [track.id, track]));
    const touched = to.tracks.filter((track) => known.get(track.id) !== track);
    if (touched.length > 0) change.tracks = touched;
    if (!sameIds(from.tracks, to.tracks)) change.trackOrder = to.tracks.map((track) => track.id);
  }
  if (from.patterns !== to.patterns) diffPatterns(from, to, change);
  return Object.keys(change).length > 0 ? change : null;
}

function diffPatterns(from: Project, to: Project, change: Change): void {
  const known = new Map(from.patterns.map((pattern) => [pattern.id, pattern]));
  if (!sameIds(from.patterns, to.patterns))
    change.patternOrder = to.patterns.map((pattern) => pattern.id);
  for (const pattern of to.patterns) {
    const before = known.get(pattern.id);
    if (before === pattern) continue;
    const { id } = pattern;
    if (!before || patternKeys.some((key) => before[key] !== pattern[key]))
      (change.patterns ??= []).push(patternHead(pattern));
    const parts = new Map(before?.parts.map((part) => [part.track, part]));
    for (const part of pattern.parts) {
      if (parts.get(part.track) !== part) (change.parts ??= []).push({ pattern: id, part });
    }
  }
}

/** Lays a change over a project: the other way round of `diffProjects`. */
export function applyChange(project: Project, change: Change): Project {
  const tracks = ordered(project.tracks, change.tracks ?? [], change.trackOrder);
  const heads = new Map((change.patterns ?? []).map((head) => [head.id, head]));
  const fresh = [...heads.values()].map((head): Pattern => {
    const known = project.patterns.find((pattern) => pattern.id === head.id);
    return { ...head, parts: known?.parts ?? [] };
  });
  const partsOf = new Map<string, Part[]>();
  for (const { pattern, part } of change.parts ?? []) {
    partsOf.set(pattern, [...(partsOf.get(pattern) ?? []), part]);
  }
  const names = new Set(tracks.map((track) => track.id));
  const patterns = ordered(project.patterns, fresh, change.patternOrder).map((pattern) => {
    const put = new Map((partsOf.get(pattern.id) ?? []).map((part) => [part.track, part]));
    const orphaned = pattern.parts.some((part) => !names.has(part.track));
    // Parts follow their tracks, so a new order of these is not sent part by part.
    if (put.size === 0 && !orphaned && !change.trackOrder) return pattern;
    const all = new Map([...pattern.parts.map((part) => [part.track, part] as const), ...put]);
    const parts = tracks.map((track) => all.get(track.id)).filter((part) => part !== undefined);
    return { ...pattern, parts };
  });
  const head = change.head ?? headOf(project);
  return { ...head, tracks, patterns };
}

function ordered<T extends { id: string }>(
  before: readonly T[],
  put: readonly T[],
  order: readonly string[] | undefined,
): readonly T[] {
  if (put.length === 0 && !order) return before;
  const items = new Map([...before, ...put].map((item) => [item.id, item]));
  const ids = order ?? [...items.keys()];
  return ids.map((id) => items.get(id)).filter((item) => item !== undefined);
}
