import { type MidiPitch, type Random, type Ticks, seeded, clamp, nth, lastOf } from "../../base";
import { barTicks, beatTicks } from "../../time";
import { type Key, scalePitches, scaleSemitones } from "../../pitch";
import type { Note } from "../../score";
import { drawLine, type Moves, type Step } from "../common/chain";
import type { PhrasedOptions, PhraseWish } from "./options";
import { nearestIndex } from "../line/walk";
import { barAt, type NoteSlot } from "../rhythm/places";
import { endOf, phraseBars, planOf, type BarPlan } from "./plan";
import { climaxOf, rhythmOf } from "./rhythm";
import { missedShare, sentenceOf } from "./sentence";
import { Shares } from "./strictness";
import { classesAt } from "../common/tones";

/** A line of phrases, and what it is in a sentence. */
export interface PhrasedLine {
  notes: (Pick<Note, "start" | "length" | "pitch"> & Pick<NoteSlot, "velocity" | "fixed">)[];
  description: string;
}

/**
 * How often lines go on by so many steps of the scale: mostly by none or one (after P. von Hippel and D. Huron, “Why
 * do skips precede reversals?”, Music Perception 18(1), 2000, and D. Huron, Sweet Anticipation, 2006; figures from
 * memory).
 */
const STEPS = [0.2, 0.29, 0.075, 0.03, 0.016, 0.008, 0.004, 0.006] as const;
const FAR = 0.0005;
/** A leap from so many semitones on is answered by a step back: so much likelier, and going on so much less. */
const LEAP = 4;
const BACK = 6;
/** A pitch that was struck twice is so much less likely to be struck once more. */
const AGAIN = 0.03;
const ON = 0.15;
/** What is against a wish is not impossible, where nothing else is left. */
const AGAINST = 1e-4;
/** So is moving what should come again as it was. */
const MOVED = 1e-6;
/** So strictly, where strictness is full, does a tone outside the chord go on by step. */
const TIED = 0.97;
/** How far, as a share of the compass, a line strays from its contour. */
const STRAY = 0.2;
/**
 * How often phrases end on which tone of the chord that sounds there: root, third, fifth, any other where they close,
 * and rather not the root where they stay open.
 */
const CHORD_ENDS = {
  closed: [50, 30, 20, 2],
  open: [10, 40, 45, 5],
} as const;
/** Without a chord: semitones above the root, the likelier first, as far as a scale has them: root or third; fifth or second. */
const ENDS = {
  closed: [[0], [4, 3]],
  open: [
    [7, 6, 8],
    [2, 1],
  ],
} as const;
/** Pitch classes on which a phrase may end in a key, with how welcome each is. */
function endsInKey({ scale, root }: Key, end: "open" | "closed"): ReadonlyMap<number, number> {
  const has = scaleSemitones(scale);
  const found = ENDS[end].flatMap(
    (choices) => choices.find((semitones) => has.includes(semitones)) ?? [],
  );
  return new Map(found.map((semitones, i) => [(root + semitones) % 12, i === 0 ? 2 : 1]));
}

/**
 * A line of phrases: each with a contour, a cadence and a breath; one highest note where it was asked for; bars that
 * carry the first one's motif as often as was asked, note for note or moved along the scale.
 */
export function phrasedLine(options: PhrasedOptions, wish: PhraseWish, seed: number): PhrasedLine {
  return new PhraseWriter(options, wish, seeded(seed)).line();
}

/** Draws the pitches of a line whose plan and rhythm are made first, phrase by phrase. */
class PhraseWriter {
  private readonly bar: Ticks;
  private readonly beat: Ticks;
  private readonly plan: BarPlan[];
  private readonly rhythm: NoteSlot[][];
  private readonly pitches: readonly MidiPitch[];
  private readonly scale: readonly MidiPitch[];
  /** The tick of the one highest note, and its index among the pitches. */
  private readonly climax: Ticks;
  private readonly top: number;
  /** How many pitches below the top the contour reaches. */
  private readonly compass: number;
  private readonly moves: Moves;
  private readonly ends: Readonly<Record<"open" | "closed", ReadonlyMap<number, number>>>;
  /** Indices of pitches, bar by bar. */
  private readonly drawn: number[][] = [];
  /** Which notes on beats are tones of the chord, as far as that is settled before they are drawn. */
  private readonly asTones = new Map<NoteSlot, boolean>();
  private readonly shares: Shares;
  private last: number | null = null;
  private before: number | null = null;
  private answers = false;

