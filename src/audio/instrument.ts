import {
  PLAIN_SOUND,
  SEND_OFF,
  pitchHz,
  type Decibels,
  type MidiPitch,
  type Pan,
  type Seconds,
  type Semitones,
  type SoundValues,
  type Track,
  type Velocity,
} from "@/core";
import { Body } from "./melodic/body";

/** One note for an instrument: times in seconds of the audio clock. */
export interface Trigger {
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
export type Strike = Omit<Trigger, "seconds" | "glide">;

/** A note that sounds until it is let go. */
export interface HeldNote {
  /** Ends it at a time of the audio clock; the second time does nothing. */
  release(time: Seconds): void;
}

/** Something that sounds into an audio node, live or offline. */
export interface Instrument {
  trigger(note: Trigger): void;
  /** Begins a note that sounds until it is let go; a hit rings out by itself. */
  hold(note: Strike): HeldNote;
  /** Takes over what the track says of its sound; notes already asked for stay as they were. */
  update?(track: Track): void;
  /** Resolves when everything asked of it is rendered. */
  ready?(): Promise<void>;
  /** Lets go of everything, what is only asked for included, within a few ms; on wish not of what is held. */
  silence(spareHeld?: boolean): void;
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
 * Sets the pitch of an oscillator (`base` semitones off), sliding at the end of the note where it is
 * marked to: it arrives when the next one begins.
 */
export function slidPitch(
  frequency: AudioParam,
  note: Pick<VoiceNote, "time" | "pitch" | "glide" | "from">,
  base = 0,
): void {
  const { time, pitch, glide, from } = note;
  frequency.setValueAtTime(pitchHz((from?.pitch ?? pitch) + base), time);
  let there = 0;
  if (from) {
    there = glide ? Math.min(from.seconds, glide.seconds / 2) : from.seconds;
    frequency.exponentialRampToValueAtTime(pitchHz(pitch + base), time + there);
  }
  if (!glide) return;
  const takes = Math.min(GLIDE, glide.seconds / 2, glide.seconds - there);
  frequency.setValueAtTime(pitchHz(pitch + base), time + glide.seconds - takes);
  frequency.exponentialRampToValueAtTime(pitchHz(glide.pitch + base), time + glide.seconds);
}

/** A wave of a voice, so many semitones and cents off its pitch, mixed in at a level. */
export function mixedIn(
  context: BaseAudioContext,
  note: Pick<VoiceNote, "time" | "pitch" | "glide" | "from">,
  into: AudioNode,
  [type, base, cents, level]: readonly [OscillatorType, Semitones, number, number],
): OscillatorNode {
  const source = context.createOscillator();
  source.type = type;
  source.detune.value = cents;
  slidPitch(source.frequency, note, base);
  const mix = context.createGain();
  mix.gain.value = level;
  source.connect(mix).connect(into);
  return source;
}

/** When a note ends, in seconds after its start: one that slides reaches the next. */
function heldSeconds({ seconds, glide }: Trigger): number {
  return glide && glide.seconds - seconds < HOLD_ON ? Math.max(seconds, glide.seconds) : seconds;
}

/** What bends the notes of a track: a node that gives cents, for the `detune` of whatever sounds. */
export interface Wheel {
  readonly cents: AudioNode;
  /** Whether it was ever moved: until then scheduled notes need not listen to it. */
  readonly inUse: boolean;
}

/** Something that sounds one note: what is faded, what makes the sound, and how it ends. */
export interface Voice {
  gain: GainNode;
  sources: (OscillatorNode | AudioBufferSourceNode)[];
  /** Filters that brightness opens and closes. */
  filters?: readonly BiquadFilterNode[];
  /** Is told when the voice has ended. */
  ended?: () => void;
  /** Sources that have died away by themselves by then, not the first of them. */
  gone?: ReadonlyMap<AudioScheduledSourceNode, Seconds>;
  /** When the attack is over: one that is let go before is held where it is. */
  risen?: Seconds;
}

/** A note for a voice: how it comes in, and how the sound is shaped. */
export interface VoiceNote extends Strike, Pick<Trigger, "glide"> {
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
const MOST_VOICES = 64;
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
  context: BaseAudioContext,
  output: AudioNode,
  wheel: Wheel | null,
  { shortest, fade, ring }: Ending,
  voice: (note: VoiceNote) => Voice,
): Instrument {
  const sounding = new Sounding();
  const body = new Body(context, output);
  let shape: SoundValues = PLAIN_SOUND;
  /** In order of time. */
  let begun: Begun[] = [];

  /** The note that this one follows on, if it is played with glide and that has not ended. */
  const before = (time: Seconds): Begun | undefined =>
    begun.findLast((one) => one.time < time - TOGETHER && one.end > time - TOGETHER);

  const begin = (note: Strike & Pick<Trigger, "glide">, held: boolean) => {
    // Thousands at once: those beyond what sounds would only be made to give way.
    const now = begun.filter((one) => !one.gone && Math.abs(one.time - note.time) < INSTANT);
    if (now.length >= MOST_VOICES) return () => undefined;
    const last = shape.glide > 0 ? before(note.time) : undefined;
    const from = last && { pitch: last.pitch, seconds: shape.glide / 1000 };
    // A chord takes over from all that sounds, once.
    if (last) for (const one of begun) if (one.time < note.time - TOGETHER) one.giveWay(note.time);
    const { gain, sources, filters, gone, risen, ended } = voice({
      ...note,
      shape,
      ...(from && { from }),
    });
    panned(context, gain, body.input, note.pan);
    const cents = wheel && (held || wheel.inUse) ? wheel.cents : null;
    const opening = body.opening;
    if (opening) for (const filter of filters ?? []) opening.connect(filter.detune);
    for (const source of sources) {
      cents?.connect(source.detune);
      source.start(note.time);
    }
    sounding.add(gain, sources, {
      held,
      // A connection to what has ended would be kept for ever.
      ended: () => {
        ended?.();
        if (cents) for (const source of sources) cents.disconnect(source.detune);
        if (opening) for (const filter of filters ?? []) opening.disconnect(filter.detune);
      },
    });
    const stopAt = (time: Seconds) => {
      for (const source of sources) source.stop(Math.min(time, gone?.get(source) ?? Infinity));
    };
    for (const [source, time] of gone ?? []) if (time < Infinity) source.stop(time);
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
        heldAt(gain.gain, at);
        gain.gain.setTargetAtTime(0, at, GIVES_WAY);
        stopAt(one.silent);
      },
    };
    begun = begun.filter(({ silent }) => silent > note.time - FORGET);
    const place = begun.findLastIndex((other) => other.time <= note.time) + 1;
    begun.splice(place, 0, one);
    const together = begun.filter(
      (other) => !other.gone && other.time <= note.time && other.silent > note.time,
    );
    if (together.length > MOST_VOICES) together[0]!.giveWay(note.time);
    return (time: Seconds) => {
      if (one.end !== Infinity) return;
      one.end = Math.max(time, note.time + shortest);
      one.silent = one.end + ring * shape.release;
      if (risen !== undefined && one.end < risen) heldAt(gain.gain, one.end);
      gain.gain.setTargetAtTime(0, one.end, fade * shape.release);
      stopAt(one.silent);
    };
  };
  return {
    trigger: (note) => begin(note, false)(note.time + heldSeconds(note)),
    hold: (note) => ({ release: begin(note, true) }),
    silence: (spareHeld) => {
      sounding.silence(context, spareHeld);
      const now = context.currentTime;
      begun = begun.filter((one) => one.end === Infinity || one.time <= now);
      for (const one of begun) if (one.end !== Infinity) one.end = Math.min(one.end, now);
    },
    update: (track) => {
      shape = { ...PLAIN_SOUND, ...track.shaping };
      body.update(shape);
    },
    dispose: () => body.dispose(),
  };
}

