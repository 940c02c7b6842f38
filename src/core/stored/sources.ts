import { unducked } from "../sound";
import type { ChainStep, Project, SongEntry, Track } from "../score";
import { trackParams, tracksNamedBy } from "../transforms";
import { must } from "../base";

/** Tracks that are ducked by tracks that are there. The same list when nothing is to do. */
function withoutDeadDucking(all: readonly Track[]): readonly Track[] {
  const dead = ({ mix }: Track) =>
    mix?.duckBy !== undefined &&
    !all.some((track) => track.id === mix.duckBy && track.kind === "drums");
  if (!all.some(dead)) return all;
  return all.map((track) => {
    if (!dead(track)) return track;
    const { mix, ...rest } = track;
    const left = unducked(must(mix));
    return left ? { ...rest, mix: left } : rest;
  });
}

/** Sections that leave out tracks that are there. The same list when nothing is to do. */
function withoutDeadMutes(
  song: readonly SongEntry[],
  tracks: ReadonlySet<string>,
): readonly SongEntry[] {
  const dead = ({ mutes = [] }: SongEntry) => mutes.some((id) => !tracks.has(id));
  if (!song.some(dead)) return song;
  return song.map((entry) => {
    if (!dead(entry)) return entry;
    const { mutes = [], ...rest } = entry;
    const left = mutes.filter((id) => tracks.has(id));
    return left.length > 0 ? { ...rest, mutes: left } : rest;
  });
}

/**
 * A project whose tracks are ducked, and whose chains take their timing, by tracks that are there: what named
 * one that was deleted names none. The same project when nothing is to do; it sounds as before either way.
 */
export function withoutDeadSources(kept: Project): Project {
  const alive = withoutDeadDucking(kept.tracks);
  const tracks = new Set(kept.tracks.map((track) => track.id));
  const song = withoutDeadMutes(kept.song, tracks);
  const project =
    alive === kept.tracks && song === kept.song ? kept : { ...kept, tracks: alive, song };
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