  constructor(
    private readonly options: PhrasedOptions,
    private readonly wish: PhraseWish,
    private readonly random: Random,
  ) {
    const { metre, key, low, high, bars } = options;
    this.bar = barTicks(metre);
    this.beat = beatTicks(metre);
    this.plan = planOf(options, wish, random);
    this.pitches = scalePitches(key, low, high);
    this.scale = scalePitches(key, 0, 127);
    this.rhythm = rhythmOf(options, this.plan, wish.pickup ?? false, random);
    const asked = (wish.climax / 100) * bars * this.bar;
    this.climax = climaxOf(this.rhythm, this.plan, asked, options);
    this.ends = { open: endsInKey(key, "open"), closed: endsInKey(key, "closed") };
    const at = barAt(this.climax, this.bar);
    const plan = this.plan[at];
    const rests =
      plan?.cadence && this.rhythm[at]?.at(-1 - plan.pickups)?.start === this.climax
        ? this.endsAt(this.climax, plan.cadence)
        : null;
    this.top = topOf(options, this.pitches, this.climax, rests, random);
    this.compass = Math.min(this.top, 8 + Math.floor(random() * 4));
    this.moves = movesOf(options, this.pitches);
    this.shares = new Shares(wish.strict / 100, [random(), random()]);
  }

  /** Pitch classes on which a phrase may end at a tick, with how welcome each is: tones of the chord that sounds there. */
  private endsAt(tick: Ticks, end: "open" | "closed"): ReadonlyMap<number, number> {
    const at = Math.max(0, tick);
    const chord = this.options.chords.find(({ from, to }) => at >= from && at < to);
    if (!chord || chord.classes.length === 0) return this.ends[end];
    const shares = CHORD_ENDS[end];
    const inRange = chord.classes.filter((one) => this.pitches.some((pitch) => pitch % 12 === one));
    const tones = inRange.length > 0 ? inRange : chord.classes;
    return new Map(
      tones.map((one) => [
        one,
        nth(shares, Math.min(shares.length - 1, chord.classes.indexOf(one))),
      ]),
    );
  }

  line(): PhrasedLine {
    const { options, plan, rhythm, pitches } = this;
    // Phrase by phrase, so that each knows how it ends; a bar that copies one of its own phrase begins a stretch of its own.
    for (let bar = 0; bar < options.bars;) {
      const end = endOf(plan, bar);
      const own = plan.findIndex(
        ({ copies }, k) => k > bar && k < end && copies !== null && copies >= bar,
      );
      const until = own < 0 ? end : own;
      const bars = Array.from({ length: until - bar }, (_, i) => bar + i);
      // A figure that fits nowhere in the register gives way.
      const fits = (["copied", "alone"] as const).some((how) => this.put(bars, how));
      if (!fits) for (const one of bars) this.drawn[one] = nth(rhythm, one).map(() => 0);
      bar = until;
    }
    let next = 0;
    const notes = rhythm.flatMap((slots, bar) =>
      slots.map(({ start, length, velocity, fixed }, i) => {
        const drawn = nth(pitches, nth(this.drawn, bar)[i]!);
        const pitch = fixed?.pitch ?? options.pitches?.[next++] ?? drawn;
        return { start, length, pitch, velocity, ...(fixed && { fixed }) };
      }),
    );
    const answers = this.answers ? "; takes up what it answers" : "";
    const own = notes.filter(({ fixed }) => !fixed);
    const missed = hasOwnValues(options) ? missedShare(own, options.values) : "";
    const description = sentenceOf(options, this.wish, notes, plan);
    return { notes, description: `${description}${answers}${missed}` };
  }

  /** Draws some bars; `alone` without figures that are copied. False where there is no way through. */
  private put(bars: readonly number[], how: "copied" | "alone"): boolean {
    this.settleTones(bars, how);
    const steps = bars.flatMap((bar) => this.stepsOf(bar, how));
    // A phrase that begins as another did does so from wherever the line was.
    const first = nth(this.plan, nth(bars, 0));
    const anew = how === "copied" && first.copies !== null && !first.moved;
    const from = anew ? null : this.last;
    const drawn = drawLine(
      steps,
      this.moves,
      { from, before: anew ? null : this.before },
      this.random,
    );
    if (!drawn) return false;
    const flat = drawn.flatMap((index, k) => nth(steps, k).offsets.map((offset) => index + offset));
    let at = 0;
    for (const bar of bars) {
      const { length } = nth(this.rhythm, bar);
      this.drawn[bar] = flat.slice(at, at + length);
      at += length;
      this.countTones(bar);
    }
    if (flat.length > 0) {
      this.before = flat.at(-2) ?? this.last;
      this.last = lastOf(flat);
    }
    return true;
  }

