import { type MidiPitch, type Random, type Ticks, bell, seeded } from "../base";
import { PPQ, barTicks } from "../time";
import { scalePitches } from "../pitch";
import { type Note, shapeOf, sortNotes } from "../score";
import { backing } from "./accompany/backing";
import { bassLine } from "./accompany/bass";
import {
  Walk,
  nearestIndex,
  nextIndex,
  reachBack,
  restingIndex,
  startIndex,
  within,
} from "./line/walk";
import { checkOptions, type IdeaOptions } from "./options";
import {
  barAt,
  exactly,
  givenPlaces,
  keptPlaces,
  newPlaces,
  rhythmPlaces,
  type NoteSlot,
} from "./rhythm/places";
import { phrasedLine } from "./phrase/phrases";
import { PHRASE_DEFAULTS, type PhraseWish } from "./phrase/options";
import { classesAt, toneClasses } from "./common/tones";
import { swung } from "./rhythm/swung";
import { addVoices } from "./line/voices";

export { IDEA_DEFAULTS, type IdeaOptions } from "./options";

/** One generated line. The same options and seed give the same notes everywhere. */
export interface Idea {
  seed: number;
  notes: Note[];
  /** What it is, in a sentence, where it was made of phrases. */
  says?: string;
}

/**
 * A batch of lines in a key, none alike: each fills its bars exactly with the wanted note values,
 * stays in scale (or chord) and register, favours steps over leaps, answers large leaps by a step
 * back, lets its motif return varied and ends where it is asked to. What is locked stays exactly: a
 * rhythm, pitches, or bars. Throws a RangeError that names every option out of range.
 */
export function generateIdeas(options: Partial<IdeaOptions> = {}): Idea[] {
  const full = checkOptions(options);
  const ideas: Idea[] = [];
  const known = new Set<string>();
  // More like a line means: like it, and not the same.
  if (full.like) known.add(shapeOf(full.like.notes));
  // So do other pitches for some notes.
  if (full.only) known.add(shapeOf(full.only.notes));
  let seed = full.seed;
  // A narrow register can hold fewer different lines than asked for; then there are fewer.
  for (let tries = 0; ideas.length < full.count && tries < full.count * 20; tries++) {
    const straight = ideaOf(full, seed);
    const idea = { ...straight, notes: swung(full, straight.notes, barTicks(full.metre)) };
    const shape = shapeOf(idea.notes);
    if (!known.has(shape)) ideas.push(idea);
    known.add(shape);
    seed = (seed + 1) % 2 ** 31;
  }
  return ideas;
}

/**
 * Of a line whose every place is given, what is to change: all other notes stay as they are, and what was struck
 * together with one goes as far as it does.
 */
function onlyThose(
  o: IdeaOptions,
  { notes, ids }: NonNullable<IdeaOptions["only"]>,
  line: readonly Note[],
): Note[] {
  const made = new Map(line.map((note) => [note.start, note]));
  const chosen = new Set(ids);
  const tops = new Map(
    topLine(notes.filter(({ id }) => chosen.has(id))).map((note) => [note.start, note.pitch]),
  );
  // Two notes of one pitch at one time would be one.
  const taken = new Set<string>();
  const placeOf = ({ start }: Note, pitch: MidiPitch) => `${start} ${pitch}`;
  for (const note of notes) if (!chosen.has(note.id)) taken.add(placeOf(note, note.pitch));
  const inScale = scalePitches(o.key);
  const free = (note: Note, pitch: MidiPitch) => {
    const left = inScale.filter((one) => !taken.has(placeOf(note, one)));
    return left[nearestIndex(left, pitch)] ?? note.pitch;
  };
  return [
    ...sortNotes(
      notes.map((note): Note => {
        const fresh = made.get(note.start);
        if (!chosen.has(note.id) || !fresh) return note;
        const wanted = note.pitch + fresh.pitch - tops.get(note.start)!;
        const same = wanted === note.pitch && !taken.has(placeOf(note, wanted));
        const pitch = same ? wanted : free(note, wanted);
        taken.add(placeOf(note, pitch));
        return pitch === note.pitch ? note : { ...note, id: `${fresh.id}-${note.pitch}`, pitch };
      }),
    ),
  ];
}

function ideaOf(o: IdeaOptions, seed: number): Idea {
  // Varied is a line as it was made; of a line's notes only some, by the rules of phrases.
  if (o.only) return phrasedIdea(o, o.phrases ?? { ...PHRASE_DEFAULTS, form: "phrases" }, seed);
  // More like a bass line is varied as any line; more like chords are others.
  if (o.role !== "melody" && !(o.like && o.role === "bass")) return saidIdea(o, seed);
  if (o.phrases && !o.like) return phrasedIdea(o, o.phrases, seed);
  return { seed, notes: makeIdea(o, seed) };
}

