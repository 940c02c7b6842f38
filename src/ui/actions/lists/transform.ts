import { TRANSFORMS } from "@/core/transforms";
import { addToChain } from "../../commands/tracks/chain";
import { addFillCard } from "../../commands/tracks/lanes";
import { rampBetween } from "../../commands/notes/selected";
import { transformNow } from "../../commands/tracks/transforming";
import type { SessionStore } from "../../state/store";
import { ON_TRACK, actions } from "../action";

const seed = () => Math.floor(Math.random() * 10_000);
const semitones = (by: number) => (store: SessionStore) =>
  transformNow(
    store,
    "transpose",
    { semitones: by },
    { label: "Transpose", group: "key-transpose" },
  );
const inversion = (steps: number) => (store: SessionStore) =>
  transformNow(store, "inversion", { steps }, { label: "Chord inversion", group: "key-inversion" });
const nth = (count: number) => `${count}${count === 2 ? "nd" : "th"}`;

/** Other words of the trade for a transform. */
const OTHERS: Readonly<Record<string, string>> = {
  swing: "shuffle",
  quantize: "quantise",
  humanize: "humanise",
  stretch: "half time double tempo",
  strum: "chord",
  arpeggiate: "chord arpeggio",
  strays: "stray",
};

/** Transforms at once, by key; then each transform as a card. */
export const TRANSFORM = actions(
  "Transform",
  [
    {
      id: "semitone-up",
      label: "A semitone up",
      keys: "$mod+ArrowUp",
      words: "transpose pitch tune",
      run: semitones(1),
    },
    {
      id: "semitone-down",
      label: "A semitone down",
      keys: "$mod+ArrowDown",
      words: "transpose pitch tune",
      run: semitones(-1),
    },
    {
      id: "octave-up",
      label: "An octave up",
      keys: "PageUp",
      words: "transpose pitch",
      run: semitones(12),
    },
    {
      id: "octave-down",
      label: "An octave down",
      keys: "PageDown",
      words: "transpose pitch",
      run: semitones(-12),
    },
    {
      id: "inversion-up",
      label: "Chords turned over, up",
      keys: "Alt+Shift+PageUp",
      words: "inversion invert voicing",
      run: inversion(1),
    },
    {
      id: "inversion-down",
      label: "Chords turned over, down",
      keys: "Alt+Shift+PageDown",
      words: "inversion invert voicing",
      run: inversion(-1),
    },
    {
      id: "snap",
      label: "Snap the selection to the scale",
      keys: "a",
      words: "key",
      run: (store) => transformNow(store, "snap-to-scale", {}, { label: "Snap to scale" }),
    },
    {
      id: "humanize",
      label: "Humanize, with its values",
      keys: "h",
      words: "random feel",
      run: (store) => {
        store.getState().setTools({ bench: "transform" });
        store.getState().request("apply-humanize");
      },
    },
    ...[2, 3, 4, 5, 6, 7, 8].map((count) => ({
      id: `roll-${count}`,
      label: `Roll in ${count}`,
      keys: `${count}`,
      words: "flam ratchet retrigger",
      run: (store: SessionStore) =>
        transformNow(store, "roll", { count }, { label: `Roll in ${count}` }),
    })),
    {
      id: "roll-n",
      label: "Roll in any number",
      keys: "Shift+R",
      words: "flam ratchet",
      run: (store) => store.getState().request("cut-into"),
    },
    {
      id: "reverse",
      label: "Reverse the selection",
      keys: "r",
      words: "backwards retrograde",
      run: (store) => transformNow(store, "reverse", {}, { label: "Reverse" }),
    },
    {
      id: "quantize",
      label: "Quantize the selection",
      keys: "q",
      words: "grid timing quantise",
      run: (store) => transformNow(store, "quantize", {}, { label: "Quantize" }),
    },
    {
      id: "fill",
      label: "Fill the lane, as a card",
      keys: "f",
      words: "steps euclid even",
      run: addFillCard,
    },
    ...[2, 4, 8].map((count) => ({
      id: `fill-${count}`,
      label: `Fill every ${nth(count)} step`,
      run: (store: SessionStore) =>
        transformNow(
          store,
          "fill",
          { every: count },
          { label: `Fill every ${nth(count)} step`, on: "lane" },
        ),
    })),
    {
      id: "ramp",
      label: "Velocity ramp from first to last",
      keys: "v",
      words: "crescendo fade",
      run: rampBetween,
    },
    {
      id: "level",
      label: "Level velocities by half",
      keys: "Shift+V",
      words: "even flatten",
      run: (store) =>
        transformNow(store, "velocity", { way: "level" }, { label: "Level", on: "lane" }),
    },
    {
      id: "accent",
      label: "Accent the first beats",
      keys: "Shift+A",
      words: "velocity downbeat",
      run: (store) =>
        transformNow(
          store,
          "velocity",
          { way: "accent", beats: "1" },
          { label: "Accent", on: "lane" },
        ),
    },
    {
      id: "accent-back",
      label: "Accent beats 2 and 4",
      words: "velocity backbeat",
      run: (store) =>
        transformNow(
          store,
          "velocity",
          { way: "accent", beats: "2 4" },
          { label: "Accent", on: "lane" },
        ),
    },
    {
      id: "pan",
      label: "Alternate pan",
      keys: "x",
      words: "stereo left right",
      run: (store) =>
        transformNow(store, "alternate-pan", {}, { label: "Alternate pan", on: "lane" }),
    },
    {
      id: "thin",
      label: "Thin by chance, beats kept",
      keys: "Shift+T",
      words: "random drop",
      run: (store) => transformNow(store, "thin", { seed: seed() }, { label: "Thin", on: "lane" }),
    },
    ...Object.entries(TRANSFORMS).map(([id, { label }]) => ({
      id: `card-${id}`,
      label: `${label}: add to chain`,
      words: `card transform ${OTHERS[id] ?? ""}`,
      run: (store: SessionStore) => addToChain(store, id),
    })),
  ],
  ON_TRACK,
);
