import type { SoundControl, Track } from "@/core";
import { drums } from "./drums";
import type { Instrument, Wheel } from "./instrument";
import { KITS } from "./kits/registry";
import { controlsOf } from "./melodic/controls";
import { DESIGNS } from "./melodic/designs";
import { glassKeys } from "./melodic/glass-keys";
import { layered } from "./melodic/layered";
import { reedBass } from "./melodic/reed-bass";
import { ropePluck } from "./melodic/rope-pluck";
import { wireLead } from "./melodic/wire-lead";
import type { SoundParts } from "./sound-parts";

/** A sound a track can have. `make` builds it in an audio context, live or offline. */
export interface Sound {
  id: string;
  label: string;
  kind: Track["kind"];
  category: string;
  about: string;
  /** What shapes it, in the order of the screen; none for kits, which are shaped pad by pad. */
  controls: readonly SoundControl[];
  make(context: BaseAudioContext, output: AudioNode, parts: SoundParts): Instrument;
}

/** An instrument that needs no more than what bends it. */
const played =
  (make: (context: BaseAudioContext, output: AudioNode, wheel: Wheel | null) => Instrument) =>
  (context: BaseAudioContext, output: AudioNode, { wheel }: SoundParts) =>
    make(context, output, wheel);

/** All sounds. One line adds one. */
export const SOUNDS: readonly Sound[] = [
  ...KITS.map(({ id, label, about }): Sound => ({
    id,
    label,
    about,
    kind: "drums",
    category: "Kit",
    controls: [],
    make: drums,
  })),
  {
    id: "reed-bass",
    label: "Reed bass",
    kind: "melody",
    category: "Bass",
    controls: controlsOf("Bass"),
    about: "Round and woody, closes as it speaks",
    make: played(reedBass),
  },
  {
    id: "glass-keys",
    label: "Glass keys",
    kind: "melody",
    category: "Keys",
    controls: controlsOf("Keys"),
    about: "Struck glass, brighter when played harder",
    make: played(glassKeys),
  },
  {
    id: "rope-pluck",
    label: "Rope pluck",
    kind: "melody",
    category: "Pluck",
    controls: controlsOf("Pluck"),
    about: "A thick plucked string that dies away",
    make: played(ropePluck),
  },
  {
    id: "wire-lead",
    label: "Wire lead",
    kind: "melody",
    category: "Lead",
    controls: controlsOf("Lead"),
    about: "Thin and singing, slides from note to note",
    make: played(wireLead),
  },
  ...DESIGNS.map(({ design, ...sound }): Sound => ({
    ...sound,
    kind: "melody",
    controls: controlsOf(sound.category, design),
    make: played(layered(design)),
  })),
];

/** The sound of a track; where its id is unknown, the first of its kind, so that it still plays. */
export function soundOf(track: Pick<Track, "kind" | "sound">): Sound {
  const own = SOUNDS.find((sound) => sound.id === track.sound && sound.kind === track.kind);
  return own ?? SOUNDS.find((sound) => sound.kind === track.kind)!;
}
