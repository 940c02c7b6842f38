import { leaveEntry, setMode, startEntry } from "../../commands/perform/entry";
import { keepLastLoop } from "../../commands/perform/played";
import { toggleRecord, undoLastLoop } from "../../commands/perform/record";
import { deleteBendOfPart } from "../../commands/perform/bend";
import { actions } from "../action";

/** Playing in: keys, recording, what was played. */
export const PLAY_IN = actions("Play in", [
  {
    id: "play-keys",
    label: "Play by keys, or stop that",
    keys: "Semicolon",
    words: "live keyboard piano pads perform surface",
    run: (store) => {
      const { entry } = store.getState();
      if (entry?.mode === "play") leaveEntry(store);
      else if (entry) setMode(store, "play");
      else startEntry(store, "play");
    },
  },
  {
    id: "record",
    label: "Record or stop recording",
    keys: "Alt+r",
    words: "overdub replace take capture",
    once: true,
    run: (_, desk) => void toggleRecord(desk),
  },
  {
    id: "undo-round",
    label: "Undo the last recorded loop",
    keys: "Alt+u",
    words: "overdub back",
    run: (_, desk) => undoLastLoop(desk),
  },
  {
    id: "keep-round",
    label: "Keep the last loop that was played",
    keys: "Alt+t",
    words: "capture retrospective take played",
    run: (_, desk) => keepLastLoop(desk),
  },
  {
    id: "tidy",
    label: "Tidy up what was played",
    words: "quantize clean correct strays",
    run: (store) => store.getState().request("tidy"),
  },
  {
    id: "delete-bend",
    label: "Delete the bend of the part",
    words: "pitch wheel curve",
    run: deleteBendOfPart,
  },
  {
    id: "controller",
    label: "Simulated controller on or off",
    words: "midi device keyboard",
    run: (store) => {
      const { perform, setPerform } = store.getState();
      setPerform({ controllerOpen: !perform.controllerOpen });
    },
  },
]);
