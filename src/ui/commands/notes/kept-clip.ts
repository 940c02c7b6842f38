import type { Clip } from "@/core/edits";
import { LIMITS, noteProblems } from "@/core/score";

/** Where the browser keeps what was copied last: for other projects, other tabs, and after a reload. */
const KEY = "hailstep-clip";

const KINDS: readonly string[] = ["notes", "lane", "column", "bar"] satisfies Clip["kind"][];

/** Keeps a clip. Where the browser has no room for it none is kept, rather than one copied before. */
export function keepClip(clip: Clip): void {
  if (typeof localStorage === "undefined") return;
  try {
    localStorage.setItem(KEY, JSON.stringify(clip));
  } catch {
    localStorage.removeItem(KEY);
  }
}

/** The clip that was kept last, by whatever tab; null where none is, or what is there is none. */
export function keptClip(): Clip | null {
  if (typeof localStorage === "undefined") return null;
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEY) ?? "null");
    return isClip(value) ? value : null;
  } catch {
    return null;
  }
}

function isClip(value: unknown): value is Clip {
  if (typeof value !== "object" || value === null) return false;
  const { kind, span, notes } = value as Record<string, unknown>;
  return (
    typeof kind === "string" &&
    KINDS.includes(kind) &&
    Number.isInteger(span) &&
    (span as number) > 0 &&
    (span as number) <= LIMITS.ticks &&
    noteProblems(notes, "notes").length === 0
  );
}
