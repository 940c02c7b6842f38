import { lowerBound, nth } from "@/core/base";
import type { Note } from "@/core/score";
import { rowOf, type Block, type Row } from "../geometry/layout";
import type { Scene } from "./scene";
import { startsOf } from "../geometry/starts";
import { PAD, tickOf, type View } from "../geometry/view";

/** Ticks in view, with room for stones that reach in from outside. */
export function visible(view: View): [number, number] {
  return [tickOf(view, -PAD * 2), tickOf(view, view.width + PAD * 2)];
}

/** Every note in view, with the tick it is drawn at; repeats of a shorter loop included. */
export function eachShown(
  scene: Scene,
  block: Block,
  rows: ReadonlyMap<number, Row>,
  show: (note: Note, row: Row, tick: number, repeat: boolean) => void,
): void {
  const [from, to] = visible(scene.view);
  const { total } = scene.layout;
  const starts = startsOf(block.effective);
  const periods = new Set([...rows.values()].map((row) => row.period));
  // A long tail may reach into view from far before it.
  const reach = block.track.kind === "melody" ? longest(block.effective) : 0;
  for (const period of periods) {
    for (
      let loop = Math.max(0, Math.floor((from - reach) / period));
      loop * period < Math.min(to, total);
      loop++
    ) {
      const offset = loop * period;
      const last = Math.min(to, total) - offset;
      for (
        let i = lowerBound(starts, from - reach - offset);
        i < starts.length && nth(starts, i) < last;
        i++
      ) {
        const note = nth(block.effective, i);
        if (note.start >= period) break;
        const row = rows.get(rowOf(note));
        if (row?.period === period) show(note, row, offset + note.start, loop > 0);
      }
    }
  }
}

const longests = new WeakMap<readonly Note[], number>();
function longest(notes: readonly Note[]): number {
  let most = longests.get(notes);
  if (most === undefined) {
    most = notes.reduce((m, note) => Math.max(m, note.length), 0);
    longests.set(notes, most);
  }
  return most;
}
