import type { Decibels, Milliseconds } from "../base";
import { plainOf, type Range, type Sparse } from "./sparse";

/** What of a track and of a pad can be sent to. */
export const SENDS = ["reverb", "echo"] as const;
export type Send = (typeof SENDS)[number];

/** The bottom of a send: nothing goes there. */
export const SEND_OFF: Decibels = -60;

/**
 * What a track goes through, in this order: a low and a high shelf, drive, compressor, ducking; and how much
 * of it goes to the reverb and the echo, in dB of what is heard of it.
 */
export const MIX_RANGES = {
  low: { label: "Low", min: -18, max: 18, step: 0.5, plain: 0, unit: "dB" },
  high: { label: "High", min: -18, max: 18, step: 0.5, plain: 0, unit: "dB" },
  drive: { label: "Drive", min: 0, max: 100, step: 1, plain: 0, unit: "%" },
  compress: { label: "Compress", min: 0, max: 100, step: 1, plain: 0, unit: "%" },
  reverb: { label: "Reverb", min: SEND_OFF, max: 6, step: 0.5, plain: SEND_OFF, unit: "dB" },
  echo: { label: "Echo", min: SEND_OFF, max: 6, step: 0.5, plain: SEND_OFF, unit: "dB" },
  duckDepth: { label: "Depth", min: 0, max: 36, step: 0.5, plain: 9, unit: "dB" },
  duckRelease: { label: "Release", min: 20, max: 2000, step: 5, plain: 220, unit: "ms" },
} as const satisfies Record<string, Range>;

export type MixField = keyof typeof MIX_RANGES;

/** Where the shelves turn, in Hz. */
export const SHELVES = { low: 160, high: 4200 } as const;

/**
 * How a track is mixed. `duckBy` is the drum track whose hits on the pad `duckPad` press it down by
 * `duckDepth` (a hit at velocity 127; softer ones less), from where it is nine tenths back after
 * `duckRelease`; an empty text for none.
 */
export interface TrackMix extends Record<MixField, number> {
  duckBy: string;
  duckPad: number;
  duckDepth: Decibels;
  duckRelease: Milliseconds;
}

/** A track that goes through as it is. */
export const PLAIN_MIX: Readonly<TrackMix> = {
  ...plainOf(MIX_RANGES),
  duckBy: "",
  duckPad: 36,
};

/** What of a track's mix is not plain. */
export type Mix = Sparse<TrackMix>;

/** What of a pad's sound goes to the reverb and the echo; left out where nothing does. */
export const PAD_SENDS = { reverb: MIX_RANGES.reverb, echo: MIX_RANGES.echo } as const;

/** A mix without being ducked, where it was. */
export function unducked(mix: Mix): Mix | undefined {
  const { duckBy: _, duckPad: __, duckDepth: ___, duckRelease: ____, ...rest } = mix;
  return Object.keys(rest).length > 0 ? rest : undefined;
}
