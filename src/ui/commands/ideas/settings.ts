import type { Generated, Track } from "@/core/score";
import { PRESETS } from "@/core/transforms";
import {
  DRUM_IDEA_DEFAULTS,
  DRUM_STYLES,
  IDEA_DEFAULTS,
  PHRASE_DEFAULTS,
  PHRASE_FORMS,
  type PhraseForm,
  type ValueWeight,
} from "@/core/generate";
import { isBass } from "@/core/formats";
import { A_GROOVE, type Settings } from "../../state/ideas";
import { nth } from "@/core/base";

/** Note values offered in the mix; each weight is a share of the time. */
export const VALUES: readonly (Omit<ValueWeight, "weight"> & { label: string; usual: number })[] = [
  { label: "1/1", value: 1, kind: "straight", usual: 0 },
  { label: "1/2", value: 2, kind: "straight", usual: 0 },
  { label: "1/4", value: 4, kind: "straight", usual: 1 },
  { label: "1/8.", value: 8, kind: "dotted", usual: 0 },
  { label: "1/8", value: 8, kind: "straight", usual: 3 },
  { label: "1/8T", value: 8, kind: "triplet", usual: 0 },
  { label: "1/16", value: 16, kind: "straight", usual: 1 },
  { label: "1/16T", value: 16, kind: "triplet", usual: 0 },
  { label: "1/32", value: 32, kind: "straight", usual: 0 },
];

/** A contour to begin drawing from: an arch of so many heights. */
const DRAWN = Array.from(
  { length: 17 },
  (_, i) => Math.round(100 * Math.sin((Math.PI * i) / 16)) / 100,
);

/** Whether a form is one of phrases. */
export const isPhrased = (form: string): form is PhraseForm =>
  (PHRASE_FORMS as readonly string[]).includes(form);

/** Settings that ideas for a track begin with. */
export function usualSettings(track: Track): Settings {
  // The register such a sound is usually played in, as a start.
  const [low, high] = isBass(track) ? [33, 55] : [57, 81];
  const drums = track.kind === "drums";
  const from = drums ? DRUM_IDEA_DEFAULTS : IDEA_DEFAULTS;
  const { pool, rests, leap, startOn, endOn, shape, voices, approach, chromatic } = IDEA_DEFAULTS;
  const { syncopation, spread, fill } = DRUM_IDEA_DEFAULTS;
  const { density, repetition, softest, loudest } = from;
  return {
    low,
    high,
    role: isBass(track) ? "bass" : "melody",
    ...{
      pool,
      rests,
      leap,
      startOn,
      endOn,
      shape,
      voices,
      approach,
      chromatic,
      syncopation,
      spread,
      fill,
    },
    how: "",
    source: "",
    taps: [],
    groove: String(nth(PRESETS.groove!, 0).params.groove),
    ...{ density, repetition, softest, loudest },
    form: PHRASE_DEFAULTS.form,
    phraseBars: PHRASE_DEFAULTS.bars,
    contour: PHRASE_DEFAULTS.contour,
    drawn: DRAWN,
    climax: PHRASE_DEFAULTS.climax,
    strict: PHRASE_DEFAULTS.strict,
    pickup: false,
    style: nth(DRUM_STYLES, 0).id,
    weights: VALUES.map((v) => v.usual),
    allLanes: false,
    seed: 1,
  };
}

/** Settings to begin with: those a part was generated with, as far as they make sense, else the usual for so many bars. */
export function settingsFor(
  track: Track,
  generated: Generated | undefined,
  bars = Infinity,
): Settings {
  if (!generated) {
    const usual = usualSettings(track);
    // A question and an answer find room.
    return { ...usual, phraseBars: Math.max(1, Math.min(usual.phraseBars, Math.floor(bars / 2))) };
  }
  // Drums of the first version had no style, lines no role but that of a melody.
  const usual = { ...usualSettings(track), style: "", role: "melody" };
  const known = Object.entries(usual).map(([name, value]) => {
    const kept = generated.settings[name];
    const fits = Array.isArray(value)
      ? Array.isArray(kept) &&
        kept.every((one) => typeof one === "number") &&
        (name === "taps" || kept.length === value.length)
      : typeof kept === typeof value;
    return [name, fits ? kept : value];
  });
  return { ...(Object.fromEntries(known) as Settings), seed: generated.seed };
}

/** What has no say in a rhythm that answers another, follows one, or is kept, with its velocities. */
const ANSWERING = ["rests", "syncopation"];
const FOLLOWING = [...ANSWERING, "density", "weights"];
const KEEPING = [...FOLLOWING, "shape", "softest", "loudest"];

/**
 * Whether a setting has no say in what is asked for, by the other settings and whether the rhythm is kept: it is not
 * offered then.
 */
export function isIdle(id: keyof Settings, s: Settings, rhythmKept: boolean): boolean {
  const melody = s.role === "melody";
  const phrased = isPhrased(s.form);
  // Lines of the first version know no syncopation; how phrases begin and end is their own.
  if (id === "syncopation" && melody && !phrased) return true;
  if ((id === "startOn" || id === "endOn") && melody && phrased) return true;
  // A pad has the rhythm of the chords.
  const kept = rhythmKept && s.role !== "pad";
  // Of a line it brings pitches again, of others rhythms of their own alone.
  if (id === "repetition") return !melody && (kept || s.how !== "");
  if (kept) return KEEPING.includes(id);
  if (s.how === "answer") return ANSWERING.includes(id);
  // Of a groove as many steps are followed as the density says.
  if (s.how === "follow")
    return FOLLOWING.includes(id) && !(id === "density" && s.source === A_GROOVE);
  return false;
}
