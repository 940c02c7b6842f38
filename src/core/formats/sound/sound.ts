import { param } from "../../params";
import { defineFormat, type SoundRequest } from "../common/format";

/** What of several files each holds, and how the request says it. */
const STEMS = {
  "the mix": "mix",
  tracks: "tracks",
  lanes: "lanes",
  "drums and melodies": "buses",
} as const satisfies Record<string, SoundRequest["stems"]>;
const SENDS = {
  "files of their own": "apart",
  "with each": "with",
  "left out": "without",
} as const satisfies Record<string, SoundRequest["sends"]>;
const LEVELS = ["as it is", "to a peak", "to a loudness"] as const;
const RATES = ["44.1 kHz", "48 kHz", "96 kHz"] as const;

/** No file is made louder than this, whatever loudness is asked for. */
const CEILING_DB = -1;

const stems = Object.keys(STEMS);
const several = stems.filter((files) => files !== "the mix");

/** The options of a file of sound, whatever its format. */
const optionsOf = (bits: readonly string[]) => ({
  files: param.choice("Files", stems),
  sends: param.choice("Reverb and echo", Object.keys(SENDS), {
    when: { param: "files", is: several },
  }),
  limiter: param.flag("Limiter of the whole"),
  bits: param.choice("Bits", bits),
  rate: param.choice("Sample rate", RATES),
  level: param.choice("Level", LEVELS),
  peak: param.number("Peak", -24, 0, {
    unit: "dB",
    step: 0.5,
    when: { param: "level", is: ["to a peak"] },
  }),
  loudness: param.number("Loudness", -36, -6, {
    unit: "LUFS",
    step: 0.5,
    when: { param: "level", is: ["to a loudness"] },
  }),
  rounds: param.whole("Loops of the pattern", 1, 99, { extents: ["pattern", "loop", "range"] }),
  ring: param.flag("Let it ring out", { extents: ["pattern", "song", "range"] }),
});

const DEFAULTS = {
  files: "the mix",
  sends: "files of their own",
  limiter: true,
  bits: "24",
  rate: "44.1 kHz",
  level: LEVELS[0] as string,
  peak: -1,
  loudness: -14,
  rounds: 1,
  ring: true,
};

const requestOf = (
  file: SoundRequest["file"],
  options: typeof DEFAULTS,
  { broadcast }: { broadcast: boolean },
): SoundRequest => ({
  file,
  stems: STEMS[options.files as keyof typeof STEMS],
  sends: SENDS[options.sends as keyof typeof SENDS],
  limited: options.limiter,
  bits: options.bits === "16" ? 16 : options.bits === "24" ? 24 : 32,
  rate: Math.round(Number.parseFloat(options.rate) * 1000),
  loops: options.rounds,
  ring: options.ring,
  broadcast,
  gain: (peak, loudness) => gainOf(options, peak, loudness),
});

/** What everything is multiplied by. To a loudness, no more than leaves the highest sample below the ceiling. */
function gainOf(options: typeof DEFAULTS, peak: number, loudness: number): number {
  const times = (db: number) => 10 ** (db / 20);
  if (options.level === "to a peak") return times(options.peak) / peak;
  if (options.level !== "to a loudness" || !Number.isFinite(loudness)) return 1;
  return Math.min(times(options.loudness - loudness), times(CEILING_DB) / peak);
}

/** RIFF/WAVE. */
export const wave = defineFormat({
  label: "WAV audio",
  extensions: ["wav"],
  type: "audio/wav",
  words: "wave audio sound bounce mixdown render stems bext smpl",
  about: "Sound as it is, for any editor, player or sampler",
  extents: ["pattern", "loop", "song", "range"],
  options: {
    ...optionsOf(["16", "24", "32 float"]),
    broadcast: param.flag("Broadcast notes (bext)"),
  },
  defaults: { ...DEFAULTS, broadcast: false },
  sound: (options) => requestOf("wav", options, options),
});

/** Free Lossless Audio Codec (RFC 9639). */
export const flac = defineFormat({
  label: "FLAC audio",
  extensions: ["flac"],
  type: "audio/flac",
  words: "flac audio sound lossless compressed bounce mixdown render stems",
  about: "The same sound at about half the file size",
  extents: ["pattern", "loop", "song", "range"],
  options: optionsOf(["16", "24"]),
  defaults: DEFAULTS,
  sound: (options) => requestOf("flac", options, { broadcast: false }),
});
