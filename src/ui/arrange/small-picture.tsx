import { useMemo } from "react";
import type { Pattern, Project } from "@/core/score";
import { thumbnail } from "@/core/analysis";

const pictures = new WeakMap<Pattern, { tracks: unknown; d: string }>();

/** The notes of a pattern as one path over a square of 100 by 100; drawn again only when it changed. */
export function picturePath(project: Project, pattern: Pattern): string {
  const known = pictures.get(pattern);
  if (known?.tracks === project.tracks) return known.d;
  const { rows, marks } = thumbnail(project, pattern);
  const step = 100 / Math.max(1, rows);
  const height = Math.min(step * 0.8, 7);
  const d = marks
    .map(({ at, width, row, kind }) => {
      const w = kind === "drums" ? 1.4 : Math.max(1.4, width * 100 - 0.6);
      return `M${(at * 100).toFixed(1)} ${(row * step + (step - height) / 2).toFixed(1)}h${w.toFixed(1)}v${height.toFixed(1)}h-${w.toFixed(1)}z`;
    })
    .join("");
  pictures.set(pattern, { tracks: project.tracks, d });
  return d;
}

/** A small picture of what a pattern holds, one after another as often as it is played. */
export function SmallPicture({
  project,
  pattern,
  rounds = 1,
  className = "",
}: {
  project: Project;
  pattern: Pattern;
  /** Rounds and pieces of one, from the first. */
  rounds?: number;
  className?: string;
}) {
  const d = useMemo(() => picturePath(project, pattern), [project, pattern]);
  const shown = Math.min(Math.ceil(rounds), 12);
  return (
    <svg
      viewBox={`0 0 ${100 * Math.min(rounds, 12)} 100`}
      preserveAspectRatio="none"
      className={className}
      aria-hidden
    >
      {Array.from({ length: shown }, (_, i) => (
        <path key={i} d={d} transform={`translate(${100 * i} 0)`} fill="currentColor" />
      ))}
    </svg>
  );
}
