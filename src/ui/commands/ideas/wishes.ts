import { type Ticks, nth } from "@/core/base";
import { barTicks, beatsInBar } from "@/core/time";
import {
  type Note,
  type PartAddress,
  type Project,
  metreOf,
  partOf,
  patternBar,
  patternOf,
  patternTicks,
  trackOf,
} from "@/core/score";
import { parseGroove } from "@/core/groove";
import { lanePeriod } from "@/core/playback";
import {
  chordStretches,
  type Contour,
  type DrumIdeaOptions,
  type Idea,
  type IdeaOptions,
  type RhythmSource,
  grooveSource,
  heightsOf,
  topLine,
} from "@/core/generate";
import { chosenIds } from "./kept";
import { currentMetre, currentPart, effectiveOf, sheetPattern } from "../../state/current";
import { A_GROOVE, NOTHING_KEPT, TAPS, type Settings } from "../../state/ideas";
import type { Session } from "../../state/store";
import { VALUES, isPhrased } from "./settings";

/** Most bars that an idea fills. */
const MAX_BARS = 64;

/** Whole bars of a part that ideas fill. */
export function barsOf(project: Project, at: PartAddress): number {
  const pattern = patternOf(project, at.pattern);
  const bar = patternBar(project, pattern);
  return Math.max(1, Math.min(MAX_BARS, pattern.bars, Math.ceil(partOf(project, at).length / bar)));
}

/** A part or a lane that a rhythm may be taken from, by the id that settings keep. */
export function sourceOf(id: string): { track: string; pitch: number | null } {
  const [track, pitch] = id.split(" ");
  return { track: track!, pitch: pitch === undefined ? null : Number(pitch) };
}

/** The rhythm of another part, as it is heard, of a groove or of taps, over the bars asked for; null where there is none. */
function rhythmSource(state: Session, s: Settings, bars: number): RhythmSource | null {
  const { track: id, pitch } = sourceOf(s.source);
  const { project, pattern } = state;
  const how = s.how as RhythmSource["how"];
  const own = patternOf(project, pattern);
  if (!s.how) return null;
  if (s.source === TAPS) {
    const hits = tapsOver(s.taps, barTicks(metreOf(project, own)), bars);
    return hits.length > 0 ? { how, hits } : null;
  }
  if (s.source === A_GROOVE) {
    const groove = parseGroove(s.groove);
    return groove && grooveSource(groove, how, metreOf(project, own), bars);
  }
  if (!project.tracks.some((track) => track.id === id)) return null;
  const { notes, length } = effectiveOf(state, id);
  const end = Math.min(patternTicks(project, own), bars * barTicks(metreOf(project, own)));
  const track = trackOf(project, id);
  const hits: Ticks[] = [];
  const pitches: number[] = [];
  for (const note of notes) {
    if (pitch !== null && note.pitch !== pitch) continue;
    const period = track.kind === "drums" ? lanePeriod(track, note.pitch, length) : length;
    for (let at = note.start; at < end; at += period) {
      hits.push(Math.max(0, at));
      pitches.push(note.pitch);
    }
  }
  if (hits.length === 0) return null;
  return { how, hits, ...(track.kind === "melody" && { pitches }) };
}

/** What was tapped, over all bars: one, two, four … of them come again until the end. */
export function tapsOver(taps: readonly Ticks[], bar: Ticks, bars: number): Ticks[] {
  const tapped = Math.floor(Math.max(0, ...taps) / bar) + 1;
  const round = bar * Math.min(bars, 2 ** Math.ceil(Math.log2(tapped)));
  const hits: Ticks[] = [];
  for (let at = 0; at < bars * bar; at += round)
    for (const tap of taps) if (tap < round && at + tap < bars * bar) hits.push(at + tap);
  return hits;
}

/** The notes that are kept from: of the previewed idea, else of the part. */
export function keptNotes(state: Pick<Session, "preview"> & Parameters<typeof currentPart>[0]) {
  return state.preview?.notes ?? currentPart(state).notes;
}

/** What a line is asked for with, by the settings and by what is kept. */
export function lineOptions(
  state: Session,
  s: Settings,
  { bars, count, like }: { bars: number; count: number; like?: Idea | undefined },
): Partial<IdeaOptions> {
  const all: readonly Note[] = keptNotes(state);
  // Of a part without notes nothing can be kept, whatever was locked on another.
  const keep = all.length > 0 ? state.ideas.keep : NOTHING_KEPT;
  const notes = topLine(all);
  const { low, high, density, rests, leap, repetition, softest, loudest, voices, seed } = s;
  const { syncopation } = s;
  const metre = currentMetre(state);
  const ids = chosenIds(state);
  const contour =
    keep.contour && notes.length > 1
      ? {
          contour: "drawn" as Contour,
          drawn: heightsOf(notes, bars * barTicks(metre)),
          over: "line" as const,
        }
      : { contour: s.contour as Contour, drawn: s.drawn };
  return {
    ...{ low, high, density, rests, leap, repetition, softest, loudest, voices, seed, bars, count },
    role: s.role as IdeaOptions["role"],
    approach: s.approach,
    chromatic: s.chromatic,
    syncopation,
    follow: rhythmSource(state, s, bars),
    only: ids ? { notes: currentPart(state).notes, ids } : null,
    key: state.project.key,
    metre,
    swing: currentPart(state).grid,
    pool: s.pool as IdeaOptions["pool"],
    form: isPhrased(s.form) ? "free" : (s.form as IdeaOptions["form"]),
    phrases: isPhrased(s.form)
      ? {
          form: s.form,
          bars: s.phraseBars,
          ...contour,
          climax: s.climax,
          strict: s.strict,
          pickup: s.pickup,
        }
      : null,
    startOn: s.startOn as IdeaOptions["startOn"],
    endOn: s.endOn as IdeaOptions["endOn"],
    shape: s.shape as IdeaOptions["shape"],
    chords: chordStretches(state.project, sheetPattern(state)),
    values: VALUES.map(({ value, kind }, i) => ({ value, kind, weight: nth(s.weights, i) })),
    rhythm: keep.rhythm && s.role !== "pad" ? notes : null,
    pitches: keep.pitches && s.role === "melody" ? notes.map((note) => note.pitch) : null,
    keepBars: keep.bars.filter((b) => b < bars),
    kept: all,
    like: like ? { notes: like.notes, amount: 35 } : null,
  };
}

/** What a beat is asked for with. */
export function drumOptions(
  state: Session,
  s: Settings,
  { bars, count, lanes: asked }: { bars: number; count: number; lanes: ReadonlySet<number> },
): Partial<DrumIdeaOptions> {
  const track = trackOf(state.project, state.track);
  const lanes = track.lanes.filter((lane) => asked.has(lane.pitch));
  const { density, syncopation, spread, repetition, softest, loudest, seed, style } = s;
  const metre = currentMetre(state);
  return {
    ...{ density, syncopation, spread, repetition, softest, loudest, seed, style, bars, count },
    metre,
    fill: s.allLanes ? Math.min(s.fill, Math.floor(beatsInBar(metre))) : 0,
    lanes: lanes.map(({ pitch, grid, steps }) => ({
      pitch,
      grid,
      period: steps ? lanePeriod(track, pitch, 0) : null,
    })),
  };
}
