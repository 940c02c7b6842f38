import { type Grid, driftOf, lineAt, nearestLine } from "../time";
import {
  type Note,
  type PartAddress,
  type Project,
  changePart,
  sortNotes,
  trackOf,
} from "../score";
import { changeLane } from "./project";

/** So near in ticks to a line a hit was drawn on it: lines lie on whole ticks. */
const ON_LINE = 1;

/** Whether of two grids only the swing differs, so that each line of the one is a line of the other. */
export const isSwungAnew = (before: Grid, after: Grid): boolean =>
  before.value === after.value &&
  before.kind === after.kind &&
  before.kind !== "off" &&
  before.swing !== after.swing;

/** Notes that were drawn on the lines of a grid, on the same lines of another. */
const along = (notes: readonly Note[], before: Grid, after: Grid): readonly Note[] =>
  sortNotes(
    notes.map((note) => {
      const drift = driftOf(before, note.start);
      if (Math.abs(drift) > ON_LINE) return note;
      const start = Math.round(lineAt(after, nearestLine(before, note.start)));
      return start === note.start ? note : { ...note, start };
    }),
  );

/**
 * Gives a lane another swing with the hits that were drawn on its lines, in all patterns; or a part, with its own
 * notes. Hits beside the lines stay where they are.
 */
export function swingWithHits(
  project: Project,
  { pattern, track }: PartAddress,
  lane: string | null,
  grid: Grid,
): Project {
  if (lane === null)
    return changePart(project, { pattern, track }, (part) => ({
      ...part,
      grid,
      notes: along(part.notes, part.grid, grid),
    }));
  const own = trackOf(project, track).lanes.find(({ id }) => id === lane);
  if (!own) return project;
  const swung = changeLane(project, track, lane, { grid });
  return swung.patterns.reduce(
    (done, { id }) =>
      changePart(done, { pattern: id, track }, (part) => {
        const hits = part.notes.filter(({ pitch }) => pitch === own.pitch);
        if (hits.length === 0) return part;
        const others = part.notes.filter(({ pitch }) => pitch !== own.pitch);
        return { ...part, notes: sortNotes([...others, ...along(hits, own.grid, grid)]) };
      }),
    swung,
  );
}
