import { type Decibels, type Pan, type Ticks, nth } from "../../base";
import { type BendPoint, LIMITS, type Note, compareNotes, thinned, bendCurve } from "../../score";
import type { Losses } from "../import/losses";
import { scaled, type SmfScale } from "./scale";
import { DRUM_CHANNEL } from "./channels";

/** What plays on one channel of one track chunk. */
export interface Voice {
  /** From 0 over all ports, 16 to each. */
  channel: number;
  /** The track chunk's name. */
  name: string;
  /** The name that was given to this channel alone. */
  own: string;
  /** In order of time; those that begin together are put in order when the voice is settled. */
  notes: Note[];
  inOrder: boolean;
  /** How many notes began, those included that it holds no more. */
  begun: number;
  /** The positions of its wheel. */
  pitchBend: BendPoint[];
  /** Where the last note of its track chunk ends. */
  end: Ticks;
  /** Null where the file names none. */
  program: Setting<number | null>;
  level: Setting<Decibels>;
  pan: Setting<Pan>;
}

/**
 * A value that a file sets now and then: what is in force just now, and how many notes began at each.
 * The one most notes begin at is the track's: a fade-out at the end says nothing of how loud it is.
 */
class Setting<T> {
  private readonly counted = new Map<T, number>();
  /** How many notes of its voice had begun when it was looked at last. */
  private since = 0;
  /** `voice` counts its notes. */
  constructor(
    private value: T,
    private readonly voice: { readonly begun: number },
  ) {}

  get now(): T {
    return this.value;
  }
  set now(value: T) {
    this.counts();
    this.value = value;
  }

  /** Whether a note began at any value of it. */
  get used(): boolean {
    return this.counts().size > 0;
  }

  private counts(): Map<T, number> {
    const run = this.voice.begun - this.since;
    if (run > 0) this.counted.set(this.value, (this.counted.get(this.value) ?? 0) + run);
    this.since = this.voice.begun;
    return this.counted;
  }

  get usual(): T {
    let best = { value: this.value, count: 0 };
    for (const [value, count] of this.counts()) if (count > best.count) best = { value, count };
    return best.value;
  }

  get changes(): boolean {
    return this.counts().size > 1;
  }
}

/** A voice that has played nothing yet, with room for so many notes. */
export function newVoice(channel: number, space = 0): Voice {
  const notes = new Array<Note>(space);
  const voice = {
    channel,
    name: "",
    own: "",
    notes,
    inOrder: true,
    begun: 0,
    pitchBend: [],
    end: 0,
  };
  return Object.assign(voice, {
    program: new Setting<number | null>(null, voice),
    level: new Setting<Decibels>(0, voice),
    pan: new Setting<Pan>(0, voice),
  });
}

/** A voice that goes on where one of the same channel stands, and has played nothing yet. */
export function anotherVoice(voice: Voice, program: number): Voice {
  const other = newVoice(voice.channel);
  other.program.now = program;
  other.pitchBend = [...voice.pitchBend];
  return other;
}

/** Whether a channel is that of the drums, on its port. */
export const isDrumChannel = (channel: number): boolean => channel % 16 === DRUM_CHANNEL;

/**
 * Brings a voice that was read in ticks of its file, with lengths of 0 if `empty`, into ticks of a project and into
 * order. `end` is where its chunk's last note ends.
 */
export function settle(
  voice: Voice,
  scale: SmfScale,
  { end, empty }: { end: Ticks; empty: boolean },
  lost: Losses,
): void {
  const { notes, pitchBend } = voice;
  voice.end = end;
  if (scale.times !== scale.over || empty) {
    const toTick = (tick: Ticks) => Math.round(scaled(scale, tick));
    voice.pitchBend = pitchBend.map(({ tick, value }) => ({ tick: toTick(tick), value }));
    voice.end = 0;
    let last: Note | undefined;
    for (const note of notes) {
      const stop = toTick(note.start + note.length);
      note.start = toTick(note.start);
      note.length = Math.max(1, stop - note.start);
      if (stop <= note.start) lost.add("note", "of no length, kept one tick long");
      voice.end = Math.max(voice.end, note.start + note.length);
      // Times that differ in the file may be one here.
      if (last && last.start === note.start && last.pitch >= note.pitch) voice.inOrder = false;
      last = note;
    }
  }
  if (!voice.inOrder) notes.sort(compareNotes);
}

/** The positions of a wheel as a curve of the points it needs; undefined where it never left the middle. */
export function curveOf(bends: readonly BendPoint[], lost: Losses): BendPoint[] | undefined {
  if (bends.every(({ value }) => value === 0)) return undefined;
  // Before the first word it stands in the middle.
  const positions = nth(bends, 0).tick > 0 ? [{ tick: 0, value: 0 }, ...bends] : bends;
  const curve = thinned(bendCurve(positions));
  lost.add(
    "point",
    "of pitch bend beyond those a part holds",
    Math.max(0, curve.length - LIMITS.bend),
  );
  return curve.slice(0, LIMITS.bend);
}
