import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { type Bpm, plural, nth, lastOf } from "@/core/base";
import { beatTicks } from "@/core/time";
import {
  type BendPoint,
  type Note,
  type Project,
  type Track,
  fromMiddle,
  makeNote,
  partOf,
  patternOf,
  sortNotes,
  trackOf,
} from "@/core/score";
import { effectivePart } from "@/core/transforms";
import {
  type FreeTempo,
  type Placed,
  type PlayedNote,
  freeTempo,
  inLine,
  lastEnd,
  placeInLoop,
  loopsPlayed,
  tickInPart,
} from "@/core/perform";
import { withGrowthMessage } from "../notes/past-loop";
import { togglePlay } from "../transport/play";
import type { Desk } from "../../session/desk";
import type { Session } from "../../state/store";
import { currentMetre } from "../../state/current";
import { settings } from "../../person/settings";

/** A pitch wheel moved so little before the first note, or after the last, belongs to them. */
const BEFORE_MS = 400;

/** What is put where: the notes of one track. */
interface Put {
  track: string;
  notes: Note[];
}

const noteOf = (placed: Placed, id = nanoid(8)): Note => makeNote({ ...placed, id });

/** The notes by the track they were played on, of the tracks that are there. */
function byTrack({ project }: Session, notes: readonly PlayedNote[]): Map<string, PlayedNote[]> {
  const groups = new Map<string, PlayedNote[]>();
  for (const note of notes) {
    if (!project.tracks.some((track) => track.id === note.track)) continue;
    const own = groups.get(note.track);
    if (own) own.push(note);
    else groups.set(note.track, [note]);
  }
  return groups;
}

/** Pitches as a track can play them: on a kit, those it has no lane for take its lanes in order. */
function onTrack(track: Track, notes: readonly Placed[]): Placed[] {
  if (track.kind === "melody" || track.lanes.length === 0) return [...notes];
  const lanes = track.lanes.map((lane) => lane.pitch);
  const strange = [...new Set(notes.map((placed) => placed.pitch))]
    .filter((pitch) => !lanes.includes(pitch))
    .sort((a, b) => a - b);
  return notes.map((note) => {
    const at = strange.indexOf(note.pitch);
    return at < 0 ? note : { ...note, pitch: nth(lanes, at % lanes.length) };
  });
}

/** The beat at or before the caret: what was played without the loop begins there. */
function caretBeat(state: Session): number {
  const { caret } = state;
  const beat = beatTicks(currentMetre(state));
  return Math.max(0, Math.floor(caret.tick / beat) * beat);
}

/** Notes of a track as they follow a first one, which may be another track's and lies at `start`. */
const lineFrom = (
  first: PlayedNote,
  own: readonly PlayedNote[],
  bpm: Bpm,
  start: number,
): Placed[] =>
  inLine([first, ...own], bpm)
    .slice(1)
    .map((note) => ({ ...note, start: note.start + start }));

/** Notes where they were played in the current pattern's loop; those of no loop from the caret's beat on. */
function whereFitting(state: Session, project: Project, notes: readonly PlayedNote[]): Put[] {
  const pattern = patternOf(project, state.pattern);
  const { over } = settings();
  const free = notes.filter((note) => note.loop?.pattern !== pattern.id);
  const first = free[0];
  return [...byTrack(state, notes)].map(([id, own]) => {
    const track = trackOf(project, id);
    const part = partOf(project, { pattern: pattern.id, track: id });
    const known = new Set(part.notes.map((note) => note.id));
    const placed = own.flatMap((note) => {
      // What was recorded is there already.
      if (known.has(note.id)) return [];
      const at = placeInLoop({ project, pattern, track, part }, note, over);
      return at ? [noteOf(at, note.id)] : [];
    });
    const rest = own.filter((note) => note.loop?.pattern !== pattern.id);
    if (rest.length > 0 && first) {
      // All tracks from one first note on.
      const line = lineFrom(first, rest, project.tempo, caretBeat(state));
      placed.push(...onTrack(track, line).map((placed) => noteOf(placed)));
    }
    return { track: id, notes: placed };
  });
}

function put(
  desk: Desk,
  label: string,
  puts: readonly Put[],
  before: (project: Project) => Project = (project) => project,
): void {
  const { store } = desk;
  const state = store.getState();
  const count = puts.reduce((sum, { notes }) => sum + notes.length, 0);
  if (count === 0) {
    state.announce("These notes are in the part already");
    return;
  }
  let growth = "";
  const ids = puts.flatMap(({ track, notes }) =>
    track === state.track ? notes.map((note) => note.id) : [],
  );
  state.edit(
    label,
    (project) =>
      puts.reduce((project, { track, notes }) => {
        const place = { pattern: state.pattern, track };
        const roomy = edits.growLoops(edits.addNotes(project, place, notes), place, () =>
          nanoid(8),
        );
        growth ||= roomy.message;
        return roomy.project;
      }, before(project)),
    () => ({
      ...(ids.length > 0 && { selection: ids }),
      message: withGrowthMessage(`${plural(count, "note")} put in`, growth),
    }),
  );
}

