import {
  type Bpm,
  type MidiPitch,
  type Ticks,
  type Velocity,
  clamp,
  clampVelocity,
  nth,
} from "../../base";
import { type Metre, PPQ, barTicks } from "../../time";
import { parseChord } from "../../pitch";
import { LIMITS } from "../../score";
import { FormatError } from "../container/bytes";
import type { Losses } from "../import/losses";
import type { Signature } from "./keys";
import { FORTE, KINDS, pitchOf } from "./pitches";
import { child, childrenOf, numberOf, textOf, type Element } from "./tree";
import { playedOrder } from "./unfold";

/** A note of a part; its time in ticks from the beginning. */
export interface ReadNote {
  start: Ticks;
  length: Ticks;
  pitch: MidiPitch;
  velocity: Velocity;
  drum: boolean;
}

/** What a part of a score says. */
export interface ReadPart {
  name: string;
  program: number | null;
  notes: ReadNote[];
  drumNames: Map<MidiPitch, string>;
  chords: { tick: Ticks; name: string }[];
  tempos: { tick: Ticks; value: Bpm }[];
  metres: { tick: Ticks; value: Metre }[];
  /** Rehearsal marks. */
  marks: { tick: Ticks; value: string }[];
  key: Signature | null;
  end: Ticks;
}

/** Velocities of marks of loudness, where the notes do not say theirs (common practice). */
const LOUD: Readonly<Record<string, Velocity>> = {
  pppp: 12,
  ppp: 22,
  pp: 32,
  p: 46,
  mp: 62,
  mf: 80,
  f: 98,
  ff: 114,
  fff: 122,
  ffff: 127,
  sf: 112,
  sfz: 112,
  fz: 112,
};
/** Beats of the tempo by their names. */
const BEATS: Readonly<Record<string, Ticks>> = {
  whole: 4 * PPQ,
  half: 2 * PPQ,
  quarter: PPQ,
  eighth: PPQ / 2,
  "16th": PPQ / 4,
  "32nd": PPQ / 8,
};

/** Reads one part, its bars in the order they are played. */
export function readPart(part: Element, listed: Element | undefined, lost: Losses): ReadPart {
  const measures = childrenOf(part, "measure");
  const instruments = new Map(
    childrenOf(listed, "midi-instrument").map((one) => [
      one.attributes.id ?? "",
      { unpitched: numberOf(one, "midi-unpitched"), program: numberOf(one, "midi-program") },
    ]),
  );
  const names = new Map(
    childrenOf(listed, "score-instrument").map((one) => [
      one.attributes.id ?? "",
      textOf(one, "instrument-name"),
    ]),
  );
  const program = [...instruments.values()].find((one) => one.program !== null)?.program ?? null;
  const reading: Reading = {
    made: {
      name: textOf(listed, "part-name"),
      program: program === null ? null : clamp(program - 1, 0, 127),
      notes: [],
      drumNames: new Map(),
      chords: [],
      tempos: [],
      metres: [],
      marks: [],
      key: null,
      end: 0,
    },
    divisions: 1,
    transpose: 0,
    velocity: LOUD.mf!,
    metre: { beats: 4, unit: 4 },
    tied: new Map(),
    instruments,
    names,
    lost,
  };
  let at = 0;
  for (const index of playedOrder(measures))
    at += readMeasure(reading, nth(measures, index), at, index + 1);
  reading.made.end = at;
  return reading.made;
}

interface Reading {
  made: ReadPart;
  divisions: number;
  transpose: number;
  velocity: Velocity;
  metre: Metre;
  /** Notes that are tied on, by voice and pitch. */
  tied: Map<string, ReadNote>;
  instruments: ReadonlyMap<string, { unpitched: number | null }>;
  names: ReadonlyMap<string, string>;
  lost: Losses;
}

