import {
  type PartAddress,
  type Pattern,
  type Project,
  type SongEntry,
  changePart,
  metreOf,
  partOf,
  patternOf,
  patternTicks,
  trackOf,
  changeTrackOf,
  changePattern,
} from "@/core/score";
import { PPQ } from "@/core/time";
import type { Ticks } from "@/core/base";
import { effectivePart } from "@/core/transforms";
import type { Session } from "./editing";
import type { Trial } from "./hearing";
import type { Stretch } from "./selected";
import { shapedLike } from "@/core/stored";

/** The selected stretch, where there is one and the selection is still its own. */
export const currentStretch = (state: Session): Stretch | null =>
  state.stretch?.of === state.selection ? state.stretch : null;

/** Where the current part is. Without any track its `track` is empty. */
export const currentPlace = ({
  pattern,
  track,
}: Pick<Session, "pattern" | "track">): PartAddress => ({
  pattern,
  track,
});

/** The current part, as it is written. */
export const currentPart = (state: Pick<Session, "project" | "pattern" | "track">) =>
  partOf(state.project, currentPlace(state));

/** Length of the current pattern in ticks. */
export const currentTicks = ({ project, pattern }: Pick<Session, "project" | "pattern">) =>
  patternTicks(project, patternOf(project, pattern));

type Chorded = Pick<Session, "project" | "pattern" | "section">;

/** The current section, where it plays the current pattern and has chords of its own. */
export const chordedSection = ({ project, pattern, section }: Chorded): SongEntry | undefined =>
  project.song.find(
    (entry) => entry.id === section && entry.pattern === pattern && entry.chords !== undefined,
  );

/** The current pattern with the chords that hold in the current section. */
export function sheetPattern(state: Chorded): Pattern {
  const pattern = patternOf(state.project, state.pattern);
  const chords = chordedSection(state)?.chords;
  return chords ? { ...pattern, chords } : pattern;
}

let chorded: { of: Chorded; project: Project } | null = null;

/** The project with the current section's chords in the place of its pattern's; the same object as long as nothing of it changes. */
function withSectionChords(state: Chorded): Project {
  const { project, pattern, section } = state;
  if (!chordedSection(state)) return project;
  const of = chorded?.of;
  if (chorded && of?.project === project && of.pattern === pattern && of.section === section)
    return chorded.project;
  const own = sheetPattern(state);
  const patterns = project.patterns.map((p) => (p.id === pattern ? own : p));
  chorded = { of: { project, pattern, section }, project: { ...project, patterns } };
  return chorded.project;
}

/** Metre of the current pattern. */
export const currentMetre = ({ project, pattern }: Pick<Session, "project" | "pattern">) =>
  metreOf(project, patternOf(project, pattern));

type Heard = Pick<
  Session,
  | "project"
  | "preview"
  | "trial"
  | "soundPreview"
  | "bypassed"
  | "track"
  | "pattern"
  | "keptBefore"
  | "hearingBefore"
>;

/** The trial that is on, where the project is still the one it was made of. */
export const trialOf = ({ trial, project }: Pick<Session, "trial" | "project">): Trial | null =>
  trial?.of === project ? trial : null;

let last: { state: Heard; effective: Project } | null = null;

const same = (a: Heard, b: Heard) =>
  a.project === b.project &&
  a.preview === b.preview &&
  a.trial === b.trial &&
  a.soundPreview === b.soundPreview &&
  a.bypassed === b.bypassed &&
  a.hearingBefore === b.hearingBefore &&
  a.keptBefore === b.keptBefore &&
  a.track === b.track &&
  a.pattern === b.pattern;

/**
 * The project as it is heard and drawn: as Before, a preview in place of notes, or without the chain
 * while that is bypassed. Remembered for as long as none of that changes.
 */
