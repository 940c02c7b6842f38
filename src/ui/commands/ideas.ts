import { nanoid } from "nanoid";
import {
  chordClasses,
  edits,
  lanePeriod,
  parseChord,
  partOf,
  patternOf,
  plural,
  sortNotes,
  topLine,
  trackOf,
  type ChordStretch,
  type Contour,
  type Idea,
  type IdeaOptions,
  type Note,
  type Place,
  type Project,
  patternBar,
} from "@/core";
import {
  currentPart,
  currentPlace,
  sheetPattern,
  type Work,
  currentMetre,
} from "../session/current";
import type { Keep, Settings } from "../session/ideas";
import type { Session, SessionStore } from "../session/store";
import { generateInWorker } from "./generator";
import { VALUES, isPhrased, settingsFor } from "./idea-settings";

const keyOf = (state: Pick<Session, "pattern" | "track">) => `${state.pattern} ${state.track}`;

/** The settings of the current part. */
export function settingsOf(state: Work): Settings {
  const own = state.ideas.settings[keyOf(state)];
  if (own) return own;
  const { generated } = currentPart(state);
  return settingsFor(trackOf(state.project, state.track), generated);
}

/** Changes settings of the current part. */
export function changeSettings(store: SessionStore, change: Partial<Settings>): void {
  const state = store.getState();
  const next = { ...settingsOf(state), ...change };
  state.setIdeas({ settings: { ...state.ideas.settings, [keyOf(state)]: next } });
}

/** Changes what stays of the current notes when ideas are generated. */
export function changeKeep(store: SessionStore, change: Partial<Keep>): void {
  const { ideas, setIdeas } = store.getState();
  setIdeas({ keep: { ...ideas.keep, ...change } });
}

/** Most bars that an idea fills. */
const MOST_BARS = 64;

/** Whole bars of a part that ideas fill. */
export function barsOf(project: Project, at: Place): number {
  const pattern = patternOf(project, at.pattern);
  const bar = patternBar(project, pattern);
  return Math.max(
    1,
    Math.min(MOST_BARS, pattern.bars, Math.ceil(partOf(project, at).length / bar)),
  );
}

function chordStretches(state: Session): ChordStretch[] {
  return edits.chordSpans(state.project, sheetPattern(state)).flatMap(({ mark, from, to }) => {
    const chord = parseChord(mark.name);
    if (!chord) return [];
    const classes = [chord.root, ...[...chordClasses(chord)].filter((pc) => pc !== chord.root)];
    return [{ from, to, classes }];
  });
}

/** The notes that are kept from: of the previewed idea, else of the part. */
export function keptNotes(state: Work): readonly Note[] {
  return state.preview?.notes ?? currentPart(state).notes;
}

/** How many ideas a sheet holds. */
const IDEAS_PER_SHEET = 12;
let asked = 0;

/** Generates a sheet of ideas for the current part; `like` varies one instead. */
export async function generate(
  store: SessionStore,
  { seed, like, count = IDEAS_PER_SHEET }: { seed?: number; like?: Idea; count?: number } = {},
): Promise<void> {
  if (!store.getState().track) return;
  if (seed !== undefined) changeSettings(store, { seed });
  const state = store.getState();
  const { project, setIdeas } = state;
  const at = currentPlace(state);
  const settings = settingsOf(state);
  const bars = barsOf(project, at);
  const kind = trackOf(project, state.track).kind === "drums" ? "drums" : "line";
  const own = ++asked;
  setIdeas({ generating: true, wrong: "" });
  state.setLook({ ideasOpen: true });
  try {
    const found = await (kind === "drums"
      ? generateInWorker({ kind, options: drumOptions(state, settings, bars, count) })
      : generateInWorker({ kind, options: lineOptions(state, settings, bars, count, like) }));
    // Of two sheets asked for in a row the later one counts.
    if (own !== asked) return;
    const { ideas, say } = store.getState();
    // Starred ones stay at the head of the sheet.
    const starred = ideas.of?.track === at.track ? ideas.starred : [];
    const others = found.filter((idea) => !starred.some((other) => alike(other, idea)));
    setIdeas({
      of: { ...at, kind, settings },
      list: [...starred, ...others],
      starred,
      generating: false,
      held: null,
    });
    say(`${plural(found.length, "idea")} generated`);
  } catch (error) {
    if (own === asked) setIdeas({ generating: false, wrong: (error as Error).message });
  }
}

const alike = (a: Idea, b: Idea) => JSON.stringify(a.notes) === JSON.stringify(b.notes);

function lineOptions(
  state: Session,
  s: Settings,
  bars: number,
  count: number,
  like: Idea | undefined,
): Partial<IdeaOptions> {
  const { keep } = state.ideas;
  const notes = topLine(keptNotes(state));
  const { low, high, density, rests, leap, repetition, softest, loudest, voices, seed } = s;
  return {
    ...{ low, high, density, rests, leap, repetition, softest, loudest, voices, seed, bars, count },
    key: state.project.key,
    metre: currentMetre(state),
    pool: s.pool as IdeaOptions["pool"],
    form: isPhrased(s.form) ? "free" : (s.form as IdeaOptions["form"]),
    phrases: isPhrased(s.form)
      ? {
          form: s.form,
          bars: s.phraseBars,
          contour: s.contour as Contour,
          drawn: s.drawn,
          climax: s.climax,
          strict: s.strict,
        }
      : null,
    startOn: s.startOn as IdeaOptions["startOn"],
    endOn: s.endOn as IdeaOptions["endOn"],
    shape: s.shape as IdeaOptions["shape"],
    chords: chordStretches(state),
    values: VALUES.map(({ value, kind }, i) => ({ value, kind, weight: s.weights[i]! })),
    rhythm: keep.rhythm ? notes : null,
    pitches: keep.pitches ? notes.map((note) => note.pitch) : null,
    keepBars: keep.bars.filter((b) => b < bars),
    kept: keptNotes(state),
    like: like ? { notes: like.notes, amount: 35 } : null,
  };
}

