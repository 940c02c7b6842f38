import {
  pitchHz,
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

/** Something that sounds into an audio node, live or offline. */
export interface Instrument {
  trigger(note: Trigger): void;
  /** Takes over what the track says of its sound; notes already asked for stay as they were. */
  update?(track: Track): void;
  /** Resolves when everything asked of it is rendered. */
  ready?(): Promise<void>;
  /** Lets go of everything, what is only asked for included, within a few ms. */
  silence(): void;
}

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
export function slidPitch(frequency: AudioParam, note: Trigger, base = 0): void {
  const { time, pitch, glide } = note;
  frequency.setValueAtTime(pitchHz(pitch + base), time);
  if (!glide) return;
  const takes = Math.min(GLIDE, glide.seconds / 2);
  frequency.setValueAtTime(pitchHz(pitch + base), time + glide.seconds - takes);
  frequency.exponentialRampToValueAtTime(pitchHz(glide.pitch + base), time + glide.seconds);
}

/** When a note ends, in seconds after its start: one that slides reaches the next. */
export function heldSeconds({ seconds, glide }: Trigger): number {
  return glide && glide.seconds - seconds < HOLD_ON ? Math.max(seconds, glide.seconds) : seconds;
}

/** Sources that are asked for or sounding, so that stopping can reach them. */
export class Sounding {
  private readonly live = new Set<{ gain: GainNode; sources: AudioScheduledSourceNode[] }>();

  add(gain: GainNode, sources: AudioScheduledSourceNode[]): void {
    const voice = { gain, sources };
    this.live.add(voice);
    const last = sources[0]!;
    last.onended = () => {
      this.live.delete(voice);
      for (const source of sources) source.disconnect();
      gain.disconnect();
    };
  }

  silence(context: BaseAudioContext): void {
    const now = context.currentTime;
    for (const { gain, sources } of this.live) {
      gain.gain.cancelScheduledValues(now);
      gain.gain.setTargetAtTime(0, now, 0.004);
      for (const source of sources) source.stop(now + 0.03);
    }
  }
}

/** Connects a voice to an instrument's output, through a panner only where it is not in the middle. */
export function panned(context: BaseAudioContext, from: AudioNode, to: AudioNode, pan: Pan): void {
  if (pan === 0) {
    from.connect(to);
    return;
  }
  const panner = context.createStereoPanner();
  panner.pan.value = pan;
  from.connect(panner).connect(to);
}
