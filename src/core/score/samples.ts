import type { SampleRef } from "./kit-shape";
import type { Track } from "./model";

/** The samples that tracks use, each once. */
export function samplesOf(tracks: readonly Track[]): SampleRef[] {
  const refs = tracks.flatMap((track) => track.kit?.pads.flatMap((pad) => pad.sample ?? []) ?? []);
  return [...new Map(refs.map((ref) => [ref.id, ref])).values()];
}
