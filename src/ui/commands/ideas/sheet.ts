import * as edits from "@/core/edits";
import { plural, mustGet, nth } from "@/core/base";
import { type Generated, type Starred, patternOf, starSign, trackOf } from "@/core/score";
import {
  MEASURES,
  type Measured,
  NO_TASTE,
  type Taste,
  childrenOf,
  learned,
  measuresOf,
  unlearned,
} from "@/core/generate";
import { currentMetre, currentPlace, type Work } from "../../state/current";
import type { SheetIdea, TasteKind } from "../../state/ideas";
import type { Session, SessionStore } from "../../state/store";
import { takeTurn } from "./turn";
import { barsOf } from "./wishes";

/** Whether the sheet shows ideas for the chord line. */
export const isOfChords = ({ ideas }: Pick<Session, "ideas">): boolean =>
  ideas.of?.kind === "chords" || (ideas.of === null && ideas.aim === "chords");

/** What a star of the ideas shown is for. */
const starTrack = (state: Pick<Session, "ideas" | "track">) =>
  isOfChords(state) ? null : state.track;

/** The starred ideas of what the sheet is for, as they are kept with the pattern. */
export function starsHere(
  state: Pick<Session, "project" | "pattern" | "track" | "ideas">,
): readonly Starred[] {
  const track = starTrack(state);
  const all = patternOf(state.project, state.pattern).stars ?? NO_STARS;
  return all.filter((star) => star.track === track);
}

const NO_STARS: readonly Starred[] = [];
const signs = new WeakMap<SheetIdea | Starred, string>();
/** What tells ideas of one sheet apart. */
function signOf(idea: SheetIdea | Starred): string {
  let sign = signs.get(idea);
  if (sign === undefined) signs.set(idea, (sign = starSign({ track: "", notes: idea.notes })));
  return sign;
}

/** The signs of what is starred, to look ideas up in. */
export const starredSigns = (state: Parameters<typeof starsHere>[0]): ReadonlySet<string> =>
  new Set(starsHere(state).map(signOf));
export const isStarred = (starred: ReadonlySet<string>, idea: SheetIdea): boolean =>
  starred.has(signOf(idea));

/** An idea as it is measured: chords over the whole pattern, a line or beat over the bars of its part. */
export function measured(state: Work, { notes, chords }: SheetIdea): Measured {
  const metre = currentMetre(state);
  const { project, pattern } = state;
  if (chords)
    return { notes, bars: patternOf(project, pattern).bars, metre, chords, key: project.key };
  return { notes, bars: barsOf(project, currentPlace(state)), metre };
}

/** Which taste ideas of the sheet are of; null where there is no track. */
export function tasteKind(state: Work): TasteKind | null {
  if (!state.track) return null;
  if (isOfChords(state)) return "chords";
  return trackOf(state.project, state.track).kind === "drums" ? "drums" : "line";
}

function teach(
  store: SessionStore,
  change: (taste: Taste, state: Session) => Taste,
  kind = tasteKind(store.getState()),
): void {
  const state = store.getState();
  if (!kind) return;
  const { taste } = state.ideas;
  state.setIdeas({ taste: { ...taste, [kind]: change(taste[kind], state) } });
}

/** Remembers what ideas were shown, against which what is liked is measured. */
export const noteShown = (store: SessionStore, ideas: readonly SheetIdea[]): void =>
  teach(store, (taste, state) =>
    learned(
      taste,
      "shown",
      ideas.map((idea) => measured(state, idea)),
    ),
  );

/** What an idea was made with; undefined for a variation or a crossing. */
export function madeWith({ ideas: { of } }: Session, idea: SheetIdea): Generated | undefined {
  if (idea.generated) return idea.generated;
  if (of?.kind !== "line" && of?.kind !== "drums") return undefined;
  // The lanes that a beat is for: another sheet, on which it stands starred, may be for others.
  const lanes = of.lanes && { lanes: [...of.lanes] };
  return { kind: of.kind, seed: idea.seed, settings: { ...of.settings, ...lanes } };
}

