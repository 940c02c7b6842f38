import type { MixField } from "@/core/sound";
import type { Track } from "@/core/score";
import { Ducking, MixValue } from "../../fields/mix-values";

const THROUGH: readonly MixField[] = ["low", "high", "drive", "compress", "reverb", "echo"];

/** What a track goes through, what of it goes to the room, and what ducks it. */
export const TrackMix = ({ track }: { track: Track }) => (
  <>
    {THROUGH.map((name) => (
      <MixValue key={name} track={track} name={name} />
    ))}
    <Ducking track={track} />
  </>
);
