import type { Desk } from "../session/desk";
import { leaveEntry, startEntry } from "../commands/entry";
import { nextIdea, writeIdea } from "../commands/ideas";
import { cutAtCaret, joinChosen, lengthenFront, toggleSlide } from "../commands/selected";
import { SELECTORS, select } from "../commands/selectors";
import { walk } from "../commands/walking";
import type { Session, Tool } from "../session/store";
import { action, type Action } from "./action";

type Flag = "inScale" | "allRows" | "behind" | "locked" | "walking" | "click";

const toggle =
  (flag: Flag, on: string, off: string) =>
  ({ store }: Desk) => {
    const next = !store.getState()[flag];
    store.setState({ [flag]: next, said: next ? on : off } as Partial<Session>);
  };

const tool =
  (id: Tool) =>
  ({ store }: Desk) =>
    store.setState({ tool: store.getState().tool === id ? "draw" : id, erasing: false });

function compare({ store }: Desk): void {
  const { hearingKept, kept, project } = store.getState();
  if (!hearingKept && kept === project) store.setState({ said: "Nothing differs from A" });
  else store.setState({ hearingKept: !hearingKept, said: hearingKept ? "Now" : "A, as kept" });
}

/** What is done to lines: drawing, walking, selecting, step entry, ideas, comparing. */
export const MELODY_ACTIONS: readonly Action[] = [
  action("Melody", "entry", "Step entry on or off", ["i"], "I", ({ store }) =>
    store.getState().entry ? leaveEntry(store) : startEntry(store),
  ),
  action("Melody", "tap", "Tap a rhythm", ["Shift+I"], "shift I", ({ store }) =>
    startEntry(store, "tap"),
  ),
  action("Melody", "give-pitches", "Give tapped notes their pitches", [], "", ({ store }) =>
    startEntry(store, "pitches"),
  ),
  action("Melody", "next-idea", "Next idea", ["/"], "/", ({ store }) => nextIdea(store, 1)),
  action("Melody", "idea-before", "Idea before", [], "", ({ store }) => nextIdea(store, -1)),
  action("Melody", "use-idea", "Use the idea on trial", ["Shift+Enter"], "shift enter", (d) =>
    writeIdea(d.store),
  ),
  action("Melody", "freehand", "Freehand pointer on or off", ["u"], "U", tool("freehand")),
  action("Melody", "knife", "Cutting pointer on or off", ["y"], "Y", tool("cut")),
  action("Melody", "cut-notes", "Cut at the caret", ["Shift+Y"], "shift Y", (d) =>
    cutAtCaret(d.store),
  ),
  action("Melody", "join", "Join chosen notes of one pitch", ["j"], "J", (d) =>
    joinChosen(d.store),
  ),
  action("Melody", "slide", "Slide into the next, or not", ["z"], "Z", (d) => toggleSlide(d.store)),
  action("Melody", "front-earlier", "Longer at the front", ["Alt+l"], "alt L", (d) =>
    lengthenFront(d.store, 1),
  ),
  action("Melody", "front-later", "Shorter at the front", ["Alt+k"], "alt K", (d) =>
    lengthenFront(d.store, -1),
  ),
  action(
    "Melody",
    "walking",
    "Arrows walk from note to note",
    ["w"],
    "W",
    toggle("walking", "Arrows walk from note to note", "Arrows move the caret"),
  ),
  action("Select", "extend", "Take the next note too", ["Alt+n"], "alt N", (d) =>
    walk(d.store, 1, true),
  ),
  action("Select", "extend-back", "Take the note before too", ["Alt+b"], "alt B", (d) =>
    walk(d.store, -1, true),
  ),
  ...SELECTORS.map((selector) =>
    action("Select", `by-${selector.id}`, `Select: ${selector.label.toLowerCase()}`, [], "", (d) =>
      select(d.store, selector),
    ),
  ),
  action(
    "Melody",
    "in-scale",
    "Hold drawing to the scale, or not",
    ["Shift+F"],
    "shift F",
    toggle("inScale", "Held to the scale", "All pitches can be drawn"),
  ),
  action(
    "View",
    "all-rows",
    "All twelve pitches, or those of the key",
    ["Shift+W"],
    "shift W",
    toggle("allRows", "All twelve pitches", "Pitches of the key"),
  ),
  action(
    "View",
    "behind",
    "Other tracks' notes behind",
    ["Shift+U"],
    "shift U",
    toggle("behind", "Other tracks' notes are shown", "Other tracks' notes are hidden"),
  ),
  action(
    "Track",
    "lock",
    "Lock all other tracks",
    ["Shift+M"],
    "shift M",
    toggle("locked", "Other tracks are locked", "No track is locked"),
  ),
  action(
    "Play",
    "compare",
    "Hear the kept state or the present one",
    ["Shift+X"],
    "shift X",
    compare,
  ),
  action("Play", "keep", "Keep this state to compare with", ["Shift+S"], "shift S", ({ store }) =>
    store.setState((s) => ({ kept: s.project, hearingKept: false, said: "Kept as A" })),
  ),
  action(
    "Play",
    "click",
    "Click on or off",
    ["Shift+Q"],
    "shift Q",
    toggle("click", "Click on", "Click off"),
  ),
];
