import type { MidiPitch } from "../base";
import {
  type Note,
  type PartAddress,
  type Project,
  changePart,
  changeTrackOf,
  ownLoops,
  partOf,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
  writtenOut,
} from "../score";
import { effectivePart } from "../transforms";
import { lengthened } from "./lane-loop";
import { writtenPieces } from "./pieces";

/**
 * The project with the chain of a part written into its notes as they are heard: pieces have ids told from those that
 * are there, and what the chain made longer than the pattern stays past its end.
 */
export function withChainWritten(project: Project, place: PartAddress): Project {
  const part = partOf(project, place);
  if (part.chain.length === 0) return project;
  const pattern = patternOf(project, place.pattern);
  const { notes, length } = effectivePart(project, trackOf(project, place.track), part, pattern);
  const known = new Set(part.notes.map(({ id }) => id));
  let made = 0;
  const idOf = () => {
    do made++;
    while (known.has(`w${made}`));
    return `w${made}`;
  };
  const written = writtenPieces(notes, known, idOf);
  return changePart(project, place, (part) => ({ ...part, notes: written, length, chain: [] }));
}

/**
 * Takes lanes of a kit the loops of their own: what they play is written out in every pattern, which plays what it
 * did. Each part where that makes a difference is as long as its pattern then, and its cards are written: they know
 * of lanes' loops.
 */
export function withoutOwnLoops(
  project: Project,
  trackId: string,
  pads: ReadonlySet<MidiPitch>,
  idOf: (note: Note) => string,
): Project {
  const track = trackOf(project, trackId);
  const own = new Map([...ownLoops(track)].filter(([pitch]) => pads.has(pitch)));
  if (own.size === 0) return project;
  const written = project.patterns.reduce(
    (done, { id }) => withChainWritten(done, { pattern: id, track: trackId }),
    project,
  );
  const patterns = written.patterns.map((pattern) => ({
    ...pattern,
    parts: pattern.parts.map((part) => {
      if (part.track !== trackId || !part.notes.some(({ pitch }) => own.has(pitch))) return part;
      const total = patternTicks(written, pattern);
      const long = lengthened(track, part, total, idOf);
      const out = [...own].flatMap(([pad, period]) =>
        writtenOut(
          long.notes.filter(({ pitch }) => pitch === pad),
          { period, ticks: total },
          idOf,
        ),
      );
      const others = long.notes.filter(({ pitch }) => !own.has(pitch));
      return { ...long, notes: sortNotes([...others, ...out]) };
    }),
  }));
  return changeTrackOf({ ...written, patterns }, trackId, (track) => ({
    ...track,
    lanes: track.lanes.map((lane) => (own.has(lane.pitch) ? { ...lane, steps: null } : lane)),
  }));
}
