import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { type Ticks, plural, clamp, nth, mapTuple, must, lastOf } from "@/core/base";
import { barTicks, formatPosition, parsePosition } from "@/core/time";
import {
  type Project,
  type Section,
  type SongEntry,
  patternBar,
  patternOf,
  sectionBars,
  sectionsOf,
  songBar,
  timeMap,
} from "@/core/score";
import type { SoundDesk } from "../../session/desk";
import type { LoopRange } from "../../state/arranging";
import type { Session, SessionStore } from "../../state/store";
import { currentMetre, currentStretch, currentTicks } from "../../state/current";
import { choosePattern } from "./patterns";
import { playSongFrom } from "../transport/play";

/** Sections of the song; none while there is no song. */
export const songSections = (project: Project): readonly Section[] =>
  project.song.length > 0 ? sectionsOf(project) : [];

/** How a section is called: by its own name, else its pattern's. */
export const sectionName = ({ entry, pattern }: Pick<Section, "entry" | "pattern">): string =>
  entry?.name ?? pattern.name;

/** Selected sections that are there, in order; the current one where none is. */
export function selectedSections({ project, section, sections }: Session): readonly SongEntry[] {
  const all = project.song.filter((entry) => sections.has(entry.id));
  return all.length > 0 ? all : project.song.filter((entry) => entry.id === section);
}

/** The section that is current, where it is there. */
export const currentSection = ({ project, section }: Session): SongEntry | undefined =>
  project.song.find((entry) => entry.id === section);

/** Makes a section current, with others of a span on wish, and shows its pattern. */
export function goToSection(store: SessionStore, id: string, extend = false): void {
  const { project, section, setArranging } = store.getState();
  const entry = project.song.find((one) => one.id === id);
  if (!entry) return;
  const [current, target] = mapTuple([section ?? id, id], (one) =>
    project.song.findIndex((entry) => entry.id === one),
  );
  const span = project.song.slice(Math.min(current, target), Math.max(current, target) + 1);
  setArranging({
    section: id,
    sections: new Set(extend && current >= 0 ? span.map((one) => one.id) : [id]),
  });
  choosePattern(store, entry.pattern);
}

/** Goes to the next or previous section; the first or last where none is current. */
export function stepSection(store: SessionStore, by: 1 | -1, extend = false): void {
  const { project, section } = store.getState();
  if (project.song.length === 0) {
    store.getState().announce("The song has no sections yet");
    return;
  }
  const at = project.song.findIndex((entry) => entry.id === section);
  const from = at < 0 ? (by > 0 ? -1 : project.song.length) : at;
  const to = clamp(from + by, 0, project.song.length - 1);
  const { sections } = store.getState();
  const next = nth(project.song, to);
  if (!extend || at < 0) {
    goToSection(store, next.id);
    return;
  }
  store.getState().setArranging({ section: next.id, sections: new Set([...sections, next.id]) });
  choosePattern(store, next.pattern);
}

/** Adds a pattern to the song after the current section, or at a place; its section is current then. */
export function addSection(store: SessionStore, pattern: string, at?: number): void {
  const { project, section, edit } = store.getState();
  const current = project.song.findIndex((entry) => entry.id === section);
  const index = at ?? (current < 0 ? project.song.length : current + 1);
  const entry = { id: nanoid(8), pattern, times: 1 };
  const { name } = patternOf(project, pattern);
  const added = edit(
    `Add ${name} to the song`,
    (project) => edits.insertSections(project, index, [entry]),
    {
      message: `${name} is section ${index + 1} of the song`,
    },
  );
  if (added) select(store, entry.id);
}

const select = (store: SessionStore, id: string | null, all: readonly string[] = id ? [id] : []) =>
  store.getState().setArranging({ section: id, sections: new Set(all) });

/** Makes a song of all patterns in their order, to begin with. */
export function songOfPatterns(store: SessionStore): void {
  const { project, edit } = store.getState();
  if (project.song.length > 0) return;
  const song = edits.songOfAll(project, () => nanoid(8));
  const message = `A song of ${plural(song.length, "section")}`;
  if (edit("Song of all patterns", (project) => ({ ...project, song }), { message }))
    select(store, nth(song, 0).id);
}

