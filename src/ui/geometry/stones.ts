import { clamp } from "@/core/base";
import type { Note } from "@/core/score";
import type { Row } from "./layout";
import { stoneRadius, type View } from "./view";

const gapLists = new WeakMap<readonly Note[], Map<string, number>>();

/** For each note the distance in ticks to its nearest neighbour of the same pitch. */
function gapsOf(notes: readonly Note[]): Map<string, number> {
  let gaps = gapLists.get(notes);
  if (!gaps) {
    gaps = new Map();
    const last: (Note | undefined)[] = [];
    for (const note of notes) {
      const before = last[note.pitch];
      if (before) {
        const gap = note.start - before.start;
        gaps.set(before.id, Math.min(gaps.get(before.id) ?? Infinity, gap));
        gaps.set(note.id, gap);
      }
      last[note.pitch] = note;
    }
    gapLists.set(notes, gaps);
  }
  return gaps;
}

/** How a note is drawn: radius in CSS pixels. */
export interface Stone {
  radius: number;
  /** Whether it stands so close to the next that marks around it would only be in the way. */
  crowded: boolean;
}

const LEAST = 0.42;

/**
 * How large a note is drawn. Loudness gives the size; in a run quicker than stones are wide, all of
 * the run are drawn smaller by one measure, so that a roll reads as a run and its fade still shows.
 */
export function stoneOf(
  notes: readonly Note[],
  note: Note,
  row: Row,
  view: Pick<View, "zoom">,
): Stone {
  const radius = stoneRadius(note.velocity, row.height);
  if (row.lane === null && row.name === "") return { radius, crowded: false };
  const gap = (gapsOf(notes).get(note.id) ?? Infinity) * view.zoom;
  const widest = 2 * stoneRadius(127, row.height);
  const scale = clamp((gap * 1.15) / widest, LEAST, 1);
  return { radius: radius * scale, crowded: gap < widest * 0.7 };
}