/** Holds a value where it will be at a time, whatever was to come after. */
function heldAt(param: AudioParam, time: Seconds): void {
  if ("cancelAndHoldAtTime" in param) param.cancelAndHoldAtTime(time);
  else (param as AudioParam).cancelScheduledValues(time);
}

/** Sources that are asked for or sounding, so that stopping can reach them. */
export class Sounding {
  private readonly live = new Set<{
    gain: GainNode;
    sources: AudioScheduledSourceNode[];
    held: boolean;
  }>();

  /** `held` says that it is held by hand; `ended` is told when its sources have. */
  add(
    gain: GainNode,
    sources: AudioScheduledSourceNode[],
    { held = false, ended }: { held?: boolean; ended?: () => void } = {},
  ): void {
    const voice = { gain, sources, held };
    this.live.add(voice);
    const last = sources[0]!;
    last.onended = () => {
      this.live.delete(voice);
      ended?.();
      for (const source of sources) source.disconnect();
      gain.disconnect();
    };
  }

  silence(context: BaseAudioContext, spareHeld = false): void {
    const now = context.currentTime;
    for (const { gain, sources, held } of this.live) {
      if (held && spareHeld) continue;
      gain.gain.cancelScheduledValues(now);
      gain.gain.setTargetAtTime(0, now, 0.004);
      for (const source of sources) source.stop(now + 0.03);
    }
  }
}

/** Connects a voice to an instrument's output, through a panner only where it is not in the middle. */
function panned(context: BaseAudioContext, from: AudioNode, to: AudioNode, pan: Pan): void {
  if (pan === 0) {
    from.connect(to);
    return;
  }
  const panner = context.createStereoPanner();
  panner.pan.value = pan;
  from.connect(panner).connect(to);
}
