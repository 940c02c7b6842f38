import { nanoid } from "nanoid";
import { create } from "zustand";
import {
  barTicks,
  chordClasses,
  edits,
  lanePeriod,
  parseChord,
  partOf,
  patternOf,
  sortNotes,
  topLine,
  trackOf,
  type ChordStretch,
  type Idea,
  type IdeaOptions,
  type Note,
  type Place,
  type Project,
} from "@/core";
import { place, type Session, type SessionStore, type Work } from "../session/store";
import { askIdeas } from "./ask";
import { VALUES, settingsFor, type Settings } from "./idea-settings";

interface Locks {
  rhythm: boolean;
  pitches: boolean;
  /** Bars from 0. */
  bars: number[];
}

interface IdeasState {
  /** What the list was asked for. */
  of: (Place & { kind: "line" | "drums"; settings: Settings }) | null;
  list: Idea[];
  /** Ids of ideas to be kept when new ones are asked for: their seeds with a letter for each asking. */
  starred: readonly Idea[];
  asking: boolean;
  wrong: string;
  settings: Record<string, Settings>;
  locks: Locks;
  /** The idea that stays on trial when the pointer leaves. */
  taken: Idea | null;
}

const NO_LOCKS: Locks = { rhythm: false, pitches: false, bars: [] };

/** The ideas of this page. They are only a sheet to choose from: what is used goes into the project. */
export const useIdeas = create<IdeasState>(() => ({
  of: null,
  list: [],
  starred: [],
  asking: false,
  wrong: "",
  settings: {},
  locks: NO_LOCKS,
  taken: null,
}));

const keyOf = (state: Work) => `${state.id} ${state.pattern} ${state.track}`;

/** The settings of the part in hand. */
export function settingsOf(state: Work, all: Pick<IdeasState, "settings">): Settings {
  const own = all.settings[keyOf(state)];
  if (own) return own;
  const track = trackOf(state.project, state.track);
  return settingsFor(track, partOf(state.project, place(state)).generated);
}

export function changeSettings(store: SessionStore, change: Partial<Settings>): void {
  const state = store.getState();
  const all = useIdeas.getState();
  const next = { ...settingsOf(state, all), ...change };
  useIdeas.setState({ settings: { ...all.settings, [keyOf(state)]: next } });
}

export function changeLocks(change: Partial<Locks>): void {
  useIdeas.setState({ locks: { ...useIdeas.getState().locks, ...change } });
}

/** Whole bars of the part in hand that ideas fill. */
export function barsOf(project: Project, at: Place): number {
  const bar = barTicks(project.metre);
  const { bars } = patternOf(project, at.pattern);
  return Math.max(1, Math.min(64, bars, Math.ceil(partOf(project, at).length / bar)));
}

function chordStretches(project: Project, pattern: string): ChordStretch[] {
  return edits.chordSpans(project, patternOf(project, pattern)).flatMap(({ mark, from, to }) => {
    const chord = parseChord(mark.name);
    if (!chord) return [];
    const classes = [chord.root, ...[...chordClasses(chord)].filter((pc) => pc !== chord.root)];
    return [{ from, to, classes }];
  });
}

/** The notes that locks keep: of the idea on trial, else of the part. */
export function lockedFrom(state: Work): readonly Note[] {
  return state.trial?.notes ?? partOf(state.project, place(state)).notes;
}

export const IDEAS_ASKED = 12;
let asked = 0;