  private kindOf(start: Ticks): "bar" | "beat" | null {
    if (start % this.beat !== 0) return null;
    return start % this.bar === 0 ? "bar" : "beat";
  }

  private isTone(index: number, start: Ticks): boolean {
    return classesAt(this.options, Math.max(0, start)).has((this.pitches[index] ?? 0) % 12);
  }

  /** Counts what was drawn on the beats of a bar. */
  private countTones(bar: number): void {
    nth(this.rhythm, bar).forEach(({ start }, i) => {
      const kind = this.kindOf(Math.max(0, start));
      if (kind) this.shares.count(kind, this.isTone(nth(this.drawn, bar)[i]!, start));
    });
  }

  /** Whether the chord that sounds at a tick sounded where a bar has its note from. */
  private hadChordOf(bar: number, note: number, start: Ticks): boolean {
    const { copies } = nth(this.plan, bar);
    const source = copies === null ? undefined : nth(this.rhythm, copies)[note];
    const now = classesAt(this.options, start);
    const then = classesAt(this.options, Math.max(0, source?.start ?? start));
    return now.size === then.size && [...now].every((one) => then.has(one));
  }

  /** Settles which notes on the beats of some bars are tones of the chord and which are none. */
  private settleTones(bars: readonly number[], how: "copied" | "alone"): void {
    const { options, plan, rhythm, asTones, climax } = this;
    // All are, then.
    if (options.pool === "chords" && options.chords.length > 0) return;
    const shares = this.shares.copy();
    for (const bar of bars) {
      const slots = nth(rhythm, bar);
      const { cadence, pickups, moved } = nth(plan, bar);
      const source = how === "copied" ? this.sourceOf(bar) : null;
      slots.forEach((slot, i) => {
        const start = Math.max(0, slot.start);
        const kind = this.kindOf(start);
        asTones.delete(slot);
        if (!kind) return;
        const closes = cadence !== null && i === slots.length - 1 - pickups;
        if (slot.fixed)
          shares.count(kind, this.isTone(nearestIndex(this.pitches, slot.fixed.pitch), start));
        else if (closes || start === climax) shares.count(kind, true);
        else if (slot.call !== undefined) shares.count(kind, "open");
        else if (source && i < source.length) {
          // What comes again stays as it was where it may; a figure that moves goes by its first note.
          const again = !moved && this.isTone(nth(source, i), start);
          const stays = !moved && (again || this.hadChordOf(bar, i, start));
          const tone = again || (!stays && (!moved || i === 0) && shares.next(kind));
          if (moved ? i === 0 : tone && !again) asTones.set(slot, tone);
          shares.count(kind, moved && i > 0 ? "open" : tone);
        } else {
          const tone = shares.next(kind);
          asTones.set(slot, tone);
          shares.count(kind, tone);
        }
      });
    }
  }

  /** The steps of a bar: a figure that is copied, then notes one by one, the cadence last. */
  private stepsOf(bar: number, how: "copied" | "alone"): Step[] {
    const slots = nth(this.rhythm, bar);
    const { cadence, pickups } = nth(this.plan, bar);
    const moves = how === "copied" && slots.every(({ fixed }) => !fixed);
    const figure = moves ? this.figureOf(bar) : null;
    const steps: Step[] = figure ? [figure] : [];
    const cadenceAt = slots.length - 1 - pickups;
    for (let i = figure?.offsets.length ?? 0; i < slots.length;) {
      const question = moves ? callFrom(slots, i, cadence ? cadenceAt : slots.length) : [];
      if (question.length > 1) {
        steps.push(this.answerTo(question, slots.slice(i, i + question.length)));
        i += question.length;
        continue;
      }
      const at = i - cadenceAt;
      const step = this.stepOf([nth(slots, i)], [0], cadence !== null && at === 0 ? cadence : null);
      const first = bar === this.options.bars - 1 && at > 0 ? this.drawn[0]?.[0] : undefined;
      // The last pick-up leads back to where the line begins.
      steps.push(first === undefined ? step : { ...step, weight: (index) => leadTo(index, first) });
      i++;
    }
    return steps;
  }

