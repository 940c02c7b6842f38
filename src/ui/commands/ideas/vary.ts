import { plural } from "@/core/base";
import { barTicks } from "@/core/time";
import { parseChord } from "@/core/pitch";
import { type Note, trackOf, chordSpans } from "@/core/score";
import { lanePeriod } from "@/core/playback";
import { type Idea, variationsOf } from "@/core/generate";
import {
  currentMetre,
  currentPart,
  currentPlace,
  effectiveCurrent,
  sheetPattern,
} from "../../state/current";
import type { VarySettings } from "../../state/ideas";
import type { Session, SessionStore } from "../../state/store";
import { chosenIds } from "./kept";
import { takeTurn } from "./turn";
import { askIdeas } from "./ideas";

/** How many variations a sheet holds. */
const ON_A_SHEET = 12;

/** Changes how variations are made. */
export function changeVary(store: SessionStore, change: Partial<VarySettings>): void {
  const { ideas, setIdeas } = store.getState();
  setIdeas({ vary: { ...ideas.vary, ...change } });
}

/** The lane that is varied alone; null for the whole part. */
const laneOf = ({ project, track, caret, ideas }: Session): number | null =>
  ideas.vary.oneLane && trackOf(project, track).kind === "drums" ? caret.pitch : null;

/** What is varied: the part as it is heard, or one lane of it. */
function variedNotes(state: Session): readonly Note[] {
  const { notes } = effectiveCurrent(state);
  const lane = laneOf(state);
  return lane === null ? notes : notes.filter((note) => note.pitch === lane);
}

/**
 * Ids of the notes that alone are varied: the selected ones, or those that were when variations were last asked for (a
 * preview lets go of the selection); null for all.
 */
function variedIds(state: Session): string[] | null {
  const { selection, ideas, preview } = state;
  const { of, keep } = ideas;
  if (selection.size > 0) return [...selection];
  const { pattern, track } = currentPlace(state);
  const goesOn = preview && of?.kind === "vary" && of.pattern === pattern && of.track === track;
  if (goesOn) return of.ids ? [...of.ids] : null;
  return keep.unselected ? chosenIds(state) : null;
}

/** A sheet of variations of the current part, or of its current lane, at the distance set. */
export function vary(store: SessionStore, { seed }: { seed?: number } = {}): void {
  const { track, setLook, setHearing } = store.getState();
  if (!track) return;
  let ids: string[] | null;
  try {
    ids = variedIds(store.getState());
  } catch (error) {
    store.getState().announce((error as Error).message);
    return;
  }
  setHearing({ preview: null });
  if (seed !== undefined) changeVary(store, { seed });
  const state = store.getState();
  const { project, ideas, setIdeas, announce } = state;
  const notes = variedNotes(state);
  if (notes.length === 0) {
    announce("Nothing to vary: there are no notes");
    return;
  }
  const own = trackOf(project, track);
  const part = currentPart(state);
  const spans = chordSpans(project, sheetPattern(state));
  const { distance, keepStrong } = ideas.vary;
  const kept = new Set(ideas.keep.bars);
  const bar = barTicks(currentMetre(state));
  const list: Idea[] = variationsOf({
    notes,
    kind: own.kind,
    metre: currentMetre(state),
    key: project.key,
    length: part.length,
    gridOf: (pitch) => own.lanes.find((lane) => lane.pitch === pitch)?.grid ?? part.grid,
    periodOf: (pitch) => lanePeriod(own, pitch, part.length),
    chordAt: (tick) => {
      const span = spans.find(({ from, to }) => tick >= from && tick < to);
      return span ? parseChord(span.mark.name) : null;
    },
    distance,
    keepStrong,
    only: ids && new Set(ids),
    keeps: (tick) => kept.has(Math.floor(Math.max(0, tick) / bar)),
    count: ON_A_SHEET,
    seed: ideas.vary.seed * 1000,
  });
  takeTurn();
  setIdeas({
    generating: false,
    of: { ...currentPlace(state), kind: "vary", lane: laneOf(state), ids },
    list,
    aim: "part",
    gave: [],
    held: null,
    wrong: "",
  });
  setLook({ ideasOpen: true });
  announce(
    [
      plural(list.length, "variation"),
      ids ? ` of ${plural(ids.length, "selected note")}` : "",
      list.length < ON_A_SHEET ? ": there is no room for more" : "",
    ].join(""),
  );
}

/** Others of what is on the sheet: ideas or variations. */
export function others(store: SessionStore): void {
  const seed = Math.floor(Math.random() * 1_000_000);
  if (store.getState().ideas.of?.kind === "vary") vary(store, { seed: seed % 900_000 });
  else void askIdeas(store, { seed });
}
