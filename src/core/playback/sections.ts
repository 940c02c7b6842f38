import type { Pattern, Project } from "../score/model";
import { barTicks } from "../time/ticks";
import type { Ticks } from "../units";

/** One play of one pattern on the line of time, in ticks from the start of playback. */
export interface Section {
  pattern: Pattern;
  at: number;
  length: Ticks;
}

/** Length of a pattern in ticks. */
export function patternTicks(project: Project, pattern: Pattern): number {
  return pattern.bars * barTicks(project.metre);
}

/** Where in a pattern a tick since it began to play lies: it starts over at its end. */
export function tickInPattern(project: Project, pattern: Pattern, tick: Ticks): Ticks {
  const total = patternTicks(project, pattern);
  return ((tick % total) + total) % total;
}

/**
 * Where in a loop of so many ticks (a part's, a lane's) that same tick lies: the loop begins anew with
 * each round of its pattern, whether it fits into it or not.
 */
export function tickInLoop(project: Project, pattern: Pattern, tick: Ticks, period: Ticks): Ticks {
  return tickInPattern(project, pattern, tick) % period;
}

const known = new WeakMap<Project, Map<string | undefined, readonly Section[]>>();

/**
 * What is played in order: one pattern if asked for, else the song, else (no song) every pattern
 * once. Throws a RangeError for a pattern the project does not have. Remembered with the project, since
 * a song may have half a million sections and is asked for many times a second.
 */
export function sectionsOf(project: Project, patternId?: string): readonly Section[] {
  let lists = known.get(project);
  if (!lists) known.set(project, (lists = new Map()));
  let sections = lists.get(patternId);
  if (!sections) lists.set(patternId, (sections = listSections(project, patternId)));
  return sections;
}

function listSections(project: Project, patternId?: string): Section[] {
  const order =
    patternId !== undefined
      ? [patternId]
      : project.song.length > 0
        ? project.song.flatMap((entry) => Array<string>(entry.times).fill(entry.pattern))
        : project.patterns.map((pattern) => pattern.id);
  const byId = new Map(project.patterns.map((pattern) => [pattern.id, pattern]));
  let at = 0;
  return order.map((id) => {
    const pattern = byId.get(id);
    if (!pattern) throw new RangeError(`“${id}” is no pattern of this project`);
    const section = { pattern, at, length: patternTicks(project, pattern) };
    at += section.length;
    return section;
  });
}

/** Total length of sections in ticks. */
export function totalTicks(sections: readonly Section[]): number {
  const last = sections[sections.length - 1];
  return last ? last.at + last.length : 0;
}
