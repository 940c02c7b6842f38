import { plural, nth } from "@/core/base";
import { barTicks } from "@/core/time";
import {
  type Note,
  type Project,
  changePart,
  partOf,
  shapeOf,
  sortNotes,
  trackOf,
} from "@/core/score";
import { CHOICE, type Idea, NO_TASTE, chosenBy, shortfallsOf, toChooseFrom } from "@/core/generate";
import { nanoid } from "nanoid";
import { currentMetre, currentPart, currentPlace, type Work } from "../../state/current";
import type { Keep, Settings, SheetIdea } from "../../state/ideas";
import type { Session, SessionStore } from "../../state/store";
import { applyChords, chordPreview, chordTrack, generateChords } from "./chord-ideas";
import { generateInWorker, type Wish } from "./generator";
import { settingsFor } from "./settings";
import { revealNotes } from "../notes/rows";
import { isTurn, takeTurn } from "./turn";
import { isOfChords, madeWith, measured, noteShown, shownIdeas } from "./sheet";
import { chosenIds, cutAt, keeper, lanesAsked, onLanes } from "./kept";
import { barsOf, drumOptions, lineOptions } from "./wishes";

const keyOf = (state: Pick<Session, "pattern" | "track">) => `${state.pattern} ${state.track}`;

/** The settings of the current part. */
export function settingsOf(state: Work): Settings {
  const own = state.ideas.settings[keyOf(state)];
  if (own) return own;
  const { generated } = currentPart(state);
  const bars = barsOf(state.project, currentPlace(state));
  return settingsFor(trackOf(state.project, state.track), generated, bars);
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

/** How many ideas a sheet holds. */
const IDEAS_PER_SHEET = 12;

/** Generates a sheet of ideas for the current part; `like` varies one instead. */
export async function generate(
  store: SessionStore,
  { seed, like, count = IDEAS_PER_SHEET }: { seed?: number; like?: Idea; count?: number } = {},
): Promise<void> {
  if (!store.getState().track) return;
  if (seed !== undefined) changeSettings(store, { seed });
  const state = store.getState();
  const { project, setIdeas, ideas } = state;
  const at = currentPlace(state);
  const settings = settingsOf(state);
  const bars = barsOf(project, at);
  const kind = trackOf(project, state.track).kind === "drums" ? "drums" : "line";
  const turn = takeTurn();
  setIdeas({ generating: true, wrong: "", aim: "part" });
  state.setLook({ ideasOpen: true });
  const taste = like ? NO_TASTE : ideas.taste[kind];
  try {
    const chosen = chosenIds(state);
    const lanes = kind === "drums" ? lanesAsked(state, settings) : null;
    const loop = partOf(project, at).length;
    const cut = loop < bars * barTicks(currentMetre(state));
    // Where what is made comes down to few notes, many are alike.
    const few = !like && (cut || (lanes && chosen));
    const many = few ? count * CHOICE : toChooseFrom(taste, count);
    const wish: Wish = lanes
      ? { kind: "drums", options: drumOptions(state, settings, { bars, count: many, lanes }) }
      : { kind: "line", options: lineOptions(state, settings, { bars, count: many, like }) };
    const whole = await generateInWorker(wish);
    const gave = wish.kind === "line" ? shortfallsOf(wish.options) : [];
    const goes = settings.how !== "" && settings.role !== "pad";
    if (wish.kind === "line" && goes && !wish.options.follow && !wish.options.only)
      gave.push("There is no rhythm to go with yet: it is its own");
    if (cut) gave.push("The part ends within a bar: ideas end with it");
    const made = cut ? distinct(cutAt(whole, loop)) : whole;
    // Of two sheets asked for in a row the later one counts.
    if (!isTurn(turn)) return;
    const kept = lanes ? distinct(made.map(keeper(state, lanes)), onLanes(state, lanes)) : made;
    if (kept.length < count)
      gave.push(
        kept.length > 0
          ? `There are no more than ${plural(kept.length, "idea")} with these settings`
          : "There is no other idea with these settings",
      );
    const found = chosenBy(taste, kept, count, (idea) => measured(state, idea));
    if (chosen) changeKeep(store, { chosen });
    store.getState().setIdeas({
      of: { ...at, kind, settings, ...(lanes && { lanes }) },
      list: found,
      gave,
      generating: false,
      held: null,
    });
    noteShown(store, found);
    store.getState().announce(`${plural(found.length, "idea")} generated`);
  } catch (error) {
    if (isTurn(turn)) setIdeas({ generating: false, wrong: (error as Error).message });
  }
}

/** Each idea once, and none that is there: of those that are cut, or have most of their notes from the part, some are alike. */
function distinct(ideas: readonly Idea[], there: readonly Note[] = []): Idea[] {
  const shapes = new Set([shapeOf(there)]);
  return ideas.filter(({ notes }) => {
    const shape = shapeOf(notes);
    const known = shapes.has(shape);
    shapes.add(shape);
    return !known;
  });
}

/** A sheet of what is aimed at: ideas for the current part, or for the chord line. */
export const askIdeas = (store: SessionStore, options: { seed?: number } = {}): Promise<void> =>
  store.getState().ideas.aim === "chords"
    ? generateChords(store, options)
    : generate(store, options);

/** What a part would hold with an idea: on drums only its lanes change. */
function notesWith(state: Session, idea: SheetIdea): readonly Note[] {
  const track = trackOf(state.project, state.track);
  if (track.kind === "melody") return idea.notes;
  const { of } = state.ideas;
  if (of?.kind === "vary") {
    const kept = currentPart(state).notes.filter(
      (note) => of.lane !== null && note.pitch !== of.lane,
    );
    return sortNotes([...kept, ...idea.notes]);
  }
  const lanes = lanesOf(state, idea);
  const rest = currentPart(state).notes.filter((note) => !lanes.has(note.pitch));
  return sortNotes([...rest, ...idea.notes]);
}

/** The lanes that a beat is for: those it was asked for on, whatever sheet it stands on now, or that it has hits on. */
function lanesOf(state: Session, { notes, generated }: SheetIdea): ReadonlySet<number> {
  const { of } = state.ideas;
  if (!generated && of?.kind === "drums" && of.lanes) return of.lanes;
  const asked = generated?.settings.lanes;
  if (Array.isArray(asked)) return new Set(asked.filter((pitch) => typeof pitch === "number"));
  if (generated?.settings.allLanes === true)
    return new Set(trackOf(state.project, state.track).lanes.map((lane) => lane.pitch));
  return new Set(notes.map((note) => note.pitch));
}

const previews = new WeakMap<SheetIdea, { project: Project; notes: readonly Note[] }>();

/** Previews an idea: heard and drawn over the running beat, not written. Null ends the preview. */
export function previewIdea(store: SessionStore, idea: SheetIdea | null): void {
  const state = store.getState();
  if (!idea) {
    if (state.preview) state.setHearing({ preview: null });
    return;
  }
  const known = previews.get(idea);
  const chordsOn = isOfChords(state) ? chordTrack(state) : null;
  const made = () => (chordsOn === null ? notesWith(state, idea) : idea.notes);
  const notes = known?.project === state.project ? known.notes : made();
  previews.set(idea, { project: state.project, notes });
  if (state.preview?.notes === notes) return;
  const place = currentPlace(state);
  state.select([]);
  state.setHearing({
    preview:
      chordsOn === null
        ? { place, notes, label: nameOfIdea(state, idea) }
        : chordPreview(state, idea, chordsOn),
  });
  if (chordsOn === null) revealNotes(store, notes);
}

/** What an idea is called: by its place on the sheet, as it stands there. */
function nameOfIdea(state: Session, idea: SheetIdea): string {
  const at = ideasHere(state).indexOf(idea);
  return at < 0 ? "the idea" : `idea ${at + 1}`;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Whether an idea is the one previewed. */
export const isPreviewed = (state: Work, idea: SheetIdea): boolean =>
  state.preview !== null && previews.get(idea)?.notes === state.preview.notes;

const NONE: readonly SheetIdea[] = [];

/** The ideas of the current part, or of the chord line, as they are shown. */
export function ideasHere(state: Work): readonly SheetIdea[] {
  const { of, list } = state.ideas;
  const here = of?.pattern === state.pattern && (of.kind === "chords" || of.track === state.track);
  return shownIdeas(state, here ? list : NONE);
}

/** Previews the next idea; generates a sheet where there is none yet. */
export function nextIdea(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  if (!state.track) return;
  const list = ideasHere(state);
  if (list.length === 0) {
    void askIdeas(store).then(() => {
      const first = ideasHere(store.getState())[0];
      if (first) holdIdea(store, first);
    });
    return;
  }
  const at = list.findIndex((idea) => isPreviewed(state, idea));
  holdIdea(store, nth(list, (Math.max(at, by > 0 ? -1 : 0) + by + list.length) % list.length));
}

/** Previews an idea until another is held or the preview ends. */
export function holdIdea(store: SessionStore, idea: SheetIdea): void {
  const { setIdeas, announce } = store.getState();
  setIdeas({ held: idea });
  previewIdea(store, idea);
  announce(`Preview of ${nameOfIdea(store.getState(), idea)}`);
}

/** Ends the preview of any idea. */
export function endPreview(store: SessionStore): void {
  store.getState().setIdeas({ held: null });
  previewIdea(store, null);
}

/** Writes the previewed idea into the notes, with what it was made of. */
export function applyIdea(store: SessionStore): void {
  const state = store.getState();
  const { held } = state.ideas;
  const idea = ideasHere(state).find((i) => isPreviewed(state, i)) ?? held;
  const { preview } = state;
  if (!preview || !idea) {
    state.announce("No idea is previewed");
    return;
  }
  if (isOfChords(state)) {
    applyChords(store, idea);
    endPreview(store);
    return;
  }
  const generated = madeWith(state, idea);
  // What an idea left as it was is still the same note.
  const known = new Set(currentPart(state).notes.map((note) => note.id));
  const fresh = new Set(idea.notes.filter((note) => !known.has(note.id)));
  const notes = sortNotes(
    preview.notes.map((note) => (fresh.has(note) ? { ...note, id: nanoid(8) } : note)),
  );
  // What came in the place of notes that were asked anew is what is asked anew from now on.
  const came = notes.filter(({ id }) => !known.has(id)).map(({ id }) => id);
  if (state.ideas.keep.unselected && came.length > 0) changeKeep(store, { chosen: came });
  state.edit(
    `Apply ${nameOfIdea(state, idea)}`,
    (project) =>
      changePart(project, preview.place, (part) => ({
        ...part,
        notes,
        chain: [],
        ...(generated && { generated }),
      })),
    {
      message: `${capital(nameOfIdea(state, idea))} applied: ${plural(idea.notes.length, "note")}`,
    },
  );
  endPreview(store);
}