/** Bends of a track while notes were played to the pattern, loop by loop, in ticks of its loop. */
function bendsOf(desk: Desk, track: string, notes: readonly PlayedNote[]): BendPoint[][] {
  const { project, pattern: id } = desk.store.getState();
  const own = notes.filter((note) => note.track === track && note.loop?.pattern === id);
  const pattern = patternOf(project, id);
  const part = pattern.parts.find((part) => part.track === track);
  if (own.length === 0 || !part) return [];
  const from = nth(own, 0).at - BEFORE_MS;
  const to = lastEnd(own) + BEFORE_MS;
  const rounds: BendPoint[][] = [];
  let last = Infinity;
  for (const { track: on, at, loop, value } of desk.player.log.bends) {
    if (on !== track || at < from || at > to || loop?.pattern !== id || loop.tick < 0) continue;
    const tick = tickInPart({ project, pattern, part }, loop.tick);
    if (tick < last) rounds.push([]);
    lastOf(rounds).push({ tick, value });
    last = tick;
  }
  return rounds.map(fromMiddle);
}

/** Puts played notes, and how they were bent, into the parts where they were played. */
export function putWherePlayed(desk: Desk, notes: readonly PlayedNote[]): void {
  const state = desk.store.getState();
  state.setHearing({ preview: null });
  const puts = whereFitting(state, state.project, notes);
  put(desk, "Keep what was played", puts, (project) =>
    puts.reduce(
      (all, { track }) =>
        bendsOf(desk, track, notes).reduce(
          (project, positions) =>
            edits.recordBend(project, { pattern: state.pattern, track }, positions),
          all,
        ),
      project,
    ),
  );
}

/** Puts played notes at the caret, on one track or the one each was played on. */
export function putAtCaret(desk: Desk, notes: readonly PlayedNote[], track?: string): void {
  const state = desk.store.getState();
  const first = notes[0];
  if (!first) return;
  state.setHearing({ preview: null });
  const start = caretBeat(state);
  const groups = track ? new Map([[track, [...notes]]]) : byTrack(state, notes);
  const puts = [...groups].map(([id, own]) => ({
    track: id,
    notes: onTrack(
      trackOf(state.project, id),
      lineFrom(first, own, state.project.tempo, start),
    ).map((placed) => noteOf(placed)),
  }));
  put(desk, "Put what was played at the cursor", puts);
}

/** The tempo that notes without a loop seem to be at; null where they do not say. */
export const playedTempo = (notes: readonly PlayedNote[]): FreeTempo | null =>
  freeTempo(notes.map((note) => note.at));

/** Puts notes played without the loop at the caret and takes their tempo for the project's. */
export function putWithTempo(desk: Desk, notes: readonly PlayedNote[], tempo: FreeTempo): void {
  const state = desk.store.getState();
  const first = notes[0];
  if (!first) return;
  const start = caretBeat(state);
  const puts = [...byTrack(state, notes)].map(([track, own]) => ({
    track,
    notes: lineFrom(first, own, tempo.bpm, start).map((placed) => noteOf(placed)),
  }));
  put(desk, `Keep what was played, at ${tempo.bpm.toFixed(1)}`, puts, (project) =>
    edits.setTempo(project, tempo.bpm),
  );
}

/** Takes what was played in the last loop, or since the last pause where the loop did not play. */
export function keepLastLoop(desk: Desk): void {
  const state = desk.store.getState();
  const round = loopsPlayed(state.project, desk.player.log.notes).at(-1);
  if (!round) {
    state.announce("Nothing was played in the last thirty minutes");
    return;
  }
  putWherePlayed(desk, round.notes);
}

/** Hears played notes again over the loop, without writing them; until the preview ends. */
export function hearPlayed(desk: Desk, notes: readonly PlayedNote[]): void {
  const { store } = desk;
  const state = store.getState();
  const { project, pattern } = state;
  const [first, ...also] = whereFitting(state, project, notes).map(({ track, notes: own }) => {
    const place = { pattern, track };
    const effective = effectivePart(
      project,
      trackOf(project, track),
      partOf(project, place),
      patternOf(project, pattern),
    );
    return { place, notes: sortNotes([...effective.notes, ...own]) };
  });
  if (!first) return;
  state.setHearing({ preview: { ...first, also, label: "what was played" } });
  state.announce(`${plural(notes.length, "note")} heard over the loop; esc ends it`);
  if (!state.playing) void togglePlay(desk);
}

/** Throws played notes away. */
export function dropPlayed(desk: Desk, notes: readonly PlayedNote[]): void {
  desk.player.drop(new Set(notes.map((note) => note.id)));
  const { setHearing, announce } = desk.store.getState();
  setHearing({ preview: null });
  announce(`${plural(notes.length, "played note")} thrown away`);
}
