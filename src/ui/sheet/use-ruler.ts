import { useState, type RefObject } from "react";
import { beatTicks } from "@/core/time";
import { placeEntry } from "../commands/perform/entry";
import { playCaret, setPlayStart } from "../commands/transport/play";
import { loopPattern } from "../commands/song/song";
import { tickOf, type View } from "../geometry/view";
import { useDesk } from "../session/context";
import { currentMetre } from "../state/current";
import type { SoundDesk } from "../session/desk";

/**
 * Presses on the ruler: they set where playing starts, and go there while it plays. With shift they draw the
 * stretch that is looped, from beat to beat; one without length loops all.
 */
class Ruler {
  private pressed: "start" | "loop" | null = null;
  private from = 0;

  constructor(
    private readonly desk: SoundDesk,
    private readonly view: () => View,
  ) {}

  down(x: number, shift = false): void {
    this.pressed = shift ? "loop" : "start";
    this.from = this.beat(x);
    if (!shift) this.set(x);
  }

  /** True while the ruler is pressed. */
  move(x: number): boolean {
    if (this.pressed === "start") this.set(x);
    else if (this.pressed === "loop") this.draw(x);
    return this.pressed !== null;
  }

  up(x: number): void {
    const { pressed } = this;
    this.pressed = null;
    const { playing, playStart } = this.desk.store.getState();
    if (pressed === "loop") this.draw(x);
    else if (pressed === "start" && playing) void playCaret(this.desk, playStart);
  }

  cancel(): void {
    this.pressed = null;
  }

  private beat(x: number): number {
    const beat = beatTicks(currentMetre(this.desk.store.getState()));
    return Math.round(tickOf(this.view(), x) / beat) * beat;
  }

  private draw(x: number): void {
    const at = this.beat(x);
    loopPattern(this.desk.store, [Math.min(this.from, at), Math.max(this.from, at)]);
  }

  private set(x: number): void {
    const { store } = this.desk;
    setPlayStart(store, tickOf(this.view(), x));
    const { entry, caret, playStart } = store.getState();
    // While steps are entered, they go on from there.
    if (entry && entry.mode !== "play") placeEntry(store, { ...caret, tick: playStart });
  }
}

/** The ruler of the open project's sheet. */
export function useRuler(latest: RefObject<{ view: View }>): Ruler {
  const desk = useDesk();
  const [ruler] = useState(() => new Ruler(desk, () => latest.current.view));
  return ruler;
}
