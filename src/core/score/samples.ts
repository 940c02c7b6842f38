import type { SampleRef } from "./kit-shape";
import type { Pattern, Track } from "./model";

/** What may use samples: kits of tracks, and patterns that were made from a recording. */
export interface UsesSamples {
  tracks?: readonly Pick<Track, "kit">[];
  patterns?: readonly Pick<Pattern, "recording">[];
}

/** The samples that a project or a part of one uses, each once. */
export function samplesOf({ tracks = [], patterns = [] }: UsesSamples): SampleRef[] {
  const refs = [
    ...tracks.flatMap((track) => track.kit?.pads.flatMap((pad) => pad.sample ?? []) ?? []),
    ...patterns.flatMap(({ recording }) => recording?.sample ?? []),
  ];
  return [...new Map(refs.map((ref) => [ref.id, ref])).values()];
}