/** A bass line, or chords as they accompany. */
function saidIdea(o: IdeaOptions, seed: number): Idea {
  const random = seeded(seed);
  const { notes: made, says } = o.role === "bass" ? bassLine(o, random) : backing(o, random);
  const bar = barTicks(o.metre);
  const loud = new Map<Ticks, number>();
  for (const { start, velocity } of o.rhythm ?? []) loud.set(start, velocity);
  const kept = (start: Ticks) => o.keepBars.includes(barAt(start, bar));
  const fresh = made.filter(({ start }) => !kept(start));
  const notes = fresh.map((note, i): Note => {
    // What is struck together is as loud.
    let velocity = loud.get(note.start);
    velocity ??= velocityAt(note.start, o.bars * bar, bar, o, random);
    loud.set(note.start, velocity);
    return { id: `g${seed}-${i + 1}`, ...note, velocity, pan: 0, tune: 0, slide: false };
  });
  const stay = o.kept
    .filter(({ start }) => kept(start))
    .map((note, i) => ({ ...note, id: `g${seed}-k${i + 1}` }));
  return { seed, notes: [...sortNotes([...stay, ...notes])], says };
}

function phrasedIdea(o: IdeaOptions, wish: PhraseWish, seed: number): Idea {
  const { notes: made, says } = phrasedLine(o, wish, seed);
  const random = seeded(seed ^ 0x5bd1e995);
  const bar = barTicks(o.metre);
  const line = made.map(({ fixed, velocity: given, ...note }, i): Note => {
    const id = `g${seed}-${i + 1}`;
    if (fixed) return { ...fixed, id };
    const velocity = given ?? velocityAt(Math.max(0, note.start), o.bars * bar, bar, o, random);
    return { id, ...note, velocity, pan: 0, tune: 0, slide: false };
  });
  if (o.only) return { seed, notes: onlyThose(o, o.only, line), says };
  const places = made.map(({ pitch: _, ...place }): NoteSlot => {
    return { ...place, bar: barAt(place.start, bar) };
  });
  return { seed, notes: [...sortNotes(o.voices > 1 ? addVoices(line, places, o) : line)], says };
}

function makeIdea(o: IdeaOptions, seed: number): Note[] {
  const random = seeded(seed);
  const bar = barTicks(o.metre);
  const places = placesOf(o, bar, random);
  const pitches = pitchesOf(o, places, bar, random);
  const whole = o.bars * bar;
  const line = places.map((place, i): Note => {
    const id = `g${seed}-${i + 1}`;
    if (place.fixed) return { ...place.fixed, id };
    return {
      id,
      start: place.start,
      length: place.length,
      pitch: pitches[i]!,
      velocity: place.velocity ?? velocityAt(place.start, whole, bar, o, random),
      pan: 0,
      tune: 0,
      slide: false,
    };
  });
  return [...sortNotes(o.voices > 1 ? addVoices(line, places, o) : line)];
}

function placesOf(o: IdeaOptions, bar: Ticks, random: Random): NoteSlot[] {
  if (o.like) return variedPlaces(o, o.like, bar, random);
  if (o.rhythm) return rhythmPlaces(o, o.rhythm, bar);
  const places = newPlaces(o, bar, random);
  if (!o.pitches) return places;
  const fixed = places.filter((place) => place.fixed).length;
  return exactly(places, o.pitches.length + fixed, random);
}

/** The places of a line that is varied: a bar gets a new rhythm now and then. */
function variedPlaces(
  o: IdeaOptions,
  like: NonNullable<IdeaOptions["like"]>,
  bar: Ticks,
  random: Random,
): NoteSlot[] {
  const old = topLine(like.notes);
  return Array.from({ length: o.bars }, (_, b) => {
    if (o.keepBars.includes(b)) return keptPlaces(o.kept, b, bar);
    const again = !o.rhythm && !o.pitches && random() * 100 < o.like!.amount / 2;
    if (again) {
      const one = newPlaces({ ...o, bars: 1, keepBars: [], follow: null }, bar, random);
      return one.map((place) => ({ ...place, start: place.start + b * bar, bar: b }));
    }
    return givenPlaces(old, bar, o.bars).filter((place) => place.bar === b);
  }).flat();
}

/** Of notes that begin together only the highest: the line of a line in several voices. */
export function topLine(notes: readonly Note[]): Note[] {
  const top = new Map<number, Note>();
  for (const note of notes) {
    const other = top.get(note.start);
    if (!other || note.pitch > other.pitch) top.set(note.start, note);
  }
  return [...top.values()].sort((a, b) => a.start - b.start);
}

