"use client";
import { padName } from "@/core/pitch";
import { useSession } from "../session/context";
import type { Onto } from "./use-onto";

/** Onto which track a recording is put. */
export function TrackField({ onto }: { onto: Onto }) {
  const current = useSession((state) => state.track);
  return (
    <label className="flex items-center gap-2">
      <span className="quiet w-[88px]">Onto</span>
      <select
        className="select select-xs min-w-0 flex-1"
        aria-label="Onto which track"
        value={onto.track}
        onChange={(event) => onto.setTrack(event.target.value)}
      >
        <option value="">a new track</option>
        {onto.tracks.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
            {id === current ? " (current)" : ""}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Onto which pad of that track a recording is put. */
export function PadField({ onto }: { onto: Onto }) {
  return (
    <label className="flex min-h-7 items-center gap-2">
      <span className="quiet w-[88px]">Pad</span>
      <select
        className="select select-xs min-w-0 flex-1"
        aria-label="Onto which pad"
        value={onto.taken?.pitch ?? ""}
        onChange={(event) =>
          onto.setPad(event.target.value === "" ? null : Number(event.target.value))
        }
      >
        {onto.free !== null && <option value="">a new lane, {padName(onto.free)}</option>}
        {onto.pads.map(({ id, name, pitch }) => (
          <option key={id} value={pitch}>
            {name}, whose sound it takes over
          </option>
        ))}
      </select>
    </label>
  );
}
