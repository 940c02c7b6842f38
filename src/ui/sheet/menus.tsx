"use client";
import { LIMITS, PAD_RANGES, edits, padName, padShapeOf, type Lane, type Track } from "@/core";
import { addLane, freePads, moveLaneInHand, removeLane } from "../commands/lanes";
import { removeChosen } from "../commands/selected";
import { selectStretch } from "../commands/selectors";
import { copyPartTo, joinPartFrom, moveTrackInHand } from "../commands/tracks";
import { SliderField } from "../controls/slider-field";
import { useDesk } from "../session/context";

interface Item {
  label: string;
  keys?: string;
  run(): void;
}

function Items({ items, close }: { items: readonly Item[]; close: () => void }) {
  return items.map(({ label, keys, run }) => (
    <button
      key={label}
      className="flex items-center justify-between rounded-lg px-2 py-1 text-left hover:bg-base-200"
      onClick={() => {
        run();
        close();
      }}
    >
      {label}
      {keys && <kbd className="figure quiet text-[11px]">{keys}</kbd>}
    </button>
  ));
}

function NameField({ name, onName }: { name: string; onName(name: string): void }) {
  return (
    <input
      className="input input-sm w-full"
      aria-label="Name"
      autoFocus
      defaultValue={name}
      maxLength={LIMITS.name}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      onBlur={(event) => {
        const next = event.target.value.trim();
        if (next && next !== name) onName(next);
        else event.target.value = name;
      }}
    />
  );
}

/** What can be done to a lane: name, level, order, hits. */
export function LaneMenu({ track, lane, close }: { track: Track; lane: Lane; close(): void }) {
  const { store } = useDesk();
  const { min, max, step } = PAD_RANGES.level;
  /** Takes the lane in hand for what follows; not while other tracks are locked. */
  const take = (then: () => void) => {
    store.getState().takeTrack(track.id, lane.pitch);
    if (store.getState().track === track.id) then();
  };
  const items: Item[] = [
    {
      label: "Shape its pad",
      keys: "P",
      run: () => take(() => store.setState({ bench: "sound" })),
    },
    {
      label: "Select its hits",
      keys: "shift C",
      run: () => take(() => selectStretch(store, "lane")),
    },
    {
      label: "Clear it",
      run: () =>
        take(() => {
          selectStretch(store, "lane");
          if (store.getState().selection.size > 0) removeChosen(store);
        }),
    },
    {
      label: "Move it up",
      keys: "ctrl shift ↑",
      run: () => take(() => moveLaneInHand(store, -1)),
    },
    {
      label: "Move it down",
      keys: "ctrl shift ↓",
      run: () => take(() => moveLaneInHand(store, 1)),
    },
    { label: "Remove the lane", run: () => removeLane(store, track.id, lane.id) },
  ];
  return (
    <>
      <NameField
        name={lane.name}
        onName={(name) =>
          store
            .getState()
            .edit("Rename lane", (p) => edits.changeLane(p, track.id, lane.id, { name }))
        }
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
        format={(v) => `${v.toFixed(1)} dB`}
        onChange={(level) =>
          store
            .getState()
            .edit(
              "Lane level",
              (p) => edits.changePad(p, track.id, lane.pitch, { level }),
              `lane-level-${lane.id}`,
            )
        }
      />
      <Items items={items} close={close} />
    </>
  );
}

/** Another track to do something with; nothing where there is none. */
function TrackChoice({
  label,
  tracks,
  onTake,
}: {
  label: string;
  tracks: readonly Track[];
  onTake(id: string): void;
}) {
  if (tracks.length === 0) return null;
  return (
    <select
      className="select select-sm w-full"
      aria-label={label}
      value=""
      onChange={(event) => onTake(event.target.value)}
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
export function TrackMenu({ track, close }: { track: Track; close(): void }) {
  const { store } = useDesk();
  const others = store.getState().project.tracks.filter((t) => t.id !== track.id);
  const move = (by: 1 | -1) => () => {
    store.getState().takeTrack(track.id);
    if (store.getState().track === track.id) moveTrackInHand(store, by);
  };
  return (
    <>
      <NameField
        name={track.name}
        onName={(name) =>
          store.getState().edit("Rename", (p) => edits.changeTrack(p, track.id, { name }))
        }
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
          {freePads(store.getState(), track.id).map((pitch) => (
            <option key={pitch} value={pitch}>
              {padName(pitch)}
            </option>
          ))}
        </select>
      )}
      <TrackChoice
        label="Copy its part to"
        tracks={others}
        onTake={(to) => {
          copyPartTo(store, track.id, to);
          close();
        }}
      />
      <TrackChoice
        label="Join into it the part of"
        tracks={others.filter((t) => t.kind === track.kind)}
        onTake={(from) => {
          joinPartFrom(store, track.id, from);
          close();
        }}
      />
      <Items
        close={close}
        items={[
          { label: "Move it up", keys: "alt shift ↑", run: move(-1) },
          { label: "Move it down", keys: "alt shift ↓", run: move(1) },
        ]}
      />
    </>
  );
}
