import {
  type Cents,
  type Decibels,
  type MidiPitch,
  type Pan,
  type Seconds,
  type Semitones,
  type Velocity,
  nth,
} from "@/core/base";
import { pitchHz } from "@/core/pitch";
import { PLAIN_SOUND, SEND_OFF, type SoundValues } from "@/core/sound";
import type { Track } from "@/core/score";
import type { Corner, Curve } from "./synth/curve-reader";
import type { VoiceCommand, VoicePlan, WavePlan } from "./synth/plan";
import type { WaveShape } from "./synth/waves";
import type { Port } from "./worklet/port";
import type { Clock } from "./clock";

/** One note for an instrument: times in seconds of the audio clock. */
export interface NoteOn {
  time: Seconds;
  seconds: Seconds;
  /** MIDI pitch; for drums the pad. */
  pitch: MidiPitch;
  /** 1–127. */
  velocity: Velocity;
  /** −1…1. */
  pan: Pan;
  /** Semitones, for drums. */
  tune: Semitones;
  /** Slides into this pitch, which begins so many seconds after this note. Melodic sounds that can. */
  glide?: { pitch: MidiPitch; seconds: Seconds };
}

/** A note begun by hand: how long it will be is not known yet. */
export type Strike = Omit<NoteOn, "seconds" | "glide">;

/** A note that sounds until it is let go. */
export interface HeldNote {
  /** Ends it at a time of the audio clock; the second time does nothing. */
  release(time: Seconds): void;
}

/** Something that sounds into an audio node, live or offline. */
export interface Instrument {
  noteOn(note: NoteOn): void;
  /** Begins a note that sounds until it is let go; a hit rings out by itself. */
  hold(note: Strike): HeldNote;
  /** Takes over what the track says of its sound; notes already asked for stay as they were. */
  update?(track: Track): void;
  /** Resolves when all that it sounds with is there. */
  ready?(): Promise<void>;
  /** Lets go of everything, what is only asked for included, within a few ms; on wish not of what is held. */
  silence(options?: { spareHeld?: boolean }): void;
  /** Lets go of what it is made of, when it has fallen silent. */
  dispose?(): void;
}

/** A level in dB as a gain. */
export const gainOf = (db: Decibels): number => 10 ** (db / 20);

/** A level in dB as a gain; −60 is the bottom of a level and means silence. */
export const levelGain = (db: Decibels): number => (db <= SEND_OFF ? 0 : gainOf(db));

/** Velocity → gain: between an even and a square law, as most instruments answer (common practice). */
export function velocityGain(velocity: Velocity): number {
  return (velocity / 127) ** 1.7;
}

/** A slide takes this long at most, and half the note at most. */
const GLIDE = 0.13;
/** A note that slides holds on over a gap of this many seconds at most. */
const HOLD_ON = 1.5;

/**
 * The pitch of a wave (`base` semitones off) over the time of a note, sliding at its end where it is marked to: it
 * arrives when the next one begins.
 */
export function slidPitch(
  { pitch, glide, from }: Pick<VoiceNote, "pitch" | "glide" | "from">,
  base = 0,
): Curve {
  const own = pitchHz(pitch + base);
  if (!glide && !from) return own;
  const corners: Corner[] = [["step", 0, pitchHz((from?.pitch ?? pitch) + base)]];
  let there = 0;
  if (from) {
    there = glide ? Math.min(from.seconds, glide.seconds / 2) : from.seconds;
    corners.push(["curved", there, own]);
  }
  if (glide) {
    const takes = Math.min(GLIDE, glide.seconds / 2, glide.seconds - there);
    corners.push(["step", glide.seconds - takes, own]);
    corners.push(["curved", glide.seconds, pitchHz(glide.pitch + base)]);
  }
  return corners;
}

/** A wave of a voice, so many semitones and cents off its pitch, mixed in at a level. */
export const mixedIn = (
  note: Pick<VoiceNote, "pitch" | "glide" | "from">,
  [shape, base, cents, level]: readonly [WaveShape, Semitones, Cents, number],
): WavePlan => ({ shape, hz: slidPitch(note, base), cents, level });

/** When a note ends, in seconds after its start: one that slides reaches the next. */
function heldSeconds({ seconds, glide }: NoteOn): number {
  return glide && glide.seconds - seconds < HOLD_ON ? Math.max(seconds, glide.seconds) : seconds;
}

/** What bends the notes of a track. */
export interface PitchBend {
  /** Whoever sounds is told what it does from now on, and where it is. Call what it gives to be told no more. */
  turns(listener: (command: BendCommand) => void): () => void;
}

/** Where voices are made into sound. */
export type VoicePort = Port<VoiceCommand>;

/** What is said of bending. */
export type BendCommand = Extract<VoiceCommand, { type: "bend" | "curve" | "straight" }>;

/** What one note sounds with. */
export interface Voice extends VoicePlan {
  /** A recording that the plan names, which the audio thread may not have yet. */
  recording?: Float32Array;
}

/** A note for a voice: how it comes in, and how the sound is shaped. */
export interface VoiceNote extends Strike, Pick<NoteOn, "glide"> {
  /** Glides from this pitch, in so many seconds: joined to the note before. */
  from?: { pitch: MidiPitch; seconds: Seconds };
  shape: SoundValues;
}

