import { leaveEntry, startEntry } from "../../commands/perform/entry";
import { generateChords } from "../../commands/ideas/chord-ideas";
import { breed } from "../../commands/ideas/sheet";
import { applyIdea, askIdeas, nextIdea } from "../../commands/ideas/ideas";
import { vary } from "../../commands/ideas/vary";
import type { SessionStore } from "../../state/store";
import type { Tool } from "../../state/tools";
import { ON_TRACK, actions } from "../action";
import { toggle } from "./toggle";

const tool = (id: Tool) => (store: SessionStore) => {
  const { tool: now, setTools } = store.getState();
  setTools({ tool: now === id ? "draw" : id, erasing: false });
};

/** Lines: drawing, step entry, generating. */
export const LINE = actions(
  "Melody",
  [
    {
      id: "entry",
      label: "Step entry on or off",
      keys: "i",
      words: "keyboard piano type notes",
      run: (store) => (store.getState().entry ? leaveEntry(store) : startEntry(store)),
    },
    {
      id: "tap",
      label: "Tap a rhythm",
      keys: "Shift+I",
      words: "record rhythm play in",
      run: (store) => startEntry(store, "tap"),
    },
    {
      id: "give-pitches",
      label: "Set pitches of tapped notes",
      words: "rhythm melody",
      run: (store) => startEntry(store, "pitches"),
    },
    {
      id: "generate",
      label: "Generate ideas",
      words: "random melody beat inspiration",
      run: (store) => void askIdeas(store),
    },
    {
      id: "chord-ideas",
      label: "Ideas for the chord line",
      keys: "Alt+Shift+C",
      words: "generate progression chords harmony inspiration",
      run: (store) => {
        store.getState().setTools({ bench: "generate", benchOpen: true });
        void generateChords(store);
      },
    },
    {
      id: "cross-ideas",
      label: "Cross the two ideas starred last",
      words: "breed combine children mix ideas",
      run: (store) => breed(store),
    },
    {
      id: "vary",
      label: "Vary the part",
      keys: "Alt+w",
      words: "variations mutate change random ideas",
      run: (store) => vary(store),
    },
    {
      id: "next-idea",
      label: "Next idea",
      keys: "/",
      words: "generate preview",
      run: (store) => nextIdea(store, 1),
    },
    {
      id: "previous-idea",
      label: "Previous idea",
      words: "generate preview",
      run: (store) => nextIdea(store, -1),
    },
    {
      id: "apply-idea",
      label: "Apply the previewed idea",
      keys: "Shift+Enter",
      words: "generate use write",
      run: applyIdea,
    },
    {
      id: "freehand",
      label: "Freehand pointer on or off",
      keys: "u",
      words: "draw paint pencil",
      run: tool("freehand"),
    },
    {
      id: "knife",
      label: "Cutting pointer on or off",
      keys: "y",
      words: "knife split slice",
      run: tool("cut"),
    },
    toggle("walking", "walking", {
      label: "Arrows walk from note to note",
      keys: "w",
      words: "navigate",
      on: "Arrows walk from note to note",
      off: "Arrows move the cursor",
    }),
  ],
  ON_TRACK,
);