/** Deletes the selected sections; what comes after takes their place. */
export function deleteSelectedSections(store: SessionStore): void {
  const state = store.getState();
  const chosen = selectedSections(state);
  if (chosen.length === 0) return;
  const at = state.project.song.indexOf(nth(chosen, 0));
  const ids = new Set(chosen.map((entry) => entry.id));
  state.edit("Delete sections", (project) => edits.deleteSections(project, ids), {
    message: `${plural(chosen.length, "section")} deleted`,
  });
  const { song } = store.getState().project;
  select(store, song[Math.min(at, song.length - 1)]?.id ?? null);
}

/** Puts the selected sections again after themselves; the copies are selected. */
export function duplicateSections(store: SessionStore): void {
  const state = store.getState();
  const chosen = selectedSections(state);
  const last = chosen.at(-1);
  if (!last) return;
  const copies = chosen.map(({ continues, ...entry }, i) => ({
    ...entry,
    id: nanoid(8),
    // The first begins anew; the others go on with the copies before them.
    ...(continues && i > 0 && { continues }),
  }));
  const index = state.project.song.indexOf(last) + 1;
  const message = `${plural(copies.length, "section")} copied`;
  if (
    state.edit("Copy sections", (project) => edits.insertSections(project, index, copies), {
      message,
    })
  )
    select(
      store,
      nth(copies, 0).id,
      copies.map((entry) => entry.id),
    );
}

/** Moves the selected sections by one place. */
export function shiftSections(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const chosen = selectedSections(state);
  if (chosen.length === 0) return;
  const { song } = state.project;
  const first = song.indexOf(nth(chosen, 0));
  const last = song.indexOf(lastOf(chosen));
  const to = by < 0 ? first - 1 : last + 2;
  if (to < 0 || to > song.length) return;
  const ids = new Set(chosen.map((entry) => entry.id));
  state.edit("Move sections", (project) => edits.moveSections(project, ids, to), {
    group: "move-sections",
  });
}

/** Changes how often the selected sections play, by so many loops. */
export function repeatSections(store: SessionStore, by: number): void {
  const state = store.getState();
  const chosen = selectedSections(state);
  state.edit(
    "Repeats",
    (project) =>
      chosen.reduce((done, { id, times }) => edits.setSectionTimes(done, id, times + by), project),
    { group: "section-times" },
  );
}

/** Cuts the current section in two: at a bar given, else at its middle, on a loop where it has several. */
export function splitCurrentSection(store: SessionStore, afterBars?: number): void {
  const state = store.getState();
  const entry = currentSection(state);
  if (!entry) return;
  const pattern = patternOf(state.project, entry.pattern);
  const bars = sectionBars(entry, pattern);
  const rounds = Math.floor(bars / pattern.bars);
  const middle = rounds >= 2 ? Math.floor(rounds / 2) * pattern.bars : Math.floor(bars / 2);
  const cut = afterBars ?? middle;
  const id = nanoid(8);
  const done = state.edit(
    "Split section",
    (project) => edits.splitSection(project, entry.id, cut, id),
    {
      message: `Section split after ${plural(cut, "bar")}`,
    },
  );
  if (done) select(store, id);
  else store.getState().announce("A section of one bar cannot be split");
}

/** Gives the current section a pattern of its own to vary. */
export function ownPattern(store: SessionStore): void {
  const state = store.getState();
  const entry = currentSection(state);
  if (!entry) return;
  const id = nanoid(8);
  const done = state.edit(
    "Pattern of its own",
    (project) => edits.makeSectionOwn(project, entry.id, id),
    (after) => ({ message: `The section plays ${patternOf(after, id).name} now, a copy to vary` }),
  );
  if (done) store.getState().setPattern(id);
}

/** The current section again after itself, with a pattern that holds what some of its tracks play. */
export function cloneWithTracks(store: SessionStore, tracks: ReadonlySet<string>): void {
  const state = store.getState();
  const entry = currentSection(state);
  if (!entry) return;
  const [id, pattern] = [nanoid(8), nanoid(8)];
  const done = state.edit(
    "Clone section",
    (project) => edits.cloneSection(project, entry.id, { id, pattern, tracks }),
    (after) => ({
      message: `Section cloned with ${plural(tracks.size, "track")} as ${patternOf(after, pattern).name}`,
    }),
  );
  if (!done) return;
  select(store, id);
  store.getState().setPattern(pattern);
}

