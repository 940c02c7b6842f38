import { type Pattern, type Project, type Track, makePart, patternTicks } from "../score";
import { withoutDeadSources } from "./sources";
import { mustGet, nth } from "../base";

/**
 * A state of a project in the shape another one has: the same tracks and patterns in the same order.
 * Tracks it did not have play nothing; patterns it did not have are taken as they are; what the
 * other one no longer has is left out. Pure; the same project when nothing differs.
 */
export function shapedLike(project: Project, like: Project): Project {
  const fits = (own: Track | undefined, other: Track) =>
    own?.id === other.id && own.kind === other.kind;
  const alike = (a: readonly { id: string }[], b: readonly { id: string }[]) =>
    a.length === b.length && a.every((item, i) => item.id === nth(b, i).id);
  if (
    alike(project.tracks, like.tracks) &&
    alike(project.patterns, like.patterns) &&
    project.tracks.every((track, i) => fits(track, nth(like.tracks, i)))
  ) {
    return project;
  }
  const own = new Map(project.tracks.map((track) => [track.id, track]));
  const known = (track: Track) => fits(own.get(track.id), track);
  const tracks = like.tracks.map((track) => (known(track) ? mustGet(own, track.id) : track));
  const patterns = like.patterns.map((pattern): Pattern => {
    const before = project.patterns.find((p) => p.id === pattern.id);
    if (!before) return pattern;
    const length = patternTicks(project, before);
    const parts = like.tracks.map((track) => {
      const part = known(track) && before.parts.find((part) => part.track === track.id);
      return part || makePart(track.id, length);
    });
    return { ...before, parts };
  });
  const ids = new Set(patterns.map((pattern) => pattern.id));
  const song = project.song.filter((entry) => ids.has(entry.pattern));
  return withoutDeadSources({ ...project, tracks, patterns, song });
}
