import type { Track } from "@/core";
import { drums } from "./drums";
import type { Instrument, Wheel } from "./instrument";
import { KITS } from "./kits/registry";
import { DESIGNS } from "./melodic/designs";
import { glassKeys } from "./melodic/glass-keys";
import { layered } from "./melodic/layered";
import { reedBass } from "./melodic/reed-bass";
import { ropePluck } from "./melodic/rope-pluck";
import { wireLead } from "./melodic/wire-lead";
import type { PadRenderer } from "./pads/render";

/** A sound a track can have. `make` builds it in an audio context, live or offline. */
export interface Sound {
  id: string;
  label: string;
  kind: Track["kind"];
  category: string;
  about: string;
  make(
    context: BaseAudioContext,
    output: AudioNode,
    wheel: Wheel | null,
    render: PadRenderer,
  ): Instrument;
}

/** All sounds. One line adds one. */
export const SOUNDS: readonly Sound[] = [
  ...KITS.map(({ id, label, about }): Sound => ({
    id,
    label,
    about,
    kind: "drums",
    category: "Kit",
    make: (context, output, _, render) => drums(context, output, render),
  })),
  {
    id: "reed-bass",
    label: "Reed bass",
    kind: "melody",
    category: "Bass",
    about: "Round and woody, closes as it speaks",
    make: reedBass,
  },
  {
    id: "glass-keys",
    label: "Glass keys",
    kind: "melody",
    category: "Keys",
    about: "Struck glass, brighter when played harder",
    make: glassKeys,
  },
  {
    id: "rope-pluck",
    label: "Rope pluck",
    kind: "melody",
    category: "Pluck",
    about: "A thick plucked string that dies away",
    make: ropePluck,
  },
  {
    id: "wire-lead",
    label: "Wire lead",
    kind: "melody",
    category: "Lead",
    about: "Thin and singing, slides from note to note",
    make: wireLead,
  },
  ...DESIGNS.map(({ design, ...sound }): Sound => ({
    ...sound,
    kind: "melody",
    make: layered(design),
  })),
];

/** The sound of a track; where its id is unknown, the first of its kind, so that it still plays. */
export function soundOf(track: Pick<Track, "kind" | "sound">): Sound {
  const own = SOUNDS.find((sound) => sound.id === track.sound && sound.kind === track.kind);
  return own ?? SOUNDS.find((sound) => sound.kind === track.kind)!;
}