/** Switches between playing the song and the current pattern. */
export function switchPlays(store: SessionStore): void {
  const { plays, setArranging, announce } = store.getState();
  const next = plays === "song" ? "pattern" : "song";
  setArranging({ plays: next });
  announce(next === "song" ? "The song plays" : "The pattern plays");
}

/** Plays the song from the current section. */
export function playSection(desk: SoundDesk): void {
  const state = desk.store.getState();
  const section = songSections(state.project).find(({ entry }) => entry?.id === state.section);
  if (section) void playSongFrom(desk, section.at);
}

/** While the song plays goes to a section with the next bar, or at once; from stop plays from it. */
export function jumpTo(desk: SoundDesk, id: string, when: "bar" | "now"): void {
  const { store, engine } = desk;
  const { project, songLoop, setArranging, announce } = store.getState();
  const section = songSections(project).find(({ entry }) => entry?.id === id);
  if (!section) return;
  if (!engine.isPlaying) {
    void playSongFrom(desk, section.at);
    return;
  }
  const looped = songLoop && section.at >= songLoop[0] && section.at < songLoop[1];
  setArranging({ plays: "song", ...(!looped && songLoop && { songLoop: null }) });
  engine.switchTo(
    { range: looped ? songLoop : null },
    section.at - (looped ? songLoop[0] : 0),
    when,
  );
  announce(`To ${sectionName(section)} ${when === "bar" ? "with the next bar" : "at once"}`);
}

/** Goes on to the section after the one that plays. */
export function jumpOn(desk: SoundDesk, when: "bar" | "now"): void {
  const { project } = desk.store.getState();
  const sections = songSections(project);
  const at = desk.engine.position()?.section;
  if (sections.length === 0) {
    desk.store.getState().announce("The song has no sections yet");
    return;
  }
  const next = nth(sections, at === null || at === undefined ? 0 : (at + 1) % sections.length);
  jumpTo(desk, must(next.entry, "a section of the song").id, when);
}

/** While the song plays goes to a tick of it at once. */
export function playSongAt(desk: SoundDesk, tick: Ticks): void {
  if (desk.engine.isPlaying && desk.store.getState().plays === "song")
    void playSongFrom(desk, tick);
}

/** Where playing the song starts: the beginning of a bar. */
export function setSongStart(store: SessionStore, tick: Ticks): void {
  store.getState().setArranging({ songStart: Math.max(0, Math.round(tick)) });
}

/** Loops a stretch of the song, or all of it. Empty stretches are none. */
export function loopSong(store: SessionStore, range: LoopRange | null): void {
  const { setArranging } = store.getState();
  setArranging({ songLoop: range && range[1] > range[0] ? range : null });
}

/** Loops a stretch of the current pattern, or all of it. */
export function loopPattern(store: SessionStore, range: LoopRange | null): void {
  const { pattern, project, setArranging } = store.getState();
  const total = currentTicks({ project, pattern });
  const held = range && ([Math.max(0, range[0]), Math.min(total, range[1])] as const);
  const patternLoop = held && held[1] > held[0] ? { pattern, range: held } : null;
  setArranging({ patternLoop });
}

/**
 * Loops what is selected: sections where the song plays, else the selected stretch or notes of the pattern;
 * what is looped already is let go.
 */
export function loopSelected(store: SessionStore): void {
  const state = store.getState();
  const { plays, songLoop, patternLoop, pattern, announce } = state;
  if (plays === "song") {
    if (songLoop) {
      loopSong(store, null);
      announce("The whole song plays");
      return;
    }
    const ids = new Set(selectedSections(state).map((entry) => entry.id));
    const chosen = songSections(state.project).filter(({ entry }) => entry && ids.has(entry.id));
    const last = chosen.at(-1);
    if (!last) {
      announce("Select sections first to loop them");
      return;
    }
    loopSong(store, [nth(chosen, 0).at, last.at + last.length]);
    announce(`${plural(chosen.length, "section")} looped`);
    return;
  }
  if (patternLoop?.pattern === pattern) {
    loopPattern(store, null);
    announce("The whole pattern plays");
    return;
  }
  const stretch = currentStretch(state);
  if (stretch) loopPattern(store, [stretch.from, stretch.to]);
  else {
    const bar = barOfCaret(state);
    loopPattern(store, bar);
  }
  announce("A stretch of the pattern is looped");
}

function barOfCaret(state: Session): LoopRange {
  const bar = barTicks(currentMetre(state));
  const from = Math.floor(Math.max(0, state.caret.tick) / bar) * bar;
  return [from, from + bar];
}