function pitchesOf(o: IdeaOptions, places: readonly NoteSlot[], bar: Ticks, random: Random) {
  if (o.pitches) {
    let next = 0;
    return places.map((place) => (place.fixed ? place.fixed.pitch : o.pitches![next++]!));
  }
  const scale = scalePitches(o.key, o.low, o.high);
  const chordal = o.pool === "chords" && o.chords.length > 0;
  const all = Array.from({ length: o.high - o.low + 1 }, (_, i) => o.low + i);
  const pitches = chordal
    ? all.filter((p) => o.chords.some((chord) => chord.classes.includes(p % 12)))
    : scale;
  // A register that holds no tone of any chord falls back on the scale.
  const walk = new Walk({
    pitches: pitches.length > 0 ? pitches : scale,
    leap: o.leap,
    classesAt: (tick) => classesAt(o, tick),
    chordal: chordal && pitches.length > 0,
  });
  const old = o.like ? new Map(topLine(o.like.notes).map((n) => [n.start, n.pitch])) : null;
  return pitchLine(places, walk, o, bar, old, random);
}

function pitchLine(
  places: readonly NoteSlot[],
  walk: Walk,
  o: IdeaOptions,
  bar: Ticks,
  old: ReadonlyMap<number, number> | null,
  random: Random,
): number[] {
  const line: number[] = [];
  const motif = new Map<number, number>();
  const first = places[0];
  const last = places[places.length - 1];
  const starts = first && toneClasses(o, o.startOn, first.start);
  const ends = last && toneClasses(o, o.endOn, last.start);
  const reach = reachBack(walk, places, ends ?? null);
  let bars = -1;
  let shift: number | null = null;
  places.forEach((place, i) => {
    if (place.bar !== bars) {
      bars = place.bar;
      const source = o.form === "question and answer" ? bars > 1 && bars % 2 === 0 : bars > 0;
      const returns = o.form !== "free" && source && random() * 100 < o.repetition;
      shift = returns ? Math.round(bell(random) * 3) : null;
    }
    if (place.fixed) {
      line.push(nearestIndex(walk.pitches, place.fixed.pitch));
      return;
    }
    const at = i > 0 ? line[i - 1]! : null;
    const before = i > 1 ? line[i - 2]! : null;
    const inBar = place.start % bar;
    const may = (index: number) => !reach[i] || reach[i]!.has(index);
    const copied = shift === null ? undefined : motif.get(inBar);
    const was = old?.get(place.start);
    let index: number;
    if (was !== undefined && random() * 100 >= o.like!.amount) {
      index = nearestIndex(walk.pitches, was);
      if (at !== null && !within(walk, at, index)) {
        index = nextIndex(walk, at, before, place.start, random, may);
      }
    } else if (at === null) index = startIndex(walk, place.start, starts ?? null, random, may);
    else if (
      copied !== undefined &&
      random() < 0.85 &&
      within(walk, at, copied + shift!) &&
      walk.allowed(copied + shift!, place.start) &&
      may(copied + shift!)
    ) {
      index = copied + shift!;
    } else index = nextIndex(walk, at, before, place.start, random, may);
    if (i === places.length - 1) index = restingIndex(walk, index, at, place.start, ends ?? null);
    else if (endsPhrase(places, i)) {
      const rest = restingIndex(walk, index, at, place.start, walk.classesAt(place.start));
      if (may(rest)) index = rest;
    }
    line.push(index);
    if (place.bar === 0) motif.set(inBar, index);
  });
  return line.map((index) => walk.pitches[index]!);
}

/** Phrases are two bars; the last note of each, and of the whole, comes to rest. */
function endsPhrase(places: readonly NoteSlot[], i: number): boolean {
  const next = places[i + 1];
  return !next || (next.bar !== places[i]!.bar && next.bar % 2 === 0);
}

function velocityAt(
  start: Ticks,
  whole: number,
  bar: Ticks,
  o: IdeaOptions,
  random: Random,
): number {
  const inBar = start % bar;
  const accent = inBar === 0 ? 1 : inBar === bar / 2 ? 0.8 : inBar % PPQ === 0 ? 0.65 : 0.35;
  const share = start / whole;
  const course = {
    accents: accent,
    even: 0.5,
    rise: share,
    fall: 1 - share,
    arch: Math.sin(Math.PI * share),
  }[o.shape];
  const play = o.shape === "accents" ? 0.35 : 0.12;
  const at = Math.min(1, Math.max(0, course + bell(random) * play));
  return Math.round(o.softest + at * (o.loudest - o.softest));
}
