import type { Ticks } from "../base";
import { type Metre, barTicks } from "../time";
import {
  LIMITS,
  type Note,
  type Part,
  type Pattern,
  type Project,
  changePattern,
  lanesInMetre,
  patternBar,
  sortChords,
  sortNotes,
} from "../score";

/** What stays when the metre changes: the time between notes, or their places in the bar. */
export type MetreChange = "times" | "places";

/**
 * Changes the metre. Nothing is lost: with `times` notes and chords stay at their ticks and patterns get
 * as many bars as hold them; with `places` each goes along with its bar. A note whose place the shorter
 * bar has not lies past the end of its loop then, where it can be seen; a chord goes to the bar's end.
 */
export function setMetre(project: Project, metre: Metre, keep: MetreChange = "places"): Project {
  const [was, is] = [barTicks(project.metre), barTicks(metre)];
  if (was === is) return withLanesIn({ ...project, metre }, project.metre);
  const change = keep === "times" ? keepTimes : keepPlaces;
  // A pattern with a metre of its own is none of the others'.
  const patterns = project.patterns.map((pattern) =>
    pattern.metre ? pattern : change(pattern, was, is),
  );
  return withLanesIn({ ...project, metre, patterns }, project.metre);
}

/** Lanes on which nothing is drawn yet, in the metre of the project, which was another one before. */
function withLanesIn(project: Project, before: Metre): Project {
  const tracks = project.tracks.map((track) => {
    const isDrawn = (pad: number) =>
      project.patterns.some(({ parts }) =>
        parts.some((part) => part.track === track.id && part.notes.some((n) => n.pitch === pad)),
      );
    const lanes = lanesInMetre(track.lanes, project.metre, before, isDrawn);
    return lanes === track.lanes ? track : { ...track, lanes };
  });
  return { ...project, tracks };
}

/** Gives a pattern a metre of its own, as `setMetre` changes that of all; null for the project's. */
export function setPatternMetre(
  project: Project,
  id: string,
  metre: Metre | null,
  keep: MetreChange = "places",
): Project {
  return changePattern(project, id, (pattern) => {
    const [was, is] = [patternBar(project, pattern), barTicks(metre ?? project.metre)];
    const change = keep === "times" ? keepTimes : keepPlaces;
    const { metre: _, ...rest } = was === is ? pattern : change(pattern, was, is);
    return metre ? { ...rest, metre } : rest;
  });
}

function keepTimes(pattern: Pattern, was: Ticks, is: Ticks): Pattern {
  const total = pattern.bars * was;
  const bars = Math.min(LIMITS.bars, Math.ceil(total / is));
  const length = (part: Part) =>
    // A loop over the whole pattern stays one; a shorter one stays as long as it is.
    part.length === total ? bars * is : Math.min(part.length, bars * is);
  return {
    ...pattern,
    bars,
    parts: pattern.parts.map((part) => ({ ...part, length: length(part) })),
  };
}

function keepPlaces(pattern: Pattern, was: Ticks, is: Ticks): Pattern {
  const parts = pattern.parts.map((part): Part => {
    // Loops of whole bars are of as many bars; a shorter one is its own, and its notes stay in it.
    if (part.length % was !== 0) {
      return { ...part, length: Math.min(part.length, pattern.bars * is) };
    }
    const length = (part.length / was) * is;
    const moved = part.notes.map((note) => moveNote(note, was, is, length));
    return { ...part, length, notes: sortNotes(moved) };
  });
  const chords = pattern.chords?.map((mark) => {
    const bar = Math.floor(mark.start / was);
    return { ...mark, start: bar * is + Math.min(mark.start - bar * was, is - 1) };
  });
  return { ...pattern, ...(chords && { chords: sortChords(chords) }), parts };
}

/** An early hit belongs to the bar it leads into; half a sixteenth is the most that is taken so. */
const EARLY = 120;

function moveNote(note: Note, was: Ticks, is: Ticks, length: Ticks): Note {
  const bar = Math.floor((note.start + EARLY) / was);
  const inBar = note.start - bar * was;
  const start = bar * is + inBar;
  // Past its bar's end it would stand in the next one, where it never was.
  return { ...note, start: inBar < is ? start : length + start };
}