/** Reads a bar that begins at a tick, and gives its length. */
function readMeasure(reading: Reading, measure: Element, begin: Ticks, number: number): Ticks {
  const { made } = reading;
  let [now, last, most] = [0, 0, 0];
  const ticks = (divisions: number) => (divisions * PPQ) / reading.divisions;
  const durationOf = (element: Element): Ticks => {
    const value = numberOf(element, "duration") ?? 0;
    if (value < 0 || value > 1e7)
      throw new FormatError(`Bar ${number}: a duration of ${value} is none`);
    return ticks(value);
  };
  for (const element of measure.children) {
    if (element.name === "attributes") readAttributes(reading, element, begin + now, number);
    else if (element.name === "backup") now = Math.max(0, now - durationOf(element));
    else if (element.name === "forward") now += durationOf(element);
    else if (element.name === "note") {
      const length = durationOf(element);
      const chord = child(element, "chord") !== undefined;
      const start = chord ? last : now;
      if (child(element, "grace")) reading.lost.add("grace note", "");
      else readNote(reading, element, begin + start, length, ticks);
      if (!chord) {
        last = now;
        now += length;
      }
    } else if (element.name === "harmony") {
      const offset = numberOf(element, "offset") ?? 0;
      const name = chordName(element);
      if (name) made.chords.push({ tick: begin + now + ticks(offset), name });
      else reading.lost.add("chord symbol", "of a kind that is not known");
    } else if (element.name === "direction" || element.name === "sound")
      readDirection(reading, element, begin + now);
    most = Math.max(most, now);
  }
  // A bar that says less than its metre is a short one only where it says so: a pickup.
  const whole = barTicks(reading.metre);
  return measure.attributes.implicit === "yes" && most > 0 ? Math.round(most) : Math.max(whole, 0);
}

function readAttributes(reading: Reading, element: Element, at: Ticks, number: number): void {
  const { made } = reading;
  const divisions = numberOf(element, "divisions");
  if (divisions !== null) {
    if (divisions <= 0 || divisions > 1e6)
      throw new FormatError(`Bar ${number}: ${divisions} divisions of a quarter are none`);
    reading.divisions = divisions;
  }
  const key = child(element, "key");
  const fifths = numberOf(key, "fifths");
  if (fifths !== null && Math.abs(fifths) <= 7) {
    const signature = { fifths, mode: textOf(key, "mode") || "major" };
    if (!made.key) made.key = signature;
    else if (made.key.fifths !== fifths) reading.lost.add("key change", "");
  }
  const time = child(element, "time");
  if (time) {
    const beats = textOf(time, "beats")
      .split("+")
      .reduce((sum, text) => sum + Number(text), 0);
    const unit = Number(textOf(time, "beat-type"));
    if (Number.isInteger(beats) && beats >= 1 && beats <= 32 && [2, 4, 8, 16].includes(unit)) {
      reading.metre = { beats, unit };
      made.metres.push({ tick: at, value: reading.metre });
    } else if (time.children.length > 0) reading.lost.add("metre", "that is not known");
  }
  const transpose = child(element, "transpose");
  if (transpose) {
    const by =
      (numberOf(transpose, "chromatic") ?? 0) + 12 * (numberOf(transpose, "octave-change") ?? 0);
    reading.transpose = Math.abs(by) <= 60 ? by : 0;
  }
}

function readNote(
  reading: Reading,
  element: Element,
  start: Ticks,
  length: Ticks,
  ticks: (divisions: number) => Ticks,
): void {
  const { made, tied } = reading;
  const pitch = child(element, "pitch");
  const unpitched = child(element, "unpitched");
  if ((!pitch && !unpitched) || length <= 0) return;
  const id = child(element, "instrument")?.attributes.id ?? "";
  const own = reading.instruments.get(id)?.unpitched ?? null;
  const drum = unpitched !== undefined || own !== null;
  const number = drum ? drumPitch(own, unpitched ?? pitch) : sounding(pitch!) + reading.transpose;
  if (!Number.isInteger(number) || number < 0 || number > 127) {
    reading.lost.add("note", "outside what MIDI can name");
    return;
  }
  if (drum && !made.drumNames.has(number)) made.drumNames.set(number, reading.names.get(id) ?? "");
  const { dynamics, attack, release } = element.attributes;
  const percent = Number(dynamics);
  const velocity =
    dynamics !== undefined && Number.isFinite(percent)
      ? clampVelocity((percent * FORTE) / 100)
      : reading.velocity;
  const earlier = shift(attack, ticks);
  const later = shift(release, ticks);
  const ties = childrenOf(element, "tie").map((tie) => tie.attributes.type);
  const key = `${textOf(element, "voice")} ${number}`;
  const before = ties.includes("stop") ? tied.get(key) : undefined;
  let note = before;
  if (note) {
    note.length = Math.max(1, Math.round(start + length + later) - note.start);
    tied.delete(key);
  } else {
    const from = Math.round(start + earlier);
    note = {
      start: Math.max(-PPQ / 2, from),
      length: Math.max(1, Math.round(start + length + later) - from),
      pitch: number,
      velocity,
      drum,
    };
    made.notes.push(note);
  }
  if (ties.includes("start")) tied.set(key, note);
}