function drumOptions(state: Session, s: Settings, bars: number, count: number) {
  const track = trackOf(state.project, state.track);
  const lanes = track.lanes.filter((lane) => s.allLanes || lane.pitch === state.caret.pitch);
  const { density, syncopation, spread, repetition, softest, loudest, seed, style } = s;
  return {
    ...{ density, syncopation, spread, repetition, softest, loudest, seed, style, bars, count },
    metre: currentMetre(state),
    lanes: lanes.map(({ pitch, grid, steps }) => ({
      pitch,
      grid,
      period: steps ? lanePeriod(track, pitch, 0) : null,
    })),
  };
}

/** What a part would hold with an idea: on drums only its lanes change. */
function notesWith(state: Session, idea: Idea): readonly Note[] {
  const track = trackOf(state.project, state.track);
  if (track.kind === "melody") return idea.notes;
  const own = new Set(idea.notes.map((note) => note.pitch));
  const all = new Set(track.lanes.map((lane) => lane.pitch));
  const { of } = state.ideas;
  if (of?.kind === "vary") {
    const kept = currentPart(state).notes.filter((n) => of.lane !== null && n.pitch !== of.lane);
    return sortNotes([...kept, ...idea.notes]);
  }
  const lanes = of?.settings.allLanes ? all : own;
  const rest = currentPart(state).notes.filter((n) => !lanes.has(n.pitch));
  return sortNotes([...rest, ...idea.notes]);
}

const previews = new WeakMap<Idea, { project: Project; notes: readonly Note[] }>();

/** Previews an idea: heard and drawn over the running beat, not written. Null ends the preview. */
export function previewIdea(store: SessionStore, idea: Idea | null): void {
  const state = store.getState();
  if (!idea) {
    if (state.preview) state.setHearing({ preview: null });
    return;
  }
  const known = previews.get(idea);
  const notes = known?.project === state.project ? known.notes : notesWith(state, idea);
  previews.set(idea, { project: state.project, notes });
  if (state.preview?.notes === notes) return;
  const place = currentPlace(state);
  state.select([]);
  state.setHearing({ preview: { place, notes, label: `idea ${idea.seed}` } });
}

/** Whether an idea is the one previewed. */
export const isPreviewed = (state: Work, idea: Idea): boolean =>
  state.preview !== null && previews.get(idea)?.notes === state.preview.notes;

const NONE: readonly Idea[] = [];

/** The ideas of the current part. */
export function ideasHere({ ideas, track, pattern }: Work): readonly Idea[] {
  return ideas.of?.track === track && ideas.of.pattern === pattern ? ideas.list : NONE;
}

/** Previews the next idea; generates a sheet where there is none yet. */
export function nextIdea(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  if (!state.track) return;
  const list = ideasHere(state);
  if (list.length === 0) {
    void generate(store).then(() => {
      const first = ideasHere(store.getState())[0];
      if (first) holdIdea(store, first);
    });
    return;
  }
  const at = list.findIndex((idea) => isPreviewed(state, idea));
  holdIdea(store, list[(Math.max(at, by > 0 ? -1 : 0) + by + list.length) % list.length]!);
}

/** Previews an idea until another is held or the preview ends. */
export function holdIdea(store: SessionStore, idea: Idea): void {
  const { setIdeas, say } = store.getState();
  setIdeas({ held: idea });
  previewIdea(store, idea);
  say(`Preview of idea ${idea.seed}`);
}

/** Ends the preview of any idea. */
export function endPreview(store: SessionStore): void {
  store.getState().setIdeas({ held: null });
  previewIdea(store, null);
}

/** Keeps an idea on the sheet when others are generated, or lets it go. */
export function star(store: SessionStore, idea: Idea): void {
  const { ideas, setIdeas } = store.getState();
  const { starred } = ideas;
  setIdeas({
    starred: starred.includes(idea) ? starred.filter((i) => i !== idea) : [...starred, idea],
  });
}

/** Writes the previewed idea into the notes, with what it was made of. */
export function applyIdea(store: SessionStore): void {
  const state = store.getState();
  const { of, held, list } = state.ideas;
  const idea = list.find((i) => isPreviewed(state, i)) ?? held;
  const { preview } = state;
  if (!preview || !idea || !of) {
    state.say("No idea is previewed");
    return;
  }
  const generated =
    of.kind === "vary" ? null : { kind: of.kind, seed: idea.seed, settings: { ...of.settings } };
  // What a variation left as it was is still the same note.
  const known = new Set(of.kind === "vary" ? currentPart(state).notes.map((note) => note.id) : []);
  const fresh = new Set(idea.notes.filter((note) => !known.has(note.id)));
  const notes = sortNotes(
    preview.notes.map((note) => (fresh.has(note) ? { ...note, id: nanoid(8) } : note)),
  );
  state.edit(
    `Apply idea ${idea.seed}`,
    (p) =>
      edits.changePart(p, preview.place, (part) => ({
        ...part,
        notes,
        chain: [],
        ...(generated && { generated }),
      })),
    { said: `Idea ${idea.seed} applied: ${plural(idea.notes.length, "note")}` },
  );
  endPreview(store);
}
