import { nextFree, nameOf } from "../import/names";
import { type Ticks, clamp, nth } from "../../base";
import { DEFAULT_GRID, barTicks } from "../../time";
import { padName } from "../../pitch";
import {
  type ChordMark,
  LIMITS,
  type Project,
  type Track,
  makeLane,
  makeNote,
  makePart,
  makeTrack,
  sortNotes,
} from "../../score";
import { FormatError } from "../container/bytes";
import { arrangeChanges, MAX_BARS } from "../import/song";
import { Losses } from "../import/losses";
import { soundOfProgram } from "../common/programs";
import { readPart, type ReadPart } from "./part";
import { keyOf, type Signature } from "./keys";
import { child, childrenOf, parseXml, textOf } from "./tree";

/** How many parts are read. */
const MAX_PARTS = LIMITS.tracks;

/**
 * Reads a score (MusicXML 1.0 to 4.0, partwise) as a project: parts as tracks, unpitched ones as drums, repeats
 * played out, tempo and metre where they change as a song. Throws a `FormatError` that says what is wrong.
 */
export function readMusicXml(
  text: string,
  name = "Imported",
): { project: Project; notKept: string[] } {
  const score = parseXml(text);
  if (score.name === "score-timewise")
    throw new FormatError("The score is written bar by bar (score-timewise); part by part is read");
  if (score.name !== "score-partwise")
    throw new FormatError(`This is no score: the document is <${score.name.slice(0, 40)}>`);
  const lost = new Losses();
  const listed = childrenOf(child(score, "part-list"), "score-part");
  const all = childrenOf(score, "part");
  if (all.length === 0) throw new FormatError("The score has no parts");
  lost.add("part", `beyond the ${MAX_PARTS} that fit`, Math.max(0, all.length - MAX_PARTS));
  const parts = all.slice(0, MAX_PARTS).map((part) =>
    readPart(
      part,
      listed.find((one) => one.attributes.id === part.attributes.id),
      lost,
    ),
  );
  // What holds for all is said in any of them, mostly in the first.
  const first = nth(parts, 0);
  const metre = first.metres[0]?.value ?? { beats: 4, unit: 4 };
  const tempos = parts.flatMap((part) => part.tempos).sort((a, b) => a.tick - b.tick);
  const tempo = tempos.find(({ tick }) => tick === 0)?.value ?? tempos[0]?.value ?? 120;
  const bar = barTicks(metre);
  const end = Math.max(1, ...parts.map((part) => part.end));
  const bars = clamp(Math.ceil(end / bar), 1, MAX_BARS);
  const limit = bars * bar;
  const tracks: Track[] = [];
  const made = parts.flatMap((part) => divided(part)).filter(({ notes }) => notes.length > 0);
  const written = made.map((part, i) => {
    const track = trackOf(
      part,
      i,
      tracks.map((track) => track.name),
    );
    tracks.push(track);
    const inside = part.notes.filter((note) => note.start < limit).slice(0, LIMITS.notesPerPart);
    lost.add("note", "beyond what a part holds", part.notes.length - inside.length);
    const notes = inside.map(({ drum: _, ...note }, n) =>
      makeNote({ ...note, id: `${track.id}n${n + 1}` }),
    );
    return { ...makePart(track.id, limit), notes: sortNotes(notes) };
  });
  if (made.length === 0) throw new FormatError("The score holds no notes");
  const chords = chordsOf(parts, limit);
  const whole: Project = {
    name: nameOf(titleOf(score) || name) || "Imported",
    tempo,
    metre,
    key: keyOf(scoreKey(parts)),
    tracks,
    patterns: [{ id: "a", name: "Main", bars, ...(chords && { chords }), parts: written }],
    song: [],
  };
  const changes = {
    tempos: tempos.map(({ tick, value }) => ({ tick, value })),
    metres: first.metres.slice(1),
    marks: marksOf(parts),
  };
  return {
    project: arrangeChanges(whole, changes, (tick) => tick, lost),
    notKept: lost.sentences(),
  };
}

/** The rehearsal marks of all parts, one at a place, in order. */
function marksOf(parts: readonly ReadPart[]): { tick: Ticks; value: string }[] {
  const all = parts.flatMap(({ marks }) => marks.map(({ tick, value }) => [tick, value] as const));
  return [...new Map(all)]
    .map(([tick, value]) => ({ tick, value: nameOf(value) }))
    .sort((a, b) => a.tick - b.tick);
}

const titleOf = (score: ReturnType<typeof parseXml>) =>
  textOf(child(score, "work"), "work-title") || textOf(score, "movement-title");

/** A part with both, hits and pitches, is two tracks. */
function divided(part: ReadPart): ReadPart[] {
  const hits = part.notes.filter((note) => note.drum);
  if (hits.length === 0 || hits.length === part.notes.length) return [part];
  return [
    { ...part, notes: part.notes.filter((note) => !note.drum) },
    { ...part, name: `${part.name} drums`, notes: hits },
  ];
}

function trackOf(part: ReadPart, index: number, taken: readonly string[]): Track {
  const drums = nth(part.notes, 0).drum;
  const pitches = [...new Set(part.notes.map((note) => note.pitch))].sort((a, b) => a - b);
  const name = nextFree(nameOf(part.name) || (drums ? "Drums" : `Part ${index + 1}`), taken);
  return {
    ...makeTrack({
      id: `t${index + 1}`,
      kind: drums ? "drums" : "melody",
      name,
      sound: drums ? "harbour" : soundOfProgram(part.program ?? 0),
    }),
    lanes: drums
      ? pitches.slice(0, LIMITS.lanes).map((pitch) => ({
          ...makeLane(pitch, DEFAULT_GRID),
          name: nameOf(part.drumNames.get(pitch) ?? "") || padName(pitch),
        }))
      : [],
  };
}

/** The chords of the score, of several at one time the last. */
function chordsOf(parts: readonly ReadPart[], end: number): ChordMark[] | null {
  const at = new Map(
    parts.flatMap((part) => part.chords).map(({ tick, name }) => [Math.round(tick), name]),
  );
  const list = [...at]
    .filter(([tick]) => tick >= 0 && tick < end)
    .sort(([a], [b]) => a - b)
    .slice(0, LIMITS.chords);
  if (list.length === 0) return null;
  return list.map(([start, name], i) => ({
    ...{ id: `c${i + 1}`, start, name },
    ...{ inversion: 0, spread: "close" as const },
  }));
}

/** The key of a score: of a part with pitches, since drums have none of their own. */
const scoreKey = (parts: readonly ReadPart[]): Signature | null => {
  const pitched = parts.find(({ key, notes }) => key && notes.some(({ drum }) => !drum));
  return (pitched ?? parts.find(({ key }) => key))?.key ?? null;
};
