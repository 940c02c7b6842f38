import { hear, keepAsBefore } from "../../commands/transport/compare";
import { endPreview } from "../../commands/ideas/ideas";
import { playCaret, setPlayStart, togglePlay } from "../../commands/transport/play";
import { scaleTempo, tapTempo } from "../../commands/transport/tap-tempo";
import { actions } from "../action";
import { toggle } from "./toggle";

/** Hearing: play, metronome, versions. */
export const PLAY = actions("Play", [
  {
    id: "play",
    label: "Play or stop",
    keys: "Space",
    words: "start pause playback transport",
    run: (_, desk) => void togglePlay(desk),
  },
  {
    id: "play-caret",
    label: "Play from the cursor",
    keys: "Shift+Space",
    words: "start here caret",
    run: (_, desk) => void playCaret(desk),
  },
  {
    id: "play-start",
    label: "Start playing at the cursor from now on",
    words: "cue marker ruler beginning",
    run: (store) => setPlayStart(store, store.getState().caret.tick),
  },
  toggle("follow", "follow", {
    label: "Follow the playhead, or not",
    keys: "Alt+f",
    words: "scroll page view",
    on: "The view follows the playhead",
    off: "The view stays here",
  }),
  {
    id: "click",
    label: "Metronome on or off",
    keys: "Shift+Q",
    words: "click beat count",
    run: (store) => {
      const { click, setHearing, announce } = store.getState();
      setHearing({ click: !click });
      announce(click ? "Metronome off" : "Metronome on");
    },
  },
  {
    id: "compare",
    label: "Before or Now",
    keys: "Shift+X",
    words: "compare hear ab version after",
    run: (store) => hear(store, store.getState().hearingBefore ? "now" : "before"),
  },
  {
    id: "keep-before",
    label: "Keep as Before",
    keys: "Shift+S",
    words: "compare snapshot version store",
    run: keepAsBefore,
  },
  {
    id: "none",
    label: "Select nothing, end the preview",
    keys: "Escape",
    words: "deselect cancel escape",
    run: (store) => {
      const { preview, trial, select, setTools, request } = store.getState();
      if (preview) endPreview(store);
      else if (trial) request("end-trial");
      else {
        select([]);
        setTools({ erasing: false });
      }
    },
  },
  {
    id: "tempo",
    label: "Set the tempo",
    words: "bpm speed",
    run: (store) => store.getState().request("tempo"),
  },
  {
    id: "tap-tempo",
    label: "Find the tempo by taps",
    keys: "Backquote",
    once: true,
    words: "bpm speed beat tap tempo",
    run: (store) => tapTempo(store),
  },
  {
    id: "half-tempo",
    label: "Half the tempo, notes as they are",
    words: "bpm slower",
    run: (store) => scaleTempo(store, 0.5),
  },
  {
    id: "twice-tempo",
    label: "Twice the tempo, notes as they are",
    words: "bpm faster double",
    run: (store) => scaleTempo(store, 2),
  },
  {
    id: "metre",
    label: "Set the metre",
    words: "time signature meter beats",
    run: (store) => store.getState().request("metre"),
  },
  {
    id: "scale",
    label: "Set the key's scale",
    words: "key mode root harmony",
    run: (store) => store.getState().request("scale"),
  },
  toggle("in-scale", "inScale", {
    label: "Hold drawing to the scale, or not",
    keys: "Shift+F",
    words: "snap key lock",
    on: "Held to the scale",
    off: "All pitches can be drawn",
  }),
]);
