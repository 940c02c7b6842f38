import {
  type Lane,
  type Note,
  type PartAddress,
  type Project,
  changePart,
  partOf,
  patternBar,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
} from "../score";
import { lengthened } from "./lane-loop";
import { setBars } from "./project";
import { mustGet, nth } from "../base";

function movedTo<T extends { id: string }>(
  items: readonly T[],
  id: string,
  to: number,
): readonly T[] {
  const from = items.findIndex((item) => item.id === id);
  const at = Math.max(0, Math.min(items.length - 1, to));
  if (from < 0 || from === at) return items;
  const rest = items.filter((item) => item.id !== id);
  rest.splice(at, 0, nth(items, from));
  return rest;
}

/** Moves a track to another place; parts follow their tracks. `to` counts from 0. */
export function moveTrack(project: Project, id: string, to: number): Project {
  const tracks = movedTo(project.tracks, id, to);
  if (tracks === project.tracks) return project;
  const order = new Map(tracks.map((track, i) => [track.id, i]));
  const patterns = project.patterns.map((pattern) => ({
    ...pattern,
    parts: [...pattern.parts].sort((a, b) => mustGet(order, a.track) - mustGet(order, b.track)),
  }));
  return { ...project, tracks, patterns };
}

function changeLanes(
  project: Project,
  track: string,
  change: (lanes: readonly Lane[]) => readonly Lane[],
): Project {
  return {
    ...project,
    tracks: project.tracks.map((t) => {
      const lanes = t.id === track ? change(t.lanes) : t.lanes;
      return lanes === t.lanes ? t : { ...t, lanes };
    }),
  };
}

/** Moves a lane to another place in its kit. */
export function moveLane(project: Project, track: string, lane: string, to: number): Project {
  return changeLanes(project, track, (lanes) => movedTo(lanes, lane, to));
}

/** Adds a lane below the others; a pad that has one already gets no second. */
export function addLane(project: Project, track: string, lane: Lane): Project {
  return changeLanes(project, track, (lanes) =>
    lanes.some((l) => l.id === lane.id || l.pitch === lane.pitch) ? lanes : [...lanes, lane],
  );
}

/** Takes a lane away with its hits in all patterns and the chain steps that were for it alone. */
export function deleteLane(project: Project, track: string, id: string): Project {
  const lane = project.tracks.find((t) => t.id === track)?.lanes.find((lane) => lane.id === id);
  if (!lane) return project;
  const without = changeLanes(project, track, (lanes) => lanes.filter((lane) => lane.id !== id));
  return without.patterns.reduce(
    (project, pattern) =>
      changePart(project, { pattern: pattern.id, track }, (part) => {
        const notes = part.notes.filter((note) => note.pitch !== lane.pitch);
        const chain = part.chain.filter((step) => step.lane !== lane.pitch);
        const untouched = notes.length === part.notes.length && chain.length === part.chain.length;
        return untouched ? part : { ...part, notes, chain };
      }),
    without,
  );
}

/**
 * Doubles a part's loop: what it plays once is written out twice; lanes with a loop of their own go on in it as they
 * did. The pattern grows when the part would not fit; where it cannot, nothing changes. Ids of the copies come from
 * `idOf`.
 */
export function doubleLoop(
  project: Project,
  place: PartAddress,
  idOf: (note: Note) => string,
): Project {
  const pattern = patternOf(project, place.pattern);
  const bar = patternBar(project, pattern);
  const { length } = partOf(project, place);
  const needed = Math.ceil((2 * length) / bar);
  const grown = needed > pattern.bars ? setBars(project, place.pattern, needed) : project;
  if (2 * length > patternTicks(grown, patternOf(grown, place.pattern))) return project;
  const track = trackOf(project, place.track);
  return changePart(grown, place, (part) => lengthened(track, part, 2 * length, idOf));
}

/**
 * Copies a bar (from 0) of a part onto the next in place of what is there; an early first hit goes along. The loop
 * grows to hold the copy, and the pattern with it: what it repeated is written out.
 */
export function copyBarOn(
  project: Project,
  place: PartAddress,
  bar: number,
  idOf: (note: Note) => string,
): Project {
  const pattern = patternOf(project, place.pattern);
  const ticks = patternBar(project, pattern);
  const needed = bar + 2;
  const grown = needed > pattern.bars ? setBars(project, place.pattern, needed) : project;
  const track = trackOf(project, place.track);
  return changePart(grown, place, (before) => {
    // Beyond the pattern's end nothing was seen or heard.
    const seen = lengthened(track, before, Math.min(needed, pattern.bars) * ticks, idOf);
    const part = { ...seen, length: Math.max(seen.length, needed * ticks) };
    // An early hit belongs to the bar it leads into; half a sixteenth is the most that is taken so.
    const barOf = (note: Note) => Math.floor((note.start + EARLY) / ticks);
    const copies = part.notes
      .filter((note) => barOf(note) === bar)
      .map((note) => ({ ...note, id: idOf(note), start: note.start + ticks }));
    const kept = part.notes.filter((note) => barOf(note) !== bar + 1);
    return { ...part, notes: sortNotes([...kept, ...copies]) };
  });
}

/** Half a sixteenth in ticks. */
const EARLY = 120;
