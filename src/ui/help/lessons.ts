import { type Note, patternOf, trackOf } from "@/core/score";
import { shownKey } from "../person/keys";
import type { Session } from "../state/store";

/** One small thing to do, and whether it is done: `seen` tells which of the lesson’s steps were, before. */
interface Step {
  text(): string;
  isDone(state: Session, seen: readonly boolean[]): boolean;
}

/** Small steps through one deed, ticked as they happen. */
export interface Lesson {
  id: string;
  label: string;
  steps: readonly Step[];
}

const partOf = (state: Session, track: string): readonly Note[] =>
  patternOf(state.project, state.pattern).parts.find((part) => part.track === track)?.notes ?? [];
const notesOfKind = (state: Session, kind: "drums" | "melody"): readonly Note[] =>
  state.project.tracks
    .filter((track) => track.kind === kind)
    .flatMap(({ id }) => partOf(state, id));
const hitsOn = (state: Session, pitch: number) =>
  notesOfKind(state, "drums").filter((note) => note.pitch === pitch).length;
const wasDone = (state: Session, label: string) =>
  state.history.past.some((edit) => edit.label.startsWith(label));
/** How far apart the least and the greatest are. */
const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);

const beat: Lesson = {
  id: "beat",
  label: "A first beat",
  steps: [
    { text: () => "Press the first step of Kick: a hit", isDone: (state) => hitsOn(state, 36) > 0 },
    { text: () => "Put Snare on beats 2 and 4", isDone: (state) => hitsOn(state, 38) > 1 },
    {
      text: () => "Drag along Closed hat: a row of hits",
      isDone: (state) => hitsOn(state, 42) > 3,
    },
    {
      text: () => `Hear it: ${shownKey("play")} plays and stops`,
      isDone: ({ playing }) => playing,
    },
    {
      text: () => "Drag a hit down: it gets softer",
      isDone: (state) => spread(notesOfKind(state, "drums").map(({ velocity }) => velocity)) > 7,
    },
    {
      text: () => `${shownKey("next")} selects a hit, ${shownKey("roll-3")} rolls it`,
      isDone: (state) => wasDone(state, "Roll"),
    },
  ],
};

const melody: Lesson = {
  id: "melody",
  label: "A first melody",
  steps: [
    {
      text: () => "Press the name of the bass: its rows are in your hand",
      isDone: ({ project, track }) => track !== "" && trackOf(project, track).kind === "melody",
    },
    {
      text: () => "Draw four notes",
      isDone: (state) => notesOfKind(state, "melody").length > 3,
    },
    {
      text: () => "Drag the end of a note: longer",
      isDone: (state) => spread(notesOfKind(state, "melody").map(({ length }) => length)) > 0,
    },
    {
      text: () => "Beside the ruler, add a chord",
      isDone: ({ project, pattern }) => (patternOf(project, pattern).chords?.length ?? 0) > 0,
    },
    {
      text: () => "Panel Generate: let it make twelve ideas",
      isDone: ({ ideas }) => ideas.list.length > 0,
    },
    {
      text: () => `Point at one to hear it, ${shownKey("apply-idea")} applies it`,
      isDone: (state) => wasDone(state, "Apply"),
    },
  ],
};

const playing: Lesson = {
  id: "playing",
  label: "Playing in",
  steps: [
    {
      text: () => `${shownKey("play-keys")} makes the computer’s keys an instrument`,
      isDone: ({ entry }) => entry?.mode === "play",
    },
    {
      text: () => `${shownKey("record")} records: play after the count-in`,
      isDone: ({ perform }) => perform.recording !== null,
    },
    {
      text: () => "Stop: what was played is in its part",
      isDone: ({ perform }, seen) => seen[1] === true && perform.recording === null,
    },
    {
      text: () => "Tidy up, beside what was played: quantize it, as a card",
      isDone: ({ project, pattern }) =>
        patternOf(project, pattern).parts.some(({ chain }) => chain.length > 0),
    },
  ],
};

/** All of them, in the order they are offered. A line adds one. */
export const LESSONS: readonly Lesson[] = [beat, melody, playing];

/** Which steps of a lesson are done now; one that was stays done. */
export function ticksOf(lesson: Lesson, state: Session, seen: readonly boolean[]): boolean[] {
  return lesson.steps.map(({ isDone }, i) => seen[i] === true || isDone(state, seen));
}
