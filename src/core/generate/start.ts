import { type Bpm, must, nth, seeded } from "../base";
import type { Key } from "../pitch";
import { type Note, type Part, type Project, createProject, makeTrack, metreOf } from "../score";
import { generateProgressions } from "./chords/progressions";
import { chordStretches } from "./common/stretches";
import { generateDrumIdeas } from "./drums/ideas";
import { generateIdeas } from "./ideas";

/** What a project may begin with: nothing; a beat; a beat with a chord line, chords and bass. */
export const STARTS = ["empty", "beat", "band"] as const;
export type Start = (typeof STARTS)[number];

export interface StartOptions {
  start: Start;
  name: string;
  tempo: Bpm;
  /** Id of the kit's sound, and what it is called. */
  kit: { id: string; label: string };
  /** A way of playing drums, by its id (`DRUM_STYLES`). */
  style: string;
  seed: number;
}

/** Roots that hands find at once, and the two modes that most beats are in. */
const KEYS: readonly Key[] = [9, 2, 4, 7, 0, 5].flatMap((root) => [
  { root, scale: "minor" },
  { root, scale: "dorian" },
]);
const BARS = { empty: 2, beat: 2, band: 4 } as const;
/** Pads that nearly every beat has, and of these one beside them (General MIDI percussion keys). */
const MAIN_PADS = [36, 38, 42, 46];
const COLOURS = [37, 39, 70];
/** Registers as the instruments are played: a bass from C2, chords from G3 (MIDI numbers). */
const [BASS, KEYS_LOW] = [{ low: 36, high: 55 }, 55];

/**
 * A project to go on with. Pure: the same options give the same project. Throws a RangeError for a style
 * or seed that is none.
 */
export function startOf({ start, name, tempo, kit, style, seed }: StartOptions): Project {
  const key = start === "band" ? nth(KEYS, Math.floor(seeded(seed)() * KEYS.length)) : undefined;
  const plain = createProject({ name, tempo, bars: BARS[start], ...(key && { key }) });
  const tracks = plain.tracks.map((track) =>
    track.kind === "drums" ? { ...track, sound: kit.id, name: kit.label } : track,
  );
  const project = { ...plain, tracks };
  if (start === "empty") return project;
  const beat = withNotes(project, "drums", drumsOf(project, style, seed));
  return start === "beat" ? beat : withBand(beat, seed);
}

function drumsOf({ tracks, metre }: Project, style: string, seed: number): readonly Note[] {
  const own = must(tracks.find(({ kind }) => kind === "drums")).lanes;
  const played = [...MAIN_PADS, nth(COLOURS, Math.floor(seeded(seed)() * COLOURS.length))];
  const lanes = own.filter(({ pitch }) => played.includes(pitch));
  const ideas = generateDrumIdeas({
    lanes: lanes.map(({ pitch, grid }) => ({ pitch, grid, period: null })),
    metre,
    bars: 2,
    style,
    count: 1,
    seed,
  });
  return must(ideas[0]).notes;
}

/** A chord line, chords that are held, and a bass under them. */
function withBand(project: Project, seed: number): Project {
  const keys = makeTrack({ id: "keys", kind: "melody", name: "Glass keys", sound: "glass-keys" });
  const first = nth(project.patterns, 0);
  const [bars, length] = [BARS.band, nth(first.parts, 0).length];
  const { key } = project;
  const metre = metreOf(project, first);
  const [line] = generateProgressions({ key, metre, bars, count: 1, seed, low: KEYS_LOW });
  const { chords, notes } = must(line);
  const part: Part = { ...nth(first.parts, 1), track: keys.id, notes: [], length };
  const pattern = { ...first, chords, parts: [...first.parts, part] };
  const full = { ...project, tracks: [...project.tracks, keys], patterns: [pattern] };
  const stretches = chordStretches(full, pattern);
  const bass = generateIdeas({
    ...{ role: "bass", key, metre, bars, chords: stretches, count: 1, seed },
    ...BASS,
  });
  return withNotes(withNotes(full, keys.id, notes), "bass", must(bass[0]).notes);
}

/** The notes of a part of the first pattern, again and again to its end. */
function withNotes(project: Project, track: string, notes: readonly Note[]): Project {
  const [first, ...others] = project.patterns;
  const parts = must(first).parts.map((part) => {
    if (part.track !== track) return part;
    const last = notes.reduce((end, { start }) => Math.max(end, start), 0);
    const bar = part.length / must(first).bars;
    const round = Math.max(bar, Math.ceil((last + 1) / bar) * bar);
    const own: Note[] = [];
    for (let at = 0; at < part.length; at += round)
      for (const note of notes)
        if (at + note.start < part.length)
          own.push({
            ...note,
            id: `${track}-${own.length}`,
            start: at + note.start,
            length: Math.min(note.length, part.length - at - note.start),
          });
    return { ...part, notes: own };
  });
  return { ...project, patterns: [{ ...must(first), parts }, ...others] };
}