/** A time in divisions that a note sounds earlier or later than written; no more than two quarters. */
function shift(text: string | undefined, ticks: (divisions: number) => Ticks): Ticks {
  const value = Number(text);
  if (text === undefined || !Number.isFinite(value)) return 0;
  const by = ticks(value);
  return Math.abs(by) <= 8 * PPQ ? by : 0;
}

const sounding = (pitch: Element): number =>
  pitchOf({
    step: textOf(pitch, "step"),
    alter: Math.round(numberOf(pitch, "alter") ?? 0),
    octave: numberOf(pitch, "octave") ?? 4,
  });

/** A hit's pad: as its instrument says, or by where it is written. */
function drumPitch(own: number | null, written: Element | undefined): number {
  if (own !== null) return own - 1;
  const step = textOf(written, "display-step");
  const octave = textOf(written, "display-octave");
  return BY_PLACE[`${step}${octave}`] ?? 38;
}

/** Pads by where hits are written, as if with a treble clef (common practice). */
const BY_PLACE: Readonly<Record<string, MidiPitch>> = {
  D4: 44,
  E4: 36,
  F4: 36,
  G4: 43,
  A4: 41,
  B4: 45,
  C5: 38,
  D5: 47,
  E5: 50,
  F5: 51,
  G5: 42,
  A5: 49,
  B5: 52,
};

function readDirection(reading: Reading, element: Element, at: Ticks): void {
  const { made } = reading;
  const sound = element.name === "sound" ? element : child(element, "sound");
  const put = (bpm: number) => {
    if (!Number.isFinite(bpm) || bpm <= 0) return;
    const value = clamp(bpm, LIMITS.tempo.min, LIMITS.tempo.max);
    if (value !== bpm) reading.lost.add("tempo", "beyond 20 to 400, held to that");
    made.tempos.push({ tick: Math.round(at), value });
  };
  if (sound?.attributes.tempo !== undefined) put(Number(sound.attributes.tempo));
  for (const type of childrenOf(element, "direction-type")) {
    const metronome = child(type, "metronome");
    if (metronome && sound?.attributes.tempo === undefined) {
      const beat = BEATS[textOf(metronome, "beat-unit")];
      const dotted = child(metronome, "beat-unit-dot") ? 1.5 : 1;
      const beats = Number.parseFloat(textOf(metronome, "per-minute"));
      if (beat !== undefined) put((beats * beat * dotted) / PPQ);
    }
    const rehearsal = textOf(type, "rehearsal").trim();
    if (rehearsal) made.marks.push({ tick: Math.round(at), value: rehearsal });
    const mark = child(type, "dynamics")?.children[0]?.name;
    if (mark !== undefined && mark in LOUD) reading.velocity = LOUD[mark]!;
  }
  const percent = Number(sound?.attributes.dynamics);
  if (sound?.attributes.dynamics !== undefined && Number.isFinite(percent))
    reading.velocity = clampVelocity((percent * FORTE) / 100);
  const jumps = ["dacapo", "dalsegno", "tocoda", "coda"].some((name) => sound?.attributes[name]);
  if (jumps) reading.lost.add("jump", "to another place, not followed");
}

/** The name of a chord symbol; null where it is of no kind that is known. */
function chordName(element: Element): string | null {
  const named = (of: Element | undefined, tag: string) => {
    const alter = numberOf(of, `${tag}-alter`) ?? 0;
    return `${textOf(of, `${tag}-step`)}${alter > 0 ? "#".repeat(alter) : "b".repeat(-alter)}`;
  };
  const kind = child(element, "kind");
  const text = kind?.attributes.text;
  const suffix =
    KINDS.find(([, name]) => name === kind?.text.trim())?.[0] ?? (text === undefined ? null : text);
  if (suffix === null) return null;
  const bass = child(element, "bass");
  const name = `${named(child(element, "root"), "root")}${suffix}${bass ? `/${named(bass, "bass")}` : ""}`;
  return parseChord(name) ? name : null;
}
