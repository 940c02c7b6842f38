import type { Clip } from "@/core/edits";
import { LIMITS, type Track, noteProblems } from "@/core/score";

/** What was copied of one track. Clips that were copied together have one beginning. */
export interface TrackClip {
  /** Id and kind of the track. */
  track: string;
  kind: Track["kind"];
  clip: Clip;
}

/** Where the browser keeps what was copied last: for other projects, other tabs, and after a reload. */
const KEY = "hailstep-clip";

const KINDS: readonly string[] = ["notes", "lane", "column", "bar"] satisfies Clip["kind"][];

/** Keeps what was copied. Where the browser has no room for it none is kept, rather than what was copied before. */
export function keepClips(clips: readonly TrackClip[]): void {
  if (typeof localStorage === "undefined") return;
  try {
    localStorage.setItem(KEY, JSON.stringify(clips));
  } catch {
    localStorage.removeItem(KEY);
  }
}

/** What was kept last, by whatever tab; null where nothing is, or what is there is none. */
export function keptClips(): readonly TrackClip[] | null {
  if (typeof localStorage === "undefined") return null;
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEY) ?? "null");
    if (!Array.isArray(value) || value.length === 0 || value.length > LIMITS.tracks) return null;
    return value.every(isTrackClip) ? value : null;
  } catch {
    return null;
  }
}

const fieldsOf = (value: unknown): Record<string, unknown> | null =>
  typeof value === "object" && value !== null ? { ...value } : null;

function isTrackClip(value: unknown): value is TrackClip {
  const own = fieldsOf(value);
  return (
    typeof own?.["track"] === "string" &&
    (own["kind"] === "drums" || own["kind"] === "melody") &&
    isClip(own["clip"])
  );
}

function isClip(value: unknown): value is Clip {
  const own = fieldsOf(value);
  if (!own) return false;
  const { kind, span, notes } = own;
  return (
    typeof kind === "string" &&
    KINDS.includes(kind) &&
    Number.isInteger(span) &&
    (span as number) > 0 &&
    (span as number) <= LIMITS.ticks &&
    noteProblems(notes, "notes").length === 0
  );
}