/** Keeps an idea with the pattern, at the head of every sheet, or lets it go; more like it come. */
export function star(store: SessionStore, idea: SheetIdea): void {
  const state = store.getState();
  const was = isStarred(starredSigns(state), idea);
  const { seed, notes, description, chords } = idea;
  const generated = madeWith(state, idea);
  const kept: Starred = {
    track: starTrack(state),
    seed,
    notes,
    ...(description && { says: description }),
    ...(chords && { chords }),
    ...(generated && { generated }),
  };
  const label = was ? `Unstar idea ${seed}` : `Star idea ${seed}`;
  try {
    if (!state.edit(label, (project) => edits.toggleStar(project, state.pattern, kept))) return;
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    state.announce(error.message);
    return;
  }
  teach(store, (taste, now) =>
    was
      ? unlearned(taste, "liked", measured(now, idea))
      : learned(taste, "liked", [measured(now, idea)]),
  );
}

/** Takes an idea off the sheet: less like it come. */
export function drop(store: SessionStore, idea: SheetIdea): void {
  const state = store.getState();
  if (isStarred(starredSigns(state), idea)) star(store, idea);
  teach(store, (taste, now) => learned(taste, "dropped", [measured(now, idea)]));
  const { ideas, setIdeas, setHearing } = store.getState();
  if (ideas.held === idea) setHearing({ preview: null });
  setIdeas({
    list: ideas.list.filter((other) => signOf(other) !== signOf(idea)),
    ...(ideas.held === idea && { held: null }),
  });
}

/** Forgets what was liked and dropped of a kind of ideas. */
export const forgetTaste = (store: SessionStore, kind: TasteKind): void =>
  teach(store, () => NO_TASTE, kind);

/** Sorts the sheet by a measure; an empty name for as ideas came. */
export const sortIdeas = (store: SessionStore, sort: string): void =>
  store.getState().setIdeas({ sort });

const sorted = new WeakMap<readonly SheetIdea[], { sign: string; list: readonly SheetIdea[] }>();

/**
 * The ideas of a sheet as they are shown: starred ones that it does not hold first, then its own as they came or by the
 * measure chosen, most of it first.
 */
export function shownIdeas(state: Work, list: readonly SheetIdea[]): readonly SheetIdea[] {
  const stars = starsHere(state);
  const { sort } = state.ideas;
  if (stars.length === 0 && !sort) return list;
  const sign = `${sort}|${stars.map(signOf).join("|")}`;
  const known = sorted.get(list);
  if (known?.sign === sign) return known.list;
  const here = new Set(list.map(signOf));
  const first = stars.filter((one) => !here.has(signOf(one))).map(sheetIdea);
  const at = MEASURES.findIndex(({ id }) => id === sort);
  const shown = [...first, ...(at < 0 ? list : byMeasure(state, list, at))];
  sorted.set(list, { sign, list: shown });
  return shown;
}

const kept = new WeakMap<Starred, SheetIdea>();
/** A kept idea as one of a sheet: the same object each time. */
function sheetIdea(one: Starred): SheetIdea {
  let idea = kept.get(one);
  if (!idea) {
    const { track: _, notes, says, ...rest } = one;
    idea = { ...rest, notes: [...notes], ...(says && { description: says }) };
    kept.set(one, idea);
  }
  return idea;
}

function byMeasure(state: Work, list: readonly SheetIdea[], at: number): SheetIdea[] {
  const bars = barsOf(state.project, currentPlace(state));
  const metre = currentMetre(state);
  const value = new Map(
    list.map((idea) => [idea, nth(measuresOf({ notes: idea.notes, bars, metre }), at)]),
  );
  return [...list].sort((a, b) => mustGet(value, b) - mustGet(value, a));
}

const CHILDREN = 12;

/** A sheet of children of the two ideas that were starred last. */
export function breed(store: SessionStore): void {
  const state = store.getState();
  const kind = tasteKind(state);
  const [first, second] = starsHere(state).slice(-2);
  if (!kind || kind === "chords" || !first || !second) {
    state.announce("Star two ideas first");
    return;
  }
  const list = childrenOf({
    first: first.notes,
    second: second.notes,
    kind: kind === "drums" ? "drums" : "melody",
    metre: currentMetre(state),
    bars: barsOf(state.project, currentPlace(state)),
    count: CHILDREN,
    seed: first.seed ^ second.seed,
  });
  takeTurn();
  state.setIdeas({
    generating: false,
    of: { ...currentPlace(state), kind: "children", of: kind },
    list,
    gave: [],
    held: null,
    wrong: "",
  });
  state.announce(
    list.length > 0
      ? `${plural(list.length, "idea")} of the two starred last`
      : "The two are too alike to have others",
  );
}
