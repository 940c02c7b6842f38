"use client";
import { padName } from "@/core/pitch";
import { Surface } from "../perform/surface";
import { HEADER_WIDTH } from "../geometry/layout";
import { profileChoices, shownProfile, type ProfileKind } from "../geometry/profiles";
import { useDesk, useSession } from "../session/context";
import { BendProfile, BendTools } from "./bend-profile";
import { DragOut } from "./drag-out";
import { LaneStrip } from "./lane-strip";
import { ProfileView } from "./profile";
import { Values } from "./values";

/** Exact values of the selection, and a profile of the current lane. */
export function Foot() {
  const drums = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.kind === "drums",
  );
  const lane = useSession((state) => {
    const track = state.project.tracks.find((track) => track.id === state.track);
    if (!track) return "";
    if (track.kind === "melody") return track.name;
    return (
      track.lanes.find((lane) => lane.pitch === state.caret.pitch)?.name ??
      padName(state.caret.pitch)
    );
  });
  const bend = useSession((state) => state.profile === "bend") && !drums;
  const any = useSession((state) => state.track !== "");
  const entering = useSession((state) => state.entry !== null);
  if (!any) return null;
  return (
    <footer className="shrink-0 border-t border-base-300 bg-base-100" aria-label="Exact values">
      {entering ? (
        <Surface />
      ) : (
        <div className="flex">
          <div
            className="quiet shrink-0 pt-2 pl-4 text-[12px] leading-tight"
            style={{ width: HEADER_WIDTH }}
          >
            <div className="flex items-center justify-between pr-2">
              <ProfileChoice drums={drums} />
              {bend && <BendTools />}
            </div>
            <div className="flex items-center gap-1 pr-2">
              <span className="min-w-0 flex-1 truncate font-medium text-base-content">{lane}</span>
              <DragOut />
            </div>
          </div>
          {bend ? <BendProfile /> : <ProfileView />}
        </div>
      )}
      <LaneStrip />
      <Values drums={drums} />
    </footer>
  );
}

function ProfileChoice({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const kind = useSession((state) => state.profile);
  return (
    <select
      className="-ml-1 h-6 cursor-pointer appearance-none rounded bg-transparent px-1 hover:bg-base-300/50"
      aria-label="Note values"
      title="Note values shown and set here: velocity, pan, chance, tune or bend"
      value={shownProfile(drums ? "drums" : "melody", kind)}
      onChange={(event) =>
        store.getState().setTools({ profile: event.target.value as ProfileKind })
      }
    >
      {profileChoices(drums ? "drums" : "melody").map(([id, { label }]) => (
        <option key={id} value={id}>
          {label} ▾
        </option>
      ))}
    </select>
  );
}
