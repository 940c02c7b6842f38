import * as edits from "@/core/edits";
import { trackOf } from "@/core/score";
import type { SessionStore } from "../../state/store";

/** Mutes or solos a track, or one of its lanes, or takes that back. */
export function flipSwitch(
  store: SessionStore,
  { track: id, lane: laneId }: { track: string; lane?: string },
  what: "mute" | "solo",
): void {
  const { project, edit } = store.getState();
  const track = trackOf(project, id);
  const lane = track.lanes.find((one) => one.id === laneId);
  const on = !(lane ?? track)[what];
  const label = what === "mute" ? (on ? "Mute" : "Unmute") : on ? "Solo" : "Unsolo";
  edit(
    label,
    (project) =>
      lane
        ? edits.changeLane(project, id, lane.id, { [what]: on })
        : edits.changeTrack(project, id, { [what]: on }),
    { message: `${(lane ?? track).name}: ${what} ${on ? "on" : "off"}` },
  );
}

/** Mutes or solos the current lane, or the track where it is melodic. */
export function flipCurrent(store: SessionStore, what: "mute" | "solo"): void {
  const { project, track: id, caret } = store.getState();
  const lane = trackOf(project, id).lanes.find(({ pitch }) => pitch === caret.pitch);
  flipSwitch(store, { track: id, ...(lane && { lane: lane.id }) }, what);
}
