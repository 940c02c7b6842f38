import type { Shaping, SoundControl } from "@/core/sound";
import type { Track } from "@/core/score";
import { drums } from "./drums";
import type { Instrument, VoicePort, PitchBend } from "./instrument";
import { KITS } from "./kits/registry";
import { controlsOf } from "./melodic/controls";
import { DESIGNS } from "./melodic/designs";
import { glassKeys } from "./melodic/glass-keys";
import { layered, type Design } from "./melodic/layered";
import { reedBass } from "./melodic/reed-bass";
import { ropePluck } from "./melodic/rope-pluck";
import { wireLead } from "./melodic/wire-lead";
import type { SoundParts } from "./sound-parts";
import type { Player } from "./synth/track-sound";
import type { Clock } from "./clock";
import { must } from "@/core/base";

/** A sound a track can have. `make` builds it in an audio context, live or offline. */
export interface Sound {
  id: string;
  label: string;
  kind: Track["kind"];
  category: string;
  about: string;
  /** What shapes it, in the order of the screen; none for kits, which are shaped pad by pad. */
  controls: readonly SoundControl[];
  /** What makes it into sound. */
  player: Player;
  make(clock: Clock, parts: SoundParts): Instrument;
}

/** What of a track's shaping a sound has controls for: what was set for another sound waits unheard. */
export function shapingOf(track: Track, { controls }: Pick<Sound, "controls">): Shaping {
  const own = Object.entries(track.shaping ?? {}).filter(([control]) =>
    controls.includes(control as SoundControl),
  );
  return Object.fromEntries(own);
}

/** A melodic sound: its instrument is shaped by the controls it has. */
function melodic(
  sound: Omit<Sound, "kind" | "controls" | "player" | "make">,
  make: (clock: Clock, port: VoicePort, pitchBend: PitchBend | null) => Instrument,
  design?: Design,
): Sound {
  const controls = controlsOf(sound.category, design);
  return {
    ...sound,
    kind: "melody",
    controls,
    player: "voices",
    make: (clock, { port, pitchBend }) => {
      const instrument = make(clock, port, pitchBend);
      return {
        ...instrument,
        update: (track) =>
          instrument.update?.({ ...track, shaping: shapingOf(track, { controls }) }),
      };
    },
  };
}

/** All sounds. One line adds one. */
export const SOUNDS: readonly Sound[] = [
  ...KITS.map(({ id, label, about }): Sound => ({
    id,
    label,
    about,
    kind: "drums",
    category: "Kit",
    controls: [],
    player: "hits",
    make: drums,
  })),
  melodic(
    {
      id: "reed-bass",
      label: "Reed bass",
      category: "Bass",
      about: "Round and woody, closes as it speaks",
    },
    reedBass,
  ),
  melodic(
    {
      id: "glass-keys",
      label: "Glass keys",
      category: "Keys",
      about: "Struck glass, brighter when played harder",
    },
    glassKeys,
  ),
  melodic(
    {
      id: "rope-pluck",
      label: "Rope pluck",
      category: "Pluck",
      about: "A thick plucked string that dies away",
    },
    ropePluck,
  ),
  melodic(
    {
      id: "wire-lead",
      label: "Wire lead",
      category: "Lead",
      about: "Thin and singing, slides from note to note",
    },
    wireLead,
  ),
  ...DESIGNS.map(({ design, ...sound }) => melodic(sound, layered(design), design)),
];

/** Sounds by the category they belong to, in their order. */
export function byCategory(sounds: readonly Sound[]): [category: string, sounds: Sound[]][] {
  return [...Map.groupBy(sounds, ({ category }) => category)];
}

/** The sound of a track; where its id is unknown, the first of its kind, so that it still plays. */
export function soundOf(track: Pick<Track, "kind" | "sound">): Sound {
  const own = SOUNDS.find((sound) => sound.id === track.sound && sound.kind === track.kind);
  return own ?? must(SOUNDS.find((sound) => sound.kind === track.kind));
}