  /** As the question went: its intervals, from wherever they fit. */
  private answerTo(question: readonly MidiPitch[], slots: readonly NoteSlot[]): Step {
    const first = nearestIndex(this.scale, nth(question, 0));
    const offsets = question.map((pitch) => nearestIndex(this.scale, pitch) - first);
    this.answers = true;
    return this.stepOf(slots, offsets, null);
  }

  /** What a bar has of another: as much of it as its plan says; null where it has nothing. */
  private sourceOf(bar: number): readonly number[] | null {
    const slots = nth(this.rhythm, bar);
    const { copies, cadence, half, pickups } = nth(this.plan, bar);
    const asked = slots.some(({ call }) => call !== undefined);
    const source = copies !== null && !asked ? this.drawn[copies] : undefined;
    if (!source || source[0] === undefined || slots.some(({ fixed }) => fixed)) return null;
    const firstHalf = slots.filter(({ start }) => start - bar * this.bar < this.bar / 2);
    const limit = half ? firstHalf.length : slots.length;
    const count = Math.min(source.length, limit, slots.length - (cadence ? 1 + pickups : 0));
    return count <= 0 ? null : source.slice(0, count);
  }

  /** The figure that a bar copies of another. */
  private figureOf(bar: number): Step | null {
    const slots = nth(this.rhythm, bar);
    const { turned, moved } = nth(this.plan, bar);
    const source = this.sourceOf(bar);
    if (!source) return null;
    const count = source.length;
    const exact = nth(source, 0);
    const direction = turned ? -1 : 1;
    const offsets = source.map((index) => direction * (index - exact));
    const group = this.stepOf(slots.slice(0, count), offsets, null);
    const again = slots.slice(0, count).map((slot) => this.weightsAt(slot, null, "again"));
    return {
      ...group,
      weight: (index, n) => {
        const same = index - nth(offsets, n) === exact;
        if (moved) return group.weight(index, n) * (same && n === 0 ? 0.3 : 1);
        // Again as it was, whatever the contour has here; moved only where the chord does not bear it.
        return nth(again, n)[index]! * (same || n > 0 ? 1 : MOVED);
      },
    };
  }

  private stepOf(
    slots: readonly NoteSlot[],
    offsets: readonly number[],
    end: BarPlan["cadence"],
  ): Step {
    const rows = slots.map((slot) => this.weightsAt(slot, end));
    const classes = classesAt(this.options, Math.max(0, lastOf(slots).start));
    const lead = lastOf(offsets);
    const settled = this.asTones.get(lastOf(slots)) === false;
    const loosely = (TIED * this.wish.strict) / 100;
    return {
      offsets,
      weight: (index, n) => nth(rows, n)[index]!,
      // What is no tone of the chord goes on by step.
      tied: (index) =>
        classes.has((this.pitches[index + lead] ?? 0) % 12) ? 0 : settled ? TIED : loosely,
    };
  }

  /** How welcome each pitch is to a note: as a phrase's last, or as one that comes again, whatever the contour. */
  private weightsAt(
    slot: NoteSlot,
    end: BarPlan["cadence"],
    how: "new" | "again" = "new",
  ): Float64Array {
    const { options, pitches, top, climax, wish } = this;
    const { start: at, fixed } = slot;
    const weights = new Float64Array(pitches.length);
    const start = Math.max(0, at);
    if (fixed) {
      weights[nearestIndex(pitches, fixed.pitch)] = 1;
      return weights;
    }
    if (start === climax) {
      weights[top] = 1;
      return weights;
    }
    const wanted = this.heightWanted(start);
    const stray = Math.max(1, STRAY * this.compass);
    const classes = classesAt(options, start);
    const chordal = options.pool === "chords" && options.chords.length > 0;
    const settled = this.asTones.get(slot);
    const against = start % this.bar === 0 ? AGAINST ** 3 : AGAINST;
    const strict = chordal ? 1 : start % this.beat === 0 ? wish.strict / 100 : 0;
    const strange = settled === undefined ? Math.max(against, 1 - strict) : settled ? against : 1;
    const plain = settled === false ? against : 1;
    const ends = end && this.endsAt(start, end);
    // The climax is the one highest note.
    for (let index = 0; index < top; index++) {
      const pitch = nth(pitches, index);
      const near = how === "again" ? 1 : AGAINST + Math.exp(-0.5 * ((index - wanted) / stray) ** 2);
      const tone = classes.has(pitch % 12);
      if (!end) weights[index] = (tone ? plain : strange) * near;
      else {
        const welcome = ends?.get(pitch % 12);
        weights[index] = welcome === undefined ? AGAINST * AGAINST : near * welcome;
      }
    }
    return weights;
  }

