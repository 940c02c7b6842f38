import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import { barTicks } from "@/core/time";
import { type ChordMark, type Note, makeNote, patternOf, trackOf } from "@/core/score";
import { type ChordIdea, type ProgressionOptions, chosenBy, toChooseFrom } from "@/core/generate";
import { isBass } from "@/core/formats";
import { chordedSection, currentMetre, sheetPattern } from "../../state/current";
import type { ChordSettings, SheetIdea } from "../../state/ideas";
import type { Session, SessionStore } from "../../state/store";
import { generateInWorker } from "./generator";
import { lowOf } from "./hear-chord";
import { measured, noteShown } from "./sheet";
import { isTurn, takeTurn } from "./turn";

const MAX_BARS = 64;
const CHORDS_PER_SHEET = 12;

/** The melodic track that chords are heard on: the current one, or the first that is no bass. Null where there is none. */
export function chordTrack({ project, track }: Pick<Session, "project" | "track">): string | null {
  const melodic = project.tracks.filter(({ kind }) => kind === "melody");
  const suited = melodic.filter((one) => !isBass(one));
  return (suited.find(({ id }) => id === track) ?? suited[0] ?? melodic[0])?.id ?? null;
}

/** Bars of a round of chords in the current pattern. */
export function roundOf({
  project,
  pattern,
  ideas,
}: Pick<Session, "project" | "pattern" | "ideas">) {
  const { bars } = patternOf(project, pattern);
  const { round } = ideas.chords;
  return Math.min(MAX_BARS, bars, round > 0 ? round : bars);
}

/** How often chords change: as it is set, or in a short round twice a bar. */
export const rateOf = (state: Parameters<typeof roundOf>[0]): string =>
  state.ideas.chords.rate || (roundOf(state) > 2 ? "one a bar" : "two a bar");

/** Changes what lines of chords are made with. */
export function changeChords(store: SessionStore, change: Partial<ChordSettings>): void {
  const { ideas, setIdeas } = store.getState();
  setIdeas({ chords: { ...ideas.chords, ...change } });
}

/** A sheet of ideas for the chord line of the current pattern. */
export async function generateChords(
  store: SessionStore,
  { seed }: { seed?: number } = {},
): Promise<void> {
  if (seed !== undefined) changeChords(store, { seed });
  const state = store.getState();
  const track = chordTrack(state);
  state.setLook({ ideasOpen: true });
  state.setIdeas({ aim: "chords" });
  if (track === null) {
    state.setIdeas({ wrong: "Chords are heard on a melodic track: add one first" });
    return;
  }
  const { end, sevenths, keepBars, seed: own } = state.ideas.chords;
  const taste = state.ideas.taste.chords;
  const bars = roundOf(state);
  const turn = takeTurn();
  state.setIdeas({ generating: true, wrong: "" });
  try {
    const options: Partial<ProgressionOptions> = {
      key: state.project.key,
      metre: currentMetre(state),
      bars,
      rate: rateOf(state) as ProgressionOptions["rate"],
      end: end as ProgressionOptions["end"],
      sevenths: sevenths as ProgressionOptions["sevenths"],
      low: lowOf(trackOf(state.project, track)),
      keepBars: keepBars.filter((b) => b < bars),
      kept: sheetPattern(state).chords ?? [],
      count: toChooseFrom(taste, CHORDS_PER_SHEET),
      seed: own,
    };
    const made = (await generateInWorker({ kind: "chords", options })) as ChordIdea[];
    if (!isTurn(turn)) return;
    const whole = made.map((idea) => overPattern(state, idea, bars));
    const found = chosenBy(taste, whole, CHORDS_PER_SHEET, (idea) => measured(state, idea));
    const { setIdeas, announce } = store.getState();
    setIdeas({
      of: { pattern: state.pattern, track, kind: "chords" },
      gave:
        found.length < CHORDS_PER_SHEET
          ? [`There are no more than ${plural(found.length, "line")} of chords like this`]
          : [],
      list: found,
      generating: false,
      held: null,
    });
    noteShown(store, found);
    announce(`${plural(found.length, "line")} of chords generated`);
  } catch (error) {
    if (isTurn(turn))
      store.getState().setIdeas({ generating: false, wrong: (error as Error).message });
  }
}

/** A round of chords again and again to the pattern's end. */
function overPattern(state: Session, idea: ChordIdea, bars: number): SheetIdea {
  const bar = barTicks(currentMetre(state));
  const total = patternOf(state.project, state.pattern).bars * bar;
  const round = bars * bar;
  const chords: ChordMark[] = [];
  const notes: Note[] = [];
  for (let at = 0, k = 0; at < total; at += round, k++) {
    for (const mark of idea.chords)
      if (at + mark.start < total)
        chords.push({ ...mark, id: `${mark.id}-${k}`, start: at + mark.start });
    for (const note of idea.notes) {
      const start = at + note.start;
      if (start >= total) continue;
      const length = Math.min(note.length, total - start);
      notes.push(makeNote({ ...note, id: `${note.id}-${k}`, start, length }));
    }
  }
  return { ...idea, chords, notes };
}

/** How the parts are heard while an idea for the chord line is. */
export const chordPreview = (state: Session, idea: SheetIdea, track: string) => ({
  place: { pattern: state.pattern, track },
  notes: idea.notes,
  length: patternOf(state.project, state.pattern).bars * barTicks(currentMetre(state)),
  ...(idea.chords && { chords: idea.chords }),
  label: `chords ${idea.seed}`,
});

/** Writes a line of chords into the pattern, or into the section that has its own; as notes too, if that is wished. */
export function applyChords(store: SessionStore, idea: SheetIdea): void {
  const state = store.getState();
  const { pattern, edit } = state;
  const over = chordedSection(state);
  const marks = (idea.chords ?? []).map((mark) => ({ ...mark, id: nanoid(8) }));
  const track = state.ideas.chords.asNotes && !over ? chordTrack(state) : null;
  edit(
    `Apply chords ${idea.seed}`,
    (project) => {
      const chorded = over
        ? edits.setSectionChords(project, over.id, marks)
        : edits.setChords(project, pattern, marks);
      if (track === null) return chorded;
      const how = { low: lowOf(trackOf(project, track)), velocity: 84, idOf: () => nanoid(8) };
      return edits.holdChords(chorded, { pattern, track }, how);
    },
    { message: `${plural(marks.length, "chord")} put into the chord line` },
  );
}
