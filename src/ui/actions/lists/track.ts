import { moveCurrentLane } from "../../commands/tracks/lanes";
import { flipCurrent } from "../../commands/tracks/switches";
import { moveCurrentTrack, stepSound } from "../../commands/tracks/tracks";
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
      run: (s) => flipCurrent(s, "mute"),
    },
    {
      id: "solo",
      label: "Solo the current lane or track",
      keys: "s",
      words: "alone",
      run: (s) => flipCurrent(s, "solo"),
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
      run: (s) => moveCurrentLane(s, -1),
    },
    {
      id: "lane-down",
      label: "Lane down",
      keys: "$mod+Shift+ArrowDown",
      words: "move order",
      run: (s) => moveCurrentLane(s, 1),
    },
    {
      id: "track-up",
      label: "Track up",
      keys: "Alt+Shift+ArrowUp",
      words: "move order",
      run: (s) => moveCurrentTrack(s, -1),
    },
    {
      id: "track-down",
      label: "Track down",
      keys: "Alt+Shift+ArrowDown",
      words: "move order",
      run: (s) => moveCurrentTrack(s, 1),
    },
    {
      id: "rename-lane",
      label: "Rename the lane",
      keys: "F2",
      words: "name menu",
      run: (s) => s.getState().request("lane-menu"),
    },
    {
      id: "pad",
      label: "Shape the current pad",
      keys: "p",
      words: "sound sample filter decay pitch drum",
      run: (s) => {
        s.getState().setTools({ bench: "sound" });
        s.getState().request("pad-pitch");
      },
    },
    {
      id: "next-kit",
      label: "Next kit or sound",
      keys: "Shift+K",
      words: "drums sound",
      run: (s) => stepSound(s, 1),
    },
    {
      id: "previous-kit",
      label: "Previous kit or sound",
      keys: "Shift+J",
      words: "drums sound",
      run: (s) => stepSound(s, -1),
    },
  ],
  ON_TRACK,
);
