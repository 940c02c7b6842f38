import { describe, expect, it } from "vitest";
import { isPress, listensFor, plainPress, pressOf, shownPress } from "./presses";

/** A keyboard event, as a browser tells it. */
const event = (key: string, code: string, down: string[] = []) => ({
  ...{ key, code },
  ctrlKey: down.includes("ctrl"),
  metaKey: false,
  altKey: down.includes("alt"),
  shiftKey: down.includes("shift"),
  getModifierState: (name: string) => name === "AltGraph" && down.includes("third"),
});

describe("a press of keys", () => {
  it("is told the same whatever order it is written in", () => {
    for (const [a, b] of [
      ["Shift+D", "Shift+d"],
      ["Alt+$mod+ArrowLeft", "$mod+Alt+ArrowLeft"],
      ["Alt+Digit1", "Alt+1"],
      // The plus sign is on shift on some keyboards, and not on others.
      ["+", "Shift++"],
    ])
      expect(plainPress(a!), a).toBe(plainPress(b!));
    expect(plainPress("Shift+d")).not.toBe(plainPress("d"));
    expect(plainPress("Shift+ArrowUp")).not.toBe(plainPress("ArrowUp"));
  });

  // What browsers tell of these keyboards (W3C, UI Events KeyboardEvent code Values): German and Swiss brackets are on the
  // third level, which Windows tells as ctrl and alt together.
  it("is read from what a keyboard tells: by sign wherever that lies, by place as in the United States", () => {
    const read = (...told: Parameters<typeof event>) => [
      pressOf(event(...told), "sign"),
      pressOf(event(...told), "place"),
    ];
    expect(read("[", "BracketLeft")).toEqual(["[", "["]);
    expect(read("[", "Digit8", ["third", "ctrl", "alt"])).toEqual(["[", "["]);
    expect(read("ü", "BracketLeft")).toEqual(["ü", "["]);
    expect(read("z", "KeyY")).toEqual(["z", "y"]);
    expect(read("/", "Digit7", ["shift"])[0]).toBe("Shift+Digit7");
    expect(read("!", "Digit1", ["shift"])[0]).toBe("Shift+Digit1");
    expect(read("D", "KeyD", ["shift"])).toEqual(["Shift+d", "Shift+d"]);
    // On a Mac alt writes another sign.
    expect(read("∂", "KeyD", ["alt"])).toEqual(["Alt+d", "Alt+d"]);
    expect(read(" ", "Space")).toEqual(["Space", "Space"]);
    expect(read("ArrowLeft", "ArrowLeft", ["ctrl", "shift"])[0]).toBe("$mod+Shift+ArrowLeft");
  });

  it("is none for a modifier alone, a dead key, and what no keyboard writes", () => {
    for (const key of ["Shift", "Control", "Alt", "AltGraph", "Dead", "Unidentified", ""])
      expect(pressOf(event(key, "KeyA"), "sign"), key).toBeNull();
    for (const text of ["", "Hyper+a", "$mod+", "a b", "x".repeat(60), "<script>"])
      expect(isPress(text), text).toBe(false);
    for (const text of ["a", "+", "$mod+Alt+Shift+F12", "Alt+Digit1", "Shift++"])
      expect(isPress(text), text).toBe(true);
  });

  it("is listened for so that what is read is what was meant", () => {
    expect(listensFor("[", "sign")).toEqual(["[", "Shift+[", "AltGraph+["]);
    expect(listensFor("[", "place")).toEqual(["BracketLeft"]);
    expect(listensFor("?", "place")).toEqual(["Shift+Slash"]);
    expect(listensFor("z", "sign")).toEqual(["z"]);
    expect(listensFor("z", "place")).toEqual(["KeyZ"]);
    expect(listensFor("$mod+Shift+ArrowUp", "place")).toEqual(["$mod+Shift+ArrowUp"]);
    expect(listensFor("Alt+Digit1", "sign")).toEqual(["Alt+Digit1"]);
  });

  it("is shown as people read it", () => {
    expect(["$mod+Shift+z", "Alt+Digit1", "PageUp", "-", "+", "F2"].map(shownPress)).toEqual([
      ...["ctrl shift Z", "alt 1", "page up", "−", "+", "F2"],
    ]);
  });
});
