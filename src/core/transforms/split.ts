import type { Note } from "../score/model";
import { gridLines, gridTicks } from "../time/grid";
import { boundary } from "../time/ticks";
import { chosenGrid, gridParams } from "./grid-choice";
import { counted, defineTransform, param, params, pieceIds } from "./kit";

const WAYS = ["at grid lines", "into equal pieces"] as const;

/** Cuts notes at the lines of a grid, or into n; the pieces tile each note exactly. */
export const split = defineTransform({
  label: "Split",
  about: "Cuts notes at the lines of a grid, or into equal pieces",
  schema: params({
    way: param.choice("Way", WAYS),
    count: param.whole("Pieces", 1, 64, { when: { param: "way", is: ["into equal pieces"] } }),
    ...gridParams,
  }),
  defaults: {
    way: "at grid lines" as string,
    count: 2,
    value: "own" as string,
    kind: "straight" as string,
  },
  run(selected, p, context, all) {
    const pieceId = pieceIds(all);
    const replaced = selected.map((note): Note | Note[] => {
      const end = note.start + note.length;
      let cuts: number[];
      if (p.way === "at grid lines") {
        const g = chosenGrid(note, p, context);
        // Without a grid every tick would be a line.
        cuts = gridTicks(g) === 1 ? [] : gridLines(g, note.start + 1, end);
      } else {
        const most = Math.min(p.count, note.length);
        cuts = Array.from(
          { length: most - 1 },
          (_, i) => note.start + boundary(i + 1, most, note.length),
        );
      }
      if (cuts.length === 0) return note;
      const edges = [note.start, ...cuts, end];
      return edges.slice(0, -1).map((start, i) => ({
        ...note,
        id: i === 0 ? note.id : pieceId(note.id),
        start,
        length: edges[i + 1]! - start,
      }));
    });
    const cut = replaced.filter((piece) => Array.isArray(piece)).length;
    return {
      replaced,
      sentence: (c) =>
        cut === 0
          ? "No line crosses a note: none cut"
          : `${counted(cut, context)} of ${selected.length} cut, ${selected.length + c.added} in all`,
    };
  },
});