  /** The index that the contour has at a tick: that of its phrase, or of the whole line. */
  private heightWanted(start: Ticks): number {
    const { options, wish, climax, top, compass, bar } = this;
    const size = (wish.over === "line" ? options.bars : phraseBars(options, wish)) * bar;
    const from = Math.floor(start / size) * size;
    const peak = climax >= from && climax < from + size ? (climax - from) / size : 0.6;
    return top - compass + compass * heightAt(wish, (start - from) / size, peak);
  }
}

/** Whether the lengths of a line are drawn for it: not those of another part, and not as many as pitches are kept. */
const hasOwnValues = ({ rhythm, only, follow, pitches }: PhrasedOptions): boolean =>
  !rhythm && !only && !follow && !pitches;

/** The pitches of the question that an answer has from a slot on, up to `end`. */
function callFrom(slots: readonly NoteSlot[], from: number, end: number): MidiPitch[] {
  const called: MidiPitch[] = [];
  for (let i = from; i < end; i++) {
    const { call } = nth(slots, i);
    if (call === undefined) break;
    called.push(call);
  }
  return called;
}

/** How welcome a pitch is before another: a step from it rather. */
const leadTo = (index: number, to: number): number => 1 / (1 + (Math.abs(index - to) - 1) ** 6);

/** The highest note: near the top of the register, of the chord where it stands on a beat, of `ends` where it ends a phrase. */
function topOf(
  options: PhrasedOptions,
  pitches: readonly MidiPitch[],
  climax: Ticks,
  ends: ReadonlyMap<number, number> | null,
  random: Random,
): number {
  const high = pitches.length - 1;
  const near = pitches.flatMap((_, i) => (i > high - clamp(high / 3, 1, 5) ? [i] : []));
  const resting = pitches.flatMap((pitch, i) => (i > high / 2 && ends?.has(pitch % 12) ? [i] : []));
  // The highest of them that there is: a phrase rests on few tones.
  if (resting.length > 0) return lastOf(resting);
  const tones = near.filter((i) => classesAt(options, climax).has(nth(pitches, i) % 12));
  const from = climax % beatTicks(options.metre) === 0 && tones.length > 0 ? tones : near;
  return from[Math.floor(random() * from.length)] ?? high;
}

/** The height 0–1 of a contour at a place of its phrase, 0–1; `peak` is where it has its highest note. */
export function heightAt({ contour, drawn }: PhraseWish, at: number, peak: number): number {
  const arch = (x: number, top: number) =>
    x < top ? x / Math.max(0.05, top) : 1 - (x - top) / Math.max(0.05, 1 - top);
  switch (contour) {
    case "arch":
      return 0.15 + 0.85 * Math.sin((Math.PI / 2) * arch(at, peak));
    case "rise":
      return 0.1 + 0.85 * at;
    case "fall":
      return 0.95 - 0.85 * at;
    case "wave":
      return 0.5 - 0.4 * Math.cos(4 * Math.PI * at);
    case "valley":
      return 0.9 - 0.8 * Math.sin(Math.PI * at);
    case "drawn": {
      const place = at * (drawn.length - 1);
      const i = Math.min(drawn.length - 2, Math.floor(place));
      return nth(drawn, i) + (place - i) * (nth(drawn, i + 1) - nth(drawn, i));
    }
  }
}

function movesOf(options: PhrasedOptions, pitches: readonly MidiPitch[]): Moves {
  const size = pitches.length;
  const weight = (from: number, to: number) => {
    const far = Math.abs(nth(pitches, to) - nth(pitches, from)) > options.leap;
    return (STEPS[Math.abs(to - from)] ?? FAR) * (far ? AGAINST : 1);
  };
  const table = new Float64Array(size * size);
  for (let i = 0; i < table.length; i++) table[i] = weight(Math.floor(i / size), i % size);
  return {
    size,
    weight: (from, to) => table[from * size + to]!,
    after: (before, from, to) => {
      const base = table[from * size + to]!;
      if (before === null) return base;
      if (before === from && to === from) return base * AGAIN;
      const came = nth(pitches, from) - nth(pitches, before);
      if (Math.abs(came) < LEAP) return base;
      const goes = to - from;
      if (goes === 0 || Math.sign(goes) === Math.sign(came)) return base * ON;
      return base * (Math.abs(goes) === 1 ? BACK : 1);
    },
  };
}