/** Asks for a sheet of ideas for the part in hand; `like` varies one instead. */
export async function ask(
  store: SessionStore,
  { seed, like, count = IDEAS_ASKED }: { seed?: number; like?: Idea; count?: number } = {},
): Promise<void> {
  const state = store.getState();
  if (!state.track) return;
  const { project } = state;
  const track = trackOf(project, state.track);
  const at = place(state);
  if (seed !== undefined) changeSettings(store, { seed });
  const all = useIdeas.getState();
  const settings = settingsOf(state, all);
  const kind = track.kind === "drums" ? ("drums" as const) : ("line" as const);
  const bars = barsOf(project, at);
  const own = ++asked;
  useIdeas.setState({ asking: true, wrong: "" });
  store.setState({ ideasOpen: true });
  try {
    const ideas = await (kind === "drums"
      ? askIdeas({ kind, options: drumOptions(state, settings, bars, count) })
      : askIdeas({ kind, options: lineOptions(state, settings, bars, count, like) }));
    // Of two askings in a row the later one counts.
    if (own !== asked) return;
    // Starred ones stay at the head of the sheet.
    const starred = useIdeas.getState().of?.track === at.track ? useIdeas.getState().starred : [];
    useIdeas.setState({
      of: { ...at, kind, settings },
      list: [...starred, ...ideas.filter((idea) => !starred.some((s) => alike(s, idea)))],
      starred,
      asking: false,
      taken: null,
    });
    store.setState({ said: `${ideas.length} ideas` });
  } catch (error) {
    useIdeas.setState({ asking: false, wrong: (error as Error).message });
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
  const { locks } = useIdeas.getState();
  const notes = topLine(lockedFrom(state));
  const { low, high, density, rests, leap, repetition, softest, loudest, voices, seed } = s;
  return {
    ...{ low, high, density, rests, leap, repetition, softest, loudest, voices, seed, bars, count },
    key: state.project.key,
    metre: state.project.metre,
    pool: s.pool as IdeaOptions["pool"],
    form: s.form as IdeaOptions["form"],
    startOn: s.startOn as IdeaOptions["startOn"],
    endOn: s.endOn as IdeaOptions["endOn"],
    shape: s.shape as IdeaOptions["shape"],
    chords: chordStretches(state.project, state.pattern),
    values: VALUES.map(({ value, kind }, i) => ({ value, kind, weight: s.weights[i]! })),
    rhythm: locks.rhythm ? notes : null,
    pitches: locks.pitches ? notes.map((note) => note.pitch) : null,
    keepBars: locks.bars.filter((b) => b < bars),
    kept: lockedFrom(state),
    like: like ? { notes: like.notes, amount: 35 } : null,
  };
}

function drumOptions(state: Session, s: Settings, bars: number, count: number) {
  const track = trackOf(state.project, state.track);
  const lanes = track.lanes.filter((lane) => s.allLanes || lane.pitch === state.caret.pitch);
  const { density, syncopation, spread, repetition, softest, loudest, seed } = s;
  return {
    ...{ density, syncopation, spread, repetition, softest, loudest, seed, bars, count },
    metre: state.project.metre,
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
  const { settings } = useIdeas.getState().of!;
  const own = new Set(idea.notes.map((note) => note.pitch));
  const all = new Set(track.lanes.map((lane) => lane.pitch));
  const lanes = settings.allLanes ? all : own;
  const rest = partOf(state.project, place(state)).notes.filter((n) => !lanes.has(n.pitch));
  return sortNotes([...rest, ...idea.notes]);
}

const trials = new WeakMap<Idea, { project: Project; notes: readonly Note[] }>();

/** Puts an idea on trial: heard and drawn over the running beat, not written. Null ends the trial. */
export function hear(store: SessionStore, idea: Idea | null): void {
  const state = store.getState();
  if (!idea) {
    if (state.trial) store.setState({ trial: null });
    return;
  }
  const known = trials.get(idea);
  const notes = known?.project === state.project ? known.notes : notesWith(state, idea);
  trials.set(idea, { project: state.project, notes });
  if (state.trial?.notes === notes) return;
  store.setState({
    trial: { place: place(state), notes, label: `idea ${idea.seed}` },
    selection: new Set(),
  });
}

/** Whether an idea is the one on trial. */
export const isHeard = (state: Work, idea: Idea): boolean =>
  state.trial !== null && trials.get(idea)?.notes === state.trial.notes;

const NONE: readonly Idea[] = [];

/** The ideas of the part in hand. */
export function ideasHere(state: Work, all: IdeasState): readonly Idea[] {
  return all.of?.track === state.track && all.of.pattern === state.pattern ? all.list : NONE;
}

/** Takes the next idea on trial; asks for ideas where there are none yet. */
export function nextIdea(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  if (!state.track) return;
  const list = ideasHere(state, useIdeas.getState());
  if (list.length === 0) {
    void ask(store).then(() => {
      const first = ideasHere(store.getState(), useIdeas.getState())[0];
      if (first) take(store, first);
    });
    return;
  }
  const at = list.findIndex((idea) => isHeard(state, idea));
  take(store, list[(Math.max(at, by > 0 ? -1 : 0) + by + list.length) % list.length]!);
}

/** Takes an idea on trial until another is taken or it is left. */
export function take(store: SessionStore, idea: Idea): void {
  useIdeas.setState({ taken: idea });
  hear(store, idea);
  store.setState({ said: `Idea ${idea.seed} on trial` });
}

/** Ends the trial of any idea. */
export function leaveIdea(store: SessionStore): void {
  useIdeas.setState({ taken: null });
  hear(store, null);
}

/** Keeps an idea on the sheet when others are asked for, or lets it go. */
export function star(idea: Idea): void {
  const { starred } = useIdeas.getState();
  useIdeas.setState({
    starred: starred.includes(idea) ? starred.filter((i) => i !== idea) : [...starred, idea],
  });
}

/** Writes the idea on trial into the notes, with what it was made of. */
export function writeIdea(store: SessionStore): void {
  const state = store.getState();
  const { of, taken, list } = useIdeas.getState();
  const idea = list.find((i) => isHeard(state, i)) ?? taken;
  const { trial } = state;
  if (!trial || !idea || !of) {
    store.setState({ said: "No idea is on trial" });
    return;
  }
  const generated = { kind: of.kind, seed: idea.seed, settings: { ...of.settings } };
  const fresh = new Set(idea.notes);
  const notes = sortNotes(
    trial.notes.map((note) => (fresh.has(note) ? { ...note, id: nanoid(8) } : note)),
  );
  state.edit(`Keep idea ${idea.seed}`, (p) =>
    edits.changePart(p, trial.place, (part) => ({ ...part, notes, chain: [], generated })),
  );
  store.setState({ trial: null, said: "Written to notes: undo brings the old ones back" });
  useIdeas.setState({ taken: null });
}
