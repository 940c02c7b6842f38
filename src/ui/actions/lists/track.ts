import { trackOf } from "@/core/score";
import { deleteLane, moveCurrentLane } from "../../commands/tracks/lanes";
import { flipCurrent } from "../../commands/tracks/switches";
import { moveCurrentTrack, stepSound, stepTrack } from "../../commands/tracks/tracks";
import { ON_TRACK, actions } from "../action";
import { toggle } from "./toggle";

export const TRACK = actions(
  "Track",
  [
    {
      id: "mute",
      label: "Mute the current lane or track",
      keys: "m",
      words: "silence off",
      run: (store) => flipCurrent(store, "mute"),
    },
    {
      id: "solo",
      label: "Solo the current lane or track",
      keys: "s",
      words: "alone",
      run: (store) => flipCurrent(store, "solo"),
    },
    toggle("lock", "locked", {
      label: "Lock other tracks",
      keys: "Shift+M",
      words: "protect",
      on: "Other tracks locked",
      off: "No track locked",
    }),
    {
      id: "lane-up",
      label: "Lane up",
      keys: "$mod+Shift+ArrowUp",
      words: "move order",
      run: (store) => moveCurrentLane(store, -1),
    },
    {
      id: "lane-down",
      label: "Lane down",
      keys: "$mod+Shift+ArrowDown",
      words: "move order",
      run: (store) => moveCurrentLane(store, 1),
    },
    {
      id: "next-track",
      label: "Next track",
      keys: "Alt+g",
      words: "current instrument",
      run: (store) => stepTrack(store, 1),
    },
    {
      id: "previous-track",
      label: "Previous track",
      keys: "Alt+Shift+G",
      words: "current instrument",
      run: (store) => stepTrack(store, -1),
    },
    {
      id: "track-up",
      label: "Track up",
      keys: "Alt+Shift+ArrowUp",
      words: "move order",
      run: (store) => moveCurrentTrack(store, -1),
    },
    {
      id: "track-down",
      label: "Track down",
      keys: "Alt+Shift+ArrowDown",
      words: "move order",
      run: (store) => moveCurrentTrack(store, 1),
    },
    {
      id: "add-lane",
      label: "Add a lane",
      words: "new pad instrument menu",
      run: (store) => store.getState().request("track-menu"),
    },
    {
      id: "lane-length",
      label: "Lane length, its own loop",
      words: "loop polymeter polyrhythm steps own menu",
      run: (store) => store.getState().request("lane-menu"),
    },
    {
      id: "delete-lane",
      label: "Delete the lane",
      words: "remove pad",
      run: (store) => {
        const { project, track, caret } = store.getState();
        const lane = trackOf(project, track).lanes.find(({ pitch }) => pitch === caret.pitch);
        if (lane) deleteLane(store, track, lane.id);
      },
    },
    {
      id: "rename-lane",
      label: "Rename the lane",
      keys: "F2",
      words: "name menu",
      run: (store) => store.getState().request("lane-menu"),
    },
    {
      id: "pad",
      label: "Shape the current pad",
      keys: "p",
      words: "sound sample filter decay pitch drum choke",
      run: (store) => {
        store.getState().setTools({ bench: "sound" });
        store.getState().request("pad-pitch");
      },
    },
    {
      id: "next-kit",
      label: "Next kit or sound",
      keys: "Shift+K",
      words: "drums sound",
      run: (store) => stepSound(store, 1),
    },
    {
      id: "previous-kit",
      label: "Previous kit or sound",
      keys: "Shift+J",
      words: "drums sound",
      run: (store) => stepSound(store, -1),
    },
  ],
  ON_TRACK,
);
