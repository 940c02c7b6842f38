import type { Decibels, Seconds } from "@/core/base";

/** What a click is of: the first beat of the bar, another, or a part of a beat. */
export type ClickKind = "bar" | "beat" | "part";

/** How the metronome sounds. */
export interface ClickSound {
  sound: (typeof CLICKS)[number]["id"];
  level: Decibels;
  /** Whether the first beat of the bar stands out. */
  accent: boolean;
}

/** A sound of the metronome: a wave, and its pitches in Hz on the first beat, the others and between. */
interface Click {
  id: string;
  label: string;
  wave: OscillatorType;
  hz: Readonly<Record<ClickKind, number>>;
  /** Seconds. */
  ring: Seconds;
}

/** Sounds of the metronome. One line adds one. */
export const CLICKS = [
  {
    id: "tick",
    label: "Tick",
    wave: "triangle",
    hz: { bar: 1760, beat: 1175, part: 880 },
    ring: 0.05,
  },
  {
    id: "block",
    label: "Block",
    wave: "sine",
    hz: { bar: 1047, beat: 784, part: 659 },
    ring: 0.075,
  },
  {
    id: "pip",
    label: "Pip",
    wave: "square",
    hz: { bar: 2093, beat: 1568, part: 1319 },
    ring: 0.03,
  },
] as const satisfies readonly Click[];

const LOUD: Readonly<Record<ClickKind, number>> = { bar: 0.2, beat: 0.12, part: 0.06 };

/** One click, at a time of the audio clock. */
export function clickAt(
  output: AudioNode,
  time: Seconds,
  kind: ClickKind,
  { sound, accent }: Pick<ClickSound, "sound" | "accent">,
): void {
  const { context } = output;
  const { wave, hz, ring } = CLICKS.find(({ id }) => id === sound) ?? CLICKS[0];
  const played = kind === "bar" && !accent ? "beat" : kind;
  const source = context.createOscillator();
  const gain = context.createGain();
  source.type = wave;
  source.frequency.value = hz[played];
  gain.gain.setValueAtTime(0, time);
  gain.gain.linearRampToValueAtTime(LOUD[played], time + 0.001);
  gain.gain.exponentialRampToValueAtTime(0.0005, time + ring);
  source.connect(gain).connect(output);
  source.onended = () => gain.disconnect();
  source.start(time);
  source.stop(time + ring + 0.01);
}
