import type { Bpm, MidiPitch } from "../base";
import { barTicks, grid } from "../time";
import {
  LIMITS,
  type Note,
  type Project,
  type Recording,
  type SampleRef,
  type Track,
  changePart,
  changePattern,
  makeLane,
  metreOf,
  partOf,
  patternOf,
  patternTicks,
  sortNotes,
  trackOf,
} from "../score";
import { changePad } from "./kit";
import { addLane } from "./order";
import { addTrack, setBars, setTempo } from "./project";

/** What was heard in a recording, to be put into a pattern. */
export interface Heard {
  /** The track that plays it: one that is there, or a new one. */
  track: string | Track;
  notes: readonly Note[];
  /** Bars that the recording takes. */
  bars: number;
  /** What sounds behind it, to compare; null for nothing. */
  recording: Recording | null;
  /** The tempo that the project takes from it; null where it keeps its own. */
  tempo: Bpm | null;
}

/** Throws a RangeError where a track is new and does not fit. */
function hasRoom({ tracks }: Project, track: string | Track): void {
  if (typeof track !== "string" && tracks.length >= LIMITS.tracks)
    throw new RangeError(`${LIMITS.tracks} tracks are there, which is the most`);
}

/**
 * Puts what was heard in a recording into a pattern, which grows where it must. On a new or an empty track it is a
 * loop as long as the recording; on one with notes it is added to them. Lanes are made for the pads it needs.
 * Throws a RangeError where it does not fit.
 */
export function putHeard(
  project: Project,
  pattern: string,
  { track, notes, bars, recording, tempo }: Heard,
  idOf: () => string,
): Project {
  hasRoom(project, track);
  let next = tempo === null ? project : setTempo(project, tempo);
  const metre = metreOf(next, patternOf(next, pattern));
  if (bars > patternOf(next, pattern).bars) next = setBars(next, pattern, bars);
  if (typeof track !== "string") next = addTrack(next, track);
  const id = typeof track === "string" ? track : track.id;
  if (trackOf(next, id).kind === "drums")
    for (const pitch of new Set(notes.map((note) => note.pitch)))
      next = addLane(next, id, makeLane(pitch, grid(16)));
  const whole = patternTicks(next, patternOf(next, pattern));
  const place = { pattern, track: id };
  const { notes: before } = partOf(next, place);
  next = changePart(next, place, (part) => ({
    ...part,
    length: before.length > 0 ? whole : Math.min(whole, bars * barTicks(metre)),
    notes: sortNotes([...before, ...notes.map((note) => ({ ...note, id: idOf() }))]),
  }));
  return recording ? setRecording(next, pattern, recording) : next;
}

/**
 * Puts a sound on one pad of a track: one that is there, or a new one. A lane is made where the pad has none. Throws a
 * RangeError where another track does not fit.
 */
export function putOnPad(
  project: Project,
  track: string | Track,
  pitch: MidiPitch,
  sample: SampleRef,
): Project {
  hasRoom(project, track);
  const next = typeof track === "string" ? project : addTrack(project, track);
  const id = typeof track === "string" ? track : track.id;
  const laned = addLane(next, id, makeLane(pitch, grid(16)));
  return changePad(laned, id, pitch, { sample, start: 0, decay: 0 });
}

/** The recording that sounds behind a pattern; null for none. */
export const setRecording = (
  project: Project,
  pattern: string,
  recording: Recording | null,
): Project =>
  changePattern(project, pattern, ({ recording: _, ...rest }) =>
    recording ? { ...rest, recording } : rest,
  );
