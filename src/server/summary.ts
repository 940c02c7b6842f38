import type { Project } from "@/core/score";
import { patternTooLarge } from "@/core/playback";
import { type Picture, packPicture, thumbnail } from "@/core/analysis";
import { nth } from "@/core/base";

/** What the library shows of a project besides its head, kept beside it. */
export interface Summary {
  bars: number;
  patterns: number;
  /** Null where the project could not be read. */
  picture: Picture | null;
  /** Why it cannot be shown and played; null where it can. */
  problem: string | null;
}

/** What is kept beside a project, from the whole of it. */
export function summaryOf(project: Project): Summary {
  const problem = project.patterns.reduce<string | null>(
    (found, pattern) => found ?? patternTooLarge(project, pattern),
    null,
  );
  return {
    bars: nth(project.patterns, 0).bars,
    patterns: project.patterns.length,
    picture: packPicture(thumbnail(project)),
    problem,
  };
}

/** Of a project that could not even be looked at. */
export const unreadable = (problem: string): Summary => ({
  bars: 1,
  patterns: 1,
  picture: null,
  problem,
});

/** A summary as it is kept; null where there is none, or it cannot be read itself. */
export function readSummary(kept: string | null): Summary | null {
  try {
    return kept === null ? null : (JSON.parse(kept) as Summary);
  } catch {
    return null;
  }
}
