import { describe, expect, it } from "vitest";
import { TRANSFORMS } from "@/core/transforms";
import { shownKey } from "../person/keys";
import { scoreOf } from "../controls/find";
import { ACTIONS } from "./registry";

/** What enter would do: the best match, of equals the first. */
const best = (search: string) =>
  ACTIONS.map((action) => ({ action, score: scoreOf(action, search) }))
    .sort((a, b) => b.score - a.score)
    .find(({ score }) => score > 0)?.action.id;

describe("finding an action", () => {
  it("does what a word of the trade says", () => {
    const wanted: Record<string, string> = {
      metronome: "click",
      click: "click",
      export: "export",
      midi: "export-midi-pattern",
      import: "import",
      record: "record",
      tap: "tap",
      "tap tempo": "tap-tempo",
      solo: "solo",
      mute: "mute",
      swing: "card-swing",
      echo: "card-echo",
      slide: "slide",
      glide: "slide",
      erase: "erase",
      zoom: "zoom-in",
      undo: "undo",
      redo: "redo",
      delete: "delete",
      quantize: "quantize",
      humanize: "humanize",
      reverse: "reverse",
      bpm: "tempo",
      tempo: "tempo",
      play: "play",
      stop: "play",
      copy: "copy",
      generate: "generate",
      history: "history",
      "time signature": "metre",
      "step entry": "entry",
      "next kit": "next-kit",
      "version ab": "compare",
      "keep as before": "keep-before",
      help: "help",
      shortcut: "keys",
      keys: "keys",
      settings: "settings",
      latency: "settings",
      shuffle: "card-swing",
      quantise: "quantize",
      "add lane": "add-lane",
      "delete lane": "delete-lane",
      "lane length": "lane-length",
      "loop length": "lane-length",
      polymeter: "lane-length",
      wav: "export",
      "half time": "card-stretch",
      "double time": "card-stretch",
      choke: "pad",
      preset: "bench-sound",
      inversion: "card-inversion",
      transpose: "card-transpose",
      "next track": "next-track",
    };
    for (const [search, id] of Object.entries(wanted)) expect(best(search), search).toBe(id);
  });

  it("ranks whole words and beginnings of names before what only holds the letters", () => {
    const action = (label: string, words: string[] = []) => ({ label, words, group: "Edit" });
    const order = [
      action("Cut"),
      action("Cut notes at the caret"),
      action("Notes are cut"),
      action("Split", ["cut"]),
      action("Cutting pointer"),
      action("A cutting pointer"),
      action("Split", ["cutter"]),
      action("Shortcut"),
    ].map((one) => scoreOf(one, "cut"));
    expect(order).toEqual([...order].sort((a, b) => b - a));
    expect(new Set(order).size).toBe(order.length);
    expect(scoreOf(action("Louder"), "cut")).toBe(0);
    expect(scoreOf(action("Nudge 5 ms early"), "nudge late")).toBe(0);
    expect(scoreOf(action("Louder"), "  ")).toBe(1);
  });

  it("finds each action by its own name, and each transform", () => {
    for (const { id, label } of ACTIONS) expect(best(label), label).toBe(id);
    for (const id of Object.keys(TRANSFORMS)) {
      expect(ACTIONS.some((action) => action.id === `card-${id}`)).toBe(true);
    }
  });

  it("shows keys as people read them", () => {
    const shown = (...ids: string[]) => ids.map(shownKey);
    expect(shown("redo", "nudge-late-5", "keyed-grid-1", "zoom-in")).toEqual([
      "ctrl shift Z",
      "ctrl alt →",
      "shift 1",
      "+",
    ]);
    expect(shown("rename-lane", "none", "octave-up", "import")).toEqual([
      "F2",
      "esc",
      "page up",
      "",
    ]);
  });
});