/**
 * A stretch as it is typed: whole bars `5–8`, the last of them included, or in a pattern positions `1.1.1–2.3.1`. In
 * ticks of the song where that plays, else of the current pattern; null where it is none.
 */
export function parseLoop(state: Session, text: string): LoopRange | null {
  const ends = text.split(/\s*[–—-]\s*/);
  if (ends.length !== 2 || ends.some((end) => end.trim() === "")) return null;
  const whole = ends.map((end) => (/^\s*\d+\s*$/.test(end) ? Number(end) : null));
  const [first, last] = whole;
  if (state.plays === "song") {
    if (typeof first !== "number" || typeof last !== "number") return null;
    const [from, to] = [barStart(state.project, first), barStart(state.project, last + 1)];
    return from !== null && to !== null && to > from ? [from, to] : null;
  }
  const metre = currentMetre(state);
  const from = parsePosition(nth(ends, 0), metre);
  const to = typeof last === "number" ? last * barTicks(metre) : parsePosition(nth(ends, 1), metre);
  if (from === null || to === null || to <= from || from < 0) return null;
  return from < currentTicks(state) ? [from, to] : null;
}

/** Where a bar of the song begins, from 1; its end for the one after the last, null beyond. */
function barStart(project: Project, bar: number): Ticks | null {
  let before = 0;
  for (const { pattern, at, length } of songSections(project)) {
    const own = patternBar(project, pattern);
    const bars = length / own;
    if (bar - 1 - before <= bars) return bar < 1 ? null : at + (bar - 1 - before) * own;
    before += bars;
  }
  return null;
}

/** What is looped, as it is typed; empty where all plays. */
export function loopText(state: Session): string {
  const { plays, project, songLoop, patternLoop, pattern } = state;
  if (plays === "song") {
    if (!songLoop) return "";
    return `${songBar(project, songLoop[0])}–${songBar(project, songLoop[1] - 1)}`;
  }
  if (patternLoop?.pattern !== pattern) return "";
  const metre = currentMetre(state);
  const [from, to] = patternLoop.range;
  const bar = barTicks(metre);
  return from % bar === 0 && to % bar === 0
    ? `${from / bar + 1}–${to / bar}`
    : `${formatPosition(from, metre)}–${formatPosition(to, metre)}`;
}

/** Loops what was typed, nothing where nothing was; false for what is no stretch. */
export function loopTyped(store: SessionStore, text: string): boolean {
  const state = store.getState();
  const range = text.trim() === "" ? null : parseLoop(state, text);
  if (text.trim() !== "" && !range) return false;
  if (state.plays === "song") loopSong(store, range);
  else loopPattern(store, range);
  return true;
}

/** The length of the song, or of what it would be, in seconds; its sections' tempos counted. */
export const songSeconds = (project: Project): number => timeMap(project).seconds;

/** Another performance of what sounds by chance. */
export function newSeed(store: SessionStore): void {
  const { project, edit } = store.getState();
  const seed = 1 + Math.floor(Math.random() * 999_999);
  const next = seed === project.seed ? seed + 1 : seed;
  edit("Another performance", (project) => edits.setSeed(project, next), {
    message: `Performance ${next}: what sounds by chance is drawn anew`,
  });
}

/** Patterns longer than this are offered to be cut. */
const LONG_BARS = 8;
/** Lengths that a long pattern is cut into, in bars. */
export const CUTS = [2, 4, 8] as const;

/** Whether a pattern is long enough to be worth cutting. */
export const isLong = ({ bars }: { bars: number }): boolean => bars > LONG_BARS;

/** Cuts the current pattern into patterns of so many bars and makes the song of them. */
export function cutCurrentPattern(store: SessionStore, bars: number): void {
  const { pattern, project, edit } = store.getState();
  const { name } = patternOf(project, pattern);
  const ids = { pattern: () => nanoid(8), section: () => nanoid(8) };
  const done = edit(
    `Cut ${name}`,
    (project) => edits.cutPattern(project, pattern, bars, ids),
    (after) => ({
      selection: [],
      message: `${name} cut into ${plural(after.patterns.length - project.patterns.length + 1, "pattern")}, ${plural(after.song.length, "section")}`,
    }),
  );
  const first = store.getState().project.song[0];
  if (done && first) goToSection(store, first.id);
}
