import * as yup from "yup";
import { param } from "../../params";
import type { Asks, Format } from "../common/format";

/** What of several files each holds, and what the whole goes through. */
export const SOUND_FILES = ["the mix", "tracks", "lanes", "drums and melodies"] as const;
export const SOUND_SENDS = ["files of their own", "with each", "left out"] as const;
export const SOUND_LEVELS = ["as it is", "to a peak", "to a loudness"] as const;
export const SOUND_RATES = ["44.1 kHz", "48 kHz", "96 kHz"] as const;

const several = SOUND_FILES.filter((files) => files !== "the mix");

/** What is asked of a file of sound, whatever its format. */
const asked = (bits: readonly string[]) => ({
  files: param.choice("Files", SOUND_FILES),
  sends: param.choice("Reverb and echo", SOUND_SENDS, { when: { param: "files", is: several } }),
  limiter: param.flag("Limiter of the whole"),
  bits: param.choice("Bits", bits),
  rate: param.choice("Sample rate", SOUND_RATES),
  level: param.choice("Level", SOUND_LEVELS),
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
  rounds: param.whole("Rounds of the pattern", 1, 99),
  ring: param.flag("Let it ring out"),
});

const DEFAULTS = {
  files: SOUND_FILES[0],
  sends: SOUND_SENDS[0],
  limiter: true,
  bits: "24",
  rate: "44.1 kHz",
  level: SOUND_LEVELS[0],
  peak: -1,
  loudness: -14,
  rounds: 1,
  ring: true,
};

const EXTENTS: Asks["extents"] = ["pattern", "loop", "song", "range"];

/** RIFF/WAVE. */
export const wave: Format = {
  label: "WAV audio",
  extensions: ["wav"],
  type: "audio/wav",
  words: "wave audio sound bounce mixdown render stems bext smpl",
  about: "Sound as it is, for any editor, player or sampler",
  sound: "wav",
  asks: {
    extents: EXTENTS,
    schema: yup.object({
      ...asked(["16", "24", "32 float"]),
      broadcast: param.flag("Broadcast notes (bext)"),
    }),
    defaults: { ...DEFAULTS, broadcast: false },
  },
};

/** Free Lossless Audio Codec (RFC 9639). */
export const flac: Format = {
  label: "FLAC audio",
  extensions: ["flac"],
  type: "audio/flac",
  words: "flac audio sound lossless compressed bounce mixdown render stems",
  about: "The same sound in about half the room",
  sound: "flac",
  asks: { extents: EXTENTS, schema: yup.object(asked(["16", "24"])), defaults: DEFAULTS },
};