/** How the notes of an instrument end: seconds. */
export interface Ending {
  /** A note is heard for so long at least. */
  shortest: Seconds;
  /** Time constant with which it dies away. */
  fade: Seconds;
  /** So long after its end it is silent. */
  ring: Seconds;
}

/** Notes of one track that sound at once, dying away included; the oldest gives way to one more. */
const MAX_VOICES = 64;
/** Time constant with which a voice gives way, in seconds. */
const GIVES_WAY = 0.008;
/** Notes that begin within this time are a chord: none of them follows on another. */
const TOGETHER = 0.012;

/** What has been silent for so long is forgotten: a note by hand may come before one already asked for. */
const FORGET: Seconds = 0.5;

/** Notes so near to each other begin in one instant. */
const INSTANT: Seconds = 0.002;

/** A voice that has begun, or is to begin. */
interface Begun {
  time: Seconds;
  pitch: MidiPitch;
  /** When it is silent; Infinity while it is held. */
  silent: Seconds;
  /** When its note ends. */
  end: Seconds;
  /** Whether it has given way to another. */
  gone: boolean;
  giveWay(time: Seconds): void;
}

/**
 * An instrument of a voice for each note. Scheduled and held notes go the same way: begun, and let go at
 * a time, known beforehand or not. With glide a line is played: a note that begins before the one before
 * has ended takes over from it and glides from its pitch.
 */
export function voiced(
  { clock, port, pitchBend }: { clock: Clock; port: VoicePort; pitchBend: PitchBend | null },
  { shortest, fade, ring }: Ending,
  voice: (note: VoiceNote) => Voice,
): Instrument {
  const unbend = pitchBend?.turns((command) => port.send(command));
  let shape: SoundValues = PLAIN_SOUND;
  /** In order of time. */
  let begun: Begun[] = [];
  let made = 0;
  let shaped = "";
  const recordings = new Set<string>();

  /** The note that this one follows on, if it is played with glide and that has not ended. */
  const before = (time: Seconds): Begun | undefined =>
    begun.findLast((one) => one.time < time - TOGETHER && one.end > time - TOGETHER);

  const begin = (note: Strike & Pick<NoteOn, "glide">, how: "played" | "held") => {
    // Thousands at once: those beyond what sounds would only be made to give way.
    const now = begun.filter((one) => !one.gone && Math.abs(one.time - note.time) < INSTANT);
    if (now.length >= MAX_VOICES) return () => undefined;
    const last = shape.glide > 0 ? before(note.time) : undefined;
    const from = last && { pitch: last.pitch, seconds: shape.glide / 1000 };
    // A chord takes over from all that sounds, once.
    if (last) for (const one of begun) if (one.time < note.time - TOGETHER) one.giveWay(note.time);
    const { recording, ...plan } = voice({ ...note, shape, ...(from && { from }) });
    const name = plan.sample;
    if (recording && name && !recordings.has(name)) {
      recordings.add(name);
      port.send({ type: "sample", name, samples: recording });
    }
    const id = ++made;
    port.send({ type: "begin", id, time: note.time, pan: note.pan, held: how === "held", plan });
    const one: Begun = {
      time: note.time,
      pitch: note.pitch,
      silent: Infinity,
      end: Infinity,
      gone: false,
      giveWay: (time) => {
        if (one.gone || one.silent <= time) return;
        one.gone = true;
        one.end = Math.min(one.end, time);
        one.silent = time + 12 * GIVES_WAY;
        const at = Math.max(time, note.time);
        port.send({ type: "fade", id, at, tau: GIVES_WAY, over: one.silent });
      },
    };
    begun = begun.filter(({ silent }) => silent > note.time - FORGET);
    const place = begun.findLastIndex((other) => other.time <= note.time) + 1;
    begun.splice(place, 0, one);
    const together = begun.filter(
      (other) => !other.gone && other.time <= note.time && other.silent > note.time,
    );
    if (together.length > MAX_VOICES) nth(together, 0).giveWay(note.time);
    return (time: Seconds) => {
      if (one.end !== Infinity) return;
      one.end = Math.max(time, note.time + shortest);
      one.silent = one.end + ring * shape.release;
      port.send({ type: "fade", id, at: one.end, tau: fade * shape.release, over: one.silent });
    };
  };
  return {
    noteOn: (note) => begin(note, "played")(note.time + heldSeconds(note)),
    hold: (note) => ({ release: begin(note, "held") }),
    silence: ({ spareHeld = false } = {}) => {
      const at = clock.currentTime;
      port.send({ type: "silence", at, spareHeld });
      begun = begun.filter((one) => one.end === Infinity || one.time <= at);
      for (const one of begun) if (one.end !== Infinity) one.end = Math.min(one.end, at);
    },
    update: (track) => {
      shape = { ...PLAIN_SOUND, ...track.shaping };
      const { brightness, body, motion, drive, width } = shape;
      const values = { brightness, body, motion, drive, width };
      const key = Object.values(values).join();
      if (key === shaped) return;
      shaped = key;
      port.send({ type: "patch", values });
    },
    ready: () => port.ready(),
    dispose: () => unbend?.(),
  };
}
