import { useState } from "react";
import type { MidiPitch } from "@/core/base";
import { type Project, trackOf } from "@/core/score";
import type { Becomes } from "../commands/files/listening";
import { freePads } from "../commands/tracks/lanes";

/** Kits begin with the kick: lanes are added from there on. */
const FIRST_PAD: MidiPitch = 36;

/** The track, and the pad of it, that a recording is put onto. */
export function useOnto(project: Project, becomes: Becomes) {
  const [track, setTrack] = useState("");
  /** A pad that is there, to be taken over. */
  const [chosenPad, setPad] = useState<MidiPitch | null>(null);
  const kind = becomes === "line" || becomes === "rhythm" ? "melody" : "drums";
  const tracks = becomes === "slices" ? [] : project.tracks.filter((one) => one.kind === kind);
  const target = tracks.some(({ id }) => id === track) ? track : "";
  const pads = target ? trackOf(project, target).lanes : [];
  const free = freePads(project, target).find((pitch) => pitch >= FIRST_PAD) ?? null;
  const taken = pads.find(({ pitch }) => pitch === chosenPad) ?? (free === null ? pads[0] : null);
  return {
    tracks,
    /** Empty for a new track. */
    track: target,
    setTrack,
    pads,
    free,
    /** The lane whose sound is taken over, if one is. */
    taken: taken ?? null,
    pad: taken?.pitch ?? free ?? FIRST_PAD,
    setPad,
  };
}

export type Onto = ReturnType<typeof useOnto>;
