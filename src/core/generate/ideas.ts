import { type MidiPitch, type Ticks, seeded, mustGet } from "../base";
import { barTicks } from "../time";
import { scalePitches } from "../pitch";
import { type Note, shapeOf, sortNotes } from "../score";
import { backing } from "./accompany/backing";
import { bassLine } from "./accompany/bass";
import { topLine, type Idea } from "./common/idea";
import { velocityAt } from "./common/loudness";
import { plainLine } from "./line/line";
import { addVoices } from "./line/voices";
import { nearestIndex } from "./line/walk";
import { checkOptions, type IdeaOptions } from "./options";
import { PHRASE_DEFAULTS, type PhraseWish } from "./phrase/options";
import { phrasedLine } from "./phrase/phrases";
import { barAt, type NoteSlot } from "./rhythm/places";
import { swung } from "./rhythm/swung";

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
  options: IdeaOptions,
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
  const inScale = scalePitches(options.key);
  const free = (note: Note, pitch: MidiPitch) => {
    const left = inScale.filter((one) => !taken.has(placeOf(note, one)));
    return left[nearestIndex(left, pitch)] ?? note.pitch;
  };
  return [
    ...sortNotes(
      notes.map((note): Note => {
        const fresh = made.get(note.start);
        if (!chosen.has(note.id) || !fresh) return note;
        const wanted = note.pitch + fresh.pitch - mustGet(tops, note.start);
        const same = wanted === note.pitch && !taken.has(placeOf(note, wanted));
        const pitch = same ? wanted : free(note, wanted);
        taken.add(placeOf(note, pitch));
        return pitch === note.pitch ? note : { ...note, id: `${fresh.id}-${note.pitch}`, pitch };
      }),
    ),
  ];
}

function ideaOf(options: IdeaOptions, seed: number): Idea {
  // Varied is a line as it was made; of a line's notes only some, by the rules of phrases.
  if (options.only)
    return phrasedIdea(options, options.phrases ?? { ...PHRASE_DEFAULTS, form: "phrases" }, seed);
  // More like a bass line is varied as any line; more like chords are others.
  if (options.role !== "melody" && !(options.like && options.role === "bass"))
    return accompanyingIdea(options, seed);
  if (options.phrases && !options.like) return phrasedIdea(options, options.phrases, seed);
  return { seed, notes: plainLine(options, seed) };
}

/** A bass line, or chords as they accompany. */
function accompanyingIdea(options: IdeaOptions, seed: number): Idea {
  const random = seeded(seed);
  const { notes: made, description } =
    options.role === "bass" ? bassLine(options, random) : backing(options, random);
  const bar = barTicks(options.metre);
  const loud = new Map<Ticks, number>();
  for (const { start, velocity } of options.rhythm ?? []) loud.set(start, velocity);
  const kept = (start: Ticks) => options.keepBars.includes(barAt(start, bar));
  const fresh = made.filter(({ start }) => !kept(start));
  const notes = fresh.map((note, i): Note => {
    // What is struck together is as loud.
    let velocity = loud.get(note.start);
    velocity ??= velocityAt(note.start, { whole: options.bars * bar, bar }, options, random);
    loud.set(note.start, velocity);
    return { id: `g${seed}-${i + 1}`, ...note, velocity, pan: 0, tune: 0, slide: false };
  });
  const stay = options.kept
    .filter(({ start }) => kept(start))
    .map((note, i) => ({ ...note, id: `g${seed}-k${i + 1}` }));
  return { seed, notes: [...sortNotes([...stay, ...notes])], description };
}

function phrasedIdea(options: IdeaOptions, wish: PhraseWish, seed: number): Idea {
  const { notes: made, description } = phrasedLine(options, wish, seed);
  const random = seeded(seed ^ 0x5bd1e995);
  const bar = barTicks(options.metre);
  const line = made.map(({ fixed, velocity: given, ...note }, i): Note => {
    const id = `g${seed}-${i + 1}`;
    if (fixed) return { ...fixed, id };
    const velocity =
      given ??
      velocityAt(Math.max(0, note.start), { whole: options.bars * bar, bar }, options, random);
    return { id, ...note, velocity, pan: 0, tune: 0, slide: false };
  });
  if (options.only) return { seed, notes: onlyThose(options, options.only, line), description };
  const places = made.map(({ pitch: _, ...place }): NoteSlot => {
    return { ...place, bar: barAt(place.start, bar) };
  });
  return {
    seed,
    notes: [...sortNotes(options.voices > 1 ? addVoices(line, places, options) : line)],
    description,
  };
}
