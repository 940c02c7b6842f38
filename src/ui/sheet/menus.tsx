"use client";
import { padName } from "@/core/pitch";
import { LIMITS, type Lane, PAD_RANGES, type Track, padShapeOf } from "@/core/score";
import {
  addLane,
  freePads,
  moveCurrentLane,
  deleteLane,
  setLaneLevel,
  renameLane,
} from "../commands/tracks/lanes";
import { deleteSelected } from "../commands/notes/selected";
import { selectStretch } from "../commands/notes/selectors";
import {
  copyPartTo,
  deleteTrack,
  joinPartFrom,
  moveCurrentTrack,
  renameTrack,
} from "../commands/tracks/tracks";
import { CommandList, type MenuCommand } from "../controls/menu";
import { SliderField } from "../controls/slider-field";
import { useDesk } from "../session/context";
import { shownKey } from "../person/keys";

/** A name to be typed over; Enter takes it and Escape does not, and both lead back to the sheet. */
function NameField({
  name,
  onName,
  close,
}: {
  name: string;
  onName(name: string): void;
  close(to: "sheet"): void;
}) {
  return (
    <input
      className="input input-sm w-full"
      aria-label="Name"
      autoFocus
      defaultValue={name}
      maxLength={LIMITS.name}
      onFocus={(event) => event.target.select()}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== "Escape") return;
        event.preventDefault();
        event.stopPropagation();
        if (event.key === "Escape") event.currentTarget.value = name;
        event.currentTarget.blur();
        close("sheet");
      }}
      onBlur={(event) => {
        const next = event.target.value.trim();
        if (next && next !== name) onName(next);
        else event.target.value = name;
      }}
    />
  );
}

interface MenuProps {
  track: Track;
  /** Closes it; the keyboard goes to the sheet on wish. */
  close(to?: "sheet"): void;
}

/** What can be done to a lane: name, level, order, hits. */
export function LaneMenu({ track, lane, close }: MenuProps & { lane: Lane }) {
  const { store } = useDesk();
  const { min, max, step } = PAD_RANGES.level;
  /** Makes the lane the current one for what follows; not while other tracks are locked. */
  const make = (then: () => void) => {
    store.getState().setTrack(track.id, lane.pitch);
    if (store.getState().track === track.id) then();
  };
  const items: MenuCommand[] = [
    {
      label: "Shape pad",
      keys: shownKey("pad"),
      run: () =>
        make(() => {
          store.getState().setTools({ bench: "sound" });
          store.getState().request("pad-pitch");
        }),
    },
    {
      label: "Select hits",
      keys: shownKey("lane"),
      run: () => make(() => selectStretch(store, "lane")),
    },
    {
      label: "Delete hits",
      run: () =>
        make(() => {
          selectStretch(store, "lane");
          if (store.getState().selection.size > 0) deleteSelected(store);
        }),
    },
    {
      label: "Move up",
      keys: shownKey("lane-up"),
      run: () => make(() => moveCurrentLane(store, -1)),
    },
    {
      label: "Move down",
      keys: shownKey("lane-down"),
      run: () => make(() => moveCurrentLane(store, 1)),
    },
    { label: "Delete lane", run: () => deleteLane(store, track.id, lane.id) },
  ];
  return (
    <>
      <NameField
        name={lane.name}
        onName={(name) => renameLane(store, track.id, lane.id, name)}
        close={close}
      />
      <SliderField
        label={`Level of ${lane.name}`}
        shown="Level"
        labelWidth="w-10"
        value={padShapeOf(track.kit, lane.pitch).level}
        min={min}
        max={max}
        step={step}
        reset={0}
        format={(value) => `${value.toFixed(1)} dB`}
        onChange={(level) => setLaneLevel(store, track.id, lane, level)}
      />
      <CommandList label={`Commands for ${lane.name}`} items={items} onDone={close} />
    </>
  );
}

/** Another track to do something with; nothing where there is none. */
function TrackChoice({
  label,
  tracks,
  onChoose,
}: {
  label: string;
  tracks: readonly Track[];
  onChoose(id: string): void;
}) {
  if (tracks.length === 0) return null;
  return (
    <select
      className="select select-sm w-full"
      aria-label={label}
      value=""
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="" disabled>
        {label}
      </option>
      {tracks.map((track) => (
        <option key={track.id} value={track.id}>
          {track.name}
        </option>
      ))}
    </select>
  );
}

/** What can be done to a track: name, order, lanes. */
export function TrackMenu({ track, close }: MenuProps) {
  const { store } = useDesk();
  const others = store.getState().project.tracks.filter((t) => t.id !== track.id);
  const move = (by: 1 | -1) => () => {
    store.getState().setTrack(track.id);
    if (store.getState().track === track.id) moveCurrentTrack(store, by);
  };
  return (
    <>
      <NameField
        name={track.name}
        onName={(name) => renameTrack(store, track.id, name)}
        close={close}
      />
      {track.kind === "drums" && (
        <select
          className="select select-sm w-full"
          aria-label="Add a lane"
          value=""
          onChange={(event) => {
            addLane(store, track.id, Number(event.target.value));
            close();
          }}
        >
          <option value="" disabled>
            Add a lane
          </option>
          {freePads(store.getState().project, track.id).map((pitch) => (
            <option key={pitch} value={pitch}>
              {padName(pitch)}
            </option>
          ))}
        </select>
      )}
      <TrackChoice
        label="Copy part to"
        tracks={others}
        onChoose={(to) => {
          copyPartTo(store, track.id, to);
          close();
        }}
      />
      <TrackChoice
        label="Join part of"
        tracks={others.filter((t) => t.kind === track.kind)}
        onChoose={(from) => {
          joinPartFrom(store, track.id, from);
          close();
        }}
      />
      <CommandList
        label={`Commands for ${track.name}`}
        onDone={close}
        items={[
          {
            label: "Mix",
            keys: shownKey("mixer"),
            run: () => {
              store.getState().setTrack(track.id);
              store.getState().setLook({ mixerOpen: true });
            },
          },
          { label: "Move up", keys: shownKey("track-up"), run: move(-1) },
          { label: "Move down", keys: shownKey("track-down"), run: move(1) },
          { label: "Delete track", run: () => deleteTrack(store, track.id) },
        ]}
      />
    </>
  );
}
