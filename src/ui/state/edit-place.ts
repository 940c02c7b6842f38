import { formatPosition } from "@/core/time";
import { type Project, metreOf } from "@/core/score";
import type { SentChange } from "@/core/stored";
import { type Entry, pack } from "./history";

const places = new WeakMap<Entry, string>();

/** Where notes were edited, in words: “Kick, 1.2.1”; empty where no notes of one track were, or it is not known. */
export function placeOfEdit(entry: Entry, project: Project): string {
  let place = places.get(entry);
  if (place === undefined) {
    const packed = pack(entry);
    place = packed ? placeOf(packed.forward, packed.back, project) : "";
    places.set(entry, place);
  }
  return place;
}

function placeOf(forward: SentChange, back: SentChange, project: Project): string {
  const [own, ...others] = forward.partEdits ?? [];
  if (!own || others.length > 0 || forward.head || forward.tracks || forward.patterns) return "";
  const track = project.tracks.find(({ id }) => id === own.track);
  const pattern = project.patterns.find(({ id }) => id === own.pattern);
  if (!track || !pattern) return "";
  // What came, or else what went.
  const gone = back.partEdits?.[0]?.put ?? [];
  const notes = own.put.length > 0 ? own.put : gone;
  if (notes.length === 0) return track.name;
  const pads = new Set(notes.map(({ pitch }) => pitch));
  const lane = pads.size === 1 && track.lanes.find(({ pitch }) => pads.has(pitch));
  const first = notes.reduce((least, { start }) => Math.min(least, start), Infinity);
  const at = formatPosition(Math.max(0, first), metreOf(project, pattern));
  const several = project.patterns.length > 1 ? `${pattern.name} ` : "";
  return `${lane ? lane.name : track.name}, ${several}${at}`;
}
