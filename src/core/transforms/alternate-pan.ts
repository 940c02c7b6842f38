import { param, params } from "../params";
import { counted, defineTransform } from "./kit";
import type { Note } from "../score";
import { onsetGroups } from "./onsets";

const SIDES = ["left", "right"] as const;

/** Pans onsets to one side and the other in turn; notes that begin within a 1/64 of each other go together. */
export const alternatePan = defineTransform({
  label: "Alternate pan",
  family: "feel",
  example: { params: { width: 100 } },
  about: "Left, right, left, right",
  schema: params({
    width: param.whole("Width", 0, 100, { unit: "%" }),
    first: param.choice("First", SIDES),
  }),
  defaults: { width: 60, first: "left" as string },
  run(selected, p, context) {
    const second = new Set<Note>();
    onsetGroups(selected).forEach((group, i) => {
      if (i % 2 === 1) for (const note of group) second.add(note);
    });
    const lead = p.first === "left" ? -1 : 1;
    const pan = (note: Note) => {
      const side = second.has(note) ? -lead : lead;
      return p.width === 0 ? 0 : (side * p.width) / 100;
    };
    const replaced = selected.map((note) => ({ ...note, pan: pan(note) }));
    const left = replaced.filter((note) => note.pan < 0).length;
    return {
      replaced,
      sentence: () =>
        p.width === 0
          ? `${counted(selected.length, context)} in the centre`
          : `${counted(left, context)} to the left, ${selected.length - left} to the right, ${p.width} % out`,
    };
  },
});