export function effectiveProject(session: Session): Project {
  const tried = trialOf(session);
  const { preview, soundPreview, bypassed, hearingBefore, pattern: current, section } = session;
  const project = withSectionChords({
    project: tried && !bypassed ? tried.result : session.project,
    pattern: current,
    section,
  });
  if (!preview && !soundPreview && !hearingBefore && (tried || !bypassed)) return project;
  const state = project === session.project ? session : { ...session, project };
  if (last && same(last.state, state)) return last.effective;
  const effective = withSound(hear(state, tried), soundPreview);
  const { track, pattern, keptBefore, trial } = state;
  last = {
    state: {
      project,
      preview,
      trial,
      soundPreview,
      bypassed,
      track,
      pattern,
      keptBefore,
      hearingBefore,
    },
    effective,
  };
  return effective;
}

/** The project with a sound that is heard before it is chosen. */
function withSound(project: Project, preview: Session["soundPreview"]): Project {
  const there = preview && project.tracks.some((track) => track.id === preview.track);
  if (!there) return project;
  const { track, sound, kit } = preview;
  return changeTrackOf(project, track, (own) => ({ ...own, sound, ...(kit && { kit }) }));
}

function hear(state: Session, tried: Trial | null): Project {
  const { project, preview, bypassed, pattern, keptBefore, hearingBefore } = state;
  // A pattern that came later is not in Before: then there is nothing to compare.
  if (hearingBefore && keptBefore.patterns.some((p) => p.id === pattern)) {
    return shapedLike(keptBefore, project);
  }
  if (bypassed && state.track && !tried) {
    return changePart(project, currentPlace(state), (part) => ({ ...part, chain: [] }));
  }
  if (!preview) return project;
  const { chords, length, place } = preview;
  const chorded = chords
    ? changePattern(project, place.pattern, (own) => ({ ...own, chords }))
    : project;
  const looped = length ? changePart(chorded, place, (part) => ({ ...part, length })) : chorded;
  return [preview, ...(preview.also ?? [])].reduce(
    (effective, one) =>
      changePart(effective, one.place, (part) => ({ ...part, notes: one.notes, chain: [] })),
    looped,
  );
}

/** A track's part in the current pattern as it is heard, no preview in it. */
export function effectiveOf(
  { project, pattern }: Pick<Session, "project" | "pattern">,
  track: string,
) {
  const own = patternOf(project, pattern);
  return effectivePart(project, trackOf(project, track), partOf(project, { pattern, track }), own);
}

/** The notes of the current part as heard, and what its chain did. */
export function effectiveCurrent(state: Session) {
  const project = effectiveProject(state);
  const track = trackOf(project, state.track);
  const pattern = patternOf(project, state.pattern);
  return effectivePart(project, track, partOf(project, currentPlace(state)), pattern);
}

/** What panels that work on the current part depend on: not how the sheet is looked at. */
const WORK = [
  ...(["id", "project", "pattern", "track", "open", "caret", "selection", "beside"] as const),
  ...(["onlyTouched", "preview"] as const),
  ...(["bypassed", "hearingBefore", "keptBefore", "ideas", "ideasOpen"] as const),
] as const;
export type Work = Pick<Session, (typeof WORK)[number]>;

/** The part of a session that panels depend on. */
export const workOf = (state: Session): Work =>
  Object.fromEntries(WORK.map((field) => [field, state[field]])) as unknown as Work;

/** The room before the first bar that early hits of the pattern need, in whole sixteenths. */
export function earlyTicks(state: Session): Ticks {
  const project = effectiveProject(state);
  const pattern = patternOf(project, state.pattern);
  const first = project.tracks.reduce((least, track) => {
    const part = partOf(project, { pattern: pattern.id, track: track.id });
    const { notes } = effectivePart(project, track, part, pattern);
    return Math.min(least, notes[0]?.start ?? 0);
  }, 0);
  return Math.ceil(-first / SIXTEENTH) * SIXTEENTH;
}

const SIXTEENTH = PPQ / 4;
