import { type Bpm, type Milliseconds, clamp } from "../base";
import { tempoTable } from "../time";
import { plainOf, type Range, type Sparse } from "./sparse";

/**
 * The room that all tracks share. Reverb: how large it is, how long it takes to fall by 60 dB (its
 * reverberation time), above what frequency it is dull, and how long before it begins. Echo: how long
 * until it comes back, how much of it comes back again, above what frequency each return is duller.
 * `level` is that of the whole mix.
 */
export const SEND_EFFECT_RANGES = {
  size: { label: "Size", min: 0, max: 100, step: 1, plain: 40, unit: "%" },
  decay: { label: "Decay", min: 100, max: 12_000, step: 10, plain: 1800, unit: "ms" },
  tone: { label: "Tone", min: 500, max: 16_000, step: 50, plain: 6000, unit: "Hz" },
  preDelay: { label: "Pre-delay", min: 0, max: 500, step: 1, plain: 12, unit: "ms" },
  echoTime: { label: "Time", min: 5, max: 4000, step: 1, plain: 375, unit: "ms" },
  feedback: { label: "Feedback", min: 0, max: 90, step: 1, plain: 40, unit: "%" },
  echoTone: { label: "Tone", min: 500, max: 16_000, step: 50, plain: 3500, unit: "Hz" },
  level: { label: "Level", min: -24, max: 12, step: 0.5, plain: 0, unit: "dB" },
} as const satisfies Record<string, Range>;

export type SendEffectField = keyof typeof SEND_EFFECT_RANGES;

/** Times of the room that may be a note value, and the fields that say so. */
export const SYNCED = {
  decay: "decayValue",
  preDelay: "preDelayValue",
  echoTime: "echoValue",
} as const satisfies Partial<Record<SendEffectField, string>>;

export type SyncedTime = keyof typeof SYNCED;

/** The room's values. A `…Value` names a note value of the tempo table; empty where the time in ms holds. */
export type SendEffectValues = Record<SendEffectField, number> &
  Record<(typeof SYNCED)[SyncedTime], string> & { pingPong: boolean };

/** The room of a project that says nothing of it. */
export const PLAIN_SEND_EFFECTS: Readonly<SendEffectValues> = {
  ...plainOf(SEND_EFFECT_RANGES),
  decayValue: "",
  preDelayValue: "",
  echoValue: "1/8.",
  pingPong: false,
};

/** What of a project's room is not plain. */
export type SendEffects = Sparse<SendEffectValues>;

/** Names of the note values a time may be. */
export const TIME_VALUES: readonly string[] = tempoTable(120).map((row) => row.name);

/** A time of the room in ms, at a tempo: its note value where it has one, held to the time's range. */
export function sendEffectTime(
  room: SendEffects | undefined,
  time: SyncedTime,
  bpm: Bpm,
): Milliseconds {
  const values = { ...PLAIN_SEND_EFFECTS, ...room };
  const name = values[SYNCED[time]];
  const row = name ? tempoTable(bpm).find((row) => row.name === name) : undefined;
  const { min, max } = SEND_EFFECT_RANGES[time];
  return row ? clamp(row.ms, min, max) : values[time];
}
