import { selectedByPart, countText } from "../../commands/notes/by-part";
import { notesInBox } from "../../geometry/hit";
import { selectedOn } from "../../geometry/selected-on";
import { selectedTracks } from "../../state/selected";
import type { Gesture, Hand, Point } from "./gesture";

/** Selects what lies in a box, on all tracks that it covers: beside what was selected, or taken from it. */
export class SelectBox implements Gesture {
  readonly touches = false;
  /** What was selected when it began, by track. */
  private readonly before: ReadonlyMap<string, ReadonlySet<string>>;

  constructor(
    private readonly hand: Hand,
    before: "keep" | "drop",
    private readonly how: "add" | "take",
  ) {
    const { state } = hand;
    const kept = before === "keep" && !state.onlyTouched ? selectedTracks(state) : [];
    this.before = new Map(kept.map((track) => [track, selectedOn(state, track)]));
  }

  move(point: Point): void {
    const { from, host, state } = this.hand;
    const box = { x0: from.x, y0: from.y, x1: point.x, y1: point.y };
    host.showBox(box);
    const after = new Map<string, ReadonlySet<string>>(this.before);
    for (const block of host.layout().blocks) {
      const { id } = block.track;
      // Tracks are locked to the current one: others stay as they are.
      if (!block.open || (state.locked && id !== state.track)) continue;
      const found = notesInBox(block, host.view(), box);
      if (found.length > 0) after.set(id, this.joined(after.get(id) ?? [], found));
    }
    const own = after.get(state.track) ?? [];
    after.delete(state.track);
    state.select(own, { beside: after });
  }

  up(): void {
    const { state } = this.hand;
    const held = selectedByPart(state);
    if (held.length > 1) state.announce(`${countText(held)} selected`);
  }

  private joined(before: Iterable<string>, found: readonly string[]): Set<string> {
    if (this.how === "add") return new Set([...before, ...found]);
    const gone = new Set(found);
    return new Set([...before].filter((id) => !gone.has(id)));
  }
}
