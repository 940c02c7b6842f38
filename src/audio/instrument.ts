import {
  pitchHz,
  type Decibels,
  type MidiPitch,
  type Pan,
  type Seconds,
  type Semitones,
  type Track,
  type Velocity,
} from "@/core";

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
}

/** A level in dB as a gain. */
export const gainOf = (db: Decibels): number => 10 ** (db / 20);

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
  note: Pick<Trigger, "time" | "pitch" | "glide">,
  base = 0,
): void {
  const { time, pitch, glide } = note;
  frequency.setValueAtTime(pitchHz(pitch + base), time);
  if (!glide) return;
  const takes = Math.min(GLIDE, glide.seconds / 2);
  frequency.setValueAtTime(pitchHz(pitch + base), time + glide.seconds - takes);
  frequency.exponentialRampToValueAtTime(pitchHz(glide.pitch + base), time + glide.seconds);
}

/** A wave of a voice, so many semitones and cents off its pitch, mixed in at a level. */
export function mixedIn(
  context: BaseAudioContext,
  note: Pick<Trigger, "time" | "pitch" | "glide">,
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

/**
 * An instrument of a voice for each note. Scheduled and held notes go the same way: begun, and let go at
 * a time, known beforehand or not.
 */
export function voiced(
  context: BaseAudioContext,
  output: AudioNode,
  wheel: Wheel | null,
  { shortest, fade, ring }: Ending,
  voice: (note: Strike & Pick<Trigger, "glide">) => Voice,
): Instrument {
  const sounding = new Sounding();
  const begin = (note: Strike & Pick<Trigger, "glide">, held: boolean) => {
    const { gain, sources } = voice(note);
    panned(context, gain, output, note.pan);
    const cents = wheel && (held || wheel.inUse) ? wheel.cents : null;
    for (const source of sources) {
      cents?.connect(source.detune);
      source.start(note.time);
    }
    sounding.add(gain, sources, {
      held,
      // A connection to what has ended would be kept for ever.
      ended: () => {
        if (cents) for (const source of sources) cents.disconnect(source.detune);
      },
    });
    let ended = false;
    return (time: Seconds) => {
      if (ended) return;
      ended = true;
      const end = Math.max(time, note.time + shortest);
      gain.gain.setTargetAtTime(0, end, fade);
      for (const source of sources) source.stop(end + ring);
    };
  };
  return {
    trigger: (note) => begin(note, false)(note.time + heldSeconds(note)),
    hold: (note) => ({ release: begin(note, true) }),
    silence: (spareHeld) => sounding.silence(context, spareHeld),
  };
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
