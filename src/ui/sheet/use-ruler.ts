import { useState, type RefObject } from "react";
import { playFrom, setPlayStart } from "../commands/play";
import { tickOf, type View } from "../geometry/view";
import { useDesk } from "../session/context";
import type { SoundDesk } from "../session/desk";

/** Presses on the ruler: they set where playing starts, and go there while it plays. */
class Ruler {
  private pressed = false;

  constructor(
    private readonly desk: SoundDesk,
    private readonly view: () => View,
  ) {}

  down(x: number): void {
    this.pressed = true;
    this.set(x);
  }

  /** True while the ruler is pressed. */
  move(x: number): boolean {
    if (this.pressed) this.set(x);
    return this.pressed;
  }

  up(): void {
    if (!this.pressed) return;
    this.pressed = false;
    const { playing, playStart } = this.desk.store.getState();
    if (playing) void playFrom(this.desk, playStart);
  }

  private set(x: number): void {
    setPlayStart(this.desk.store, tickOf(this.view(), x));
  }
}

/** The ruler of the open project's sheet. */
export function useRuler(latest: RefObject<{ view: View }>): Ruler {
  const desk = useDesk();
  const [ruler] = useState(() => new Ruler(desk, () => latest.current.view));
  return ruler;
}
