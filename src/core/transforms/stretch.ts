import { ticksToMs } from "../time/ticks";
import {
  clampLength,
  clampStart,
  counted,
  defineTransform,
  figure,
  param,
  params,
  spanOf,
} from "./kit";

/**
 * `start' = a + (start − a) · f`, `length' = max(1, length · f)`. Double tempo is f = ½, half
 * tempo f = 2. Below 0 the notes are reversed in their span first, then stretched by |f|.
 */
export const stretch = defineTransform({
  label: "Stretch",
  about: "Makes the notes faster or slower: ½ doubles their tempo, 2 halves it",
  schema: params({
    factor: param
      .number("Factor", -8, 8, { step: 0.05, unit: "×" })
      .test("nonzero", "must not be 0", (v) => v !== 0),
    loop: param.flag("Loop length too"),
  }),
  defaults: { factor: 0.5, loop: false },
  run(selected, { factor, loop }, context) {
    const [a, b] = spanOf(selected, context);
    const f = Math.abs(factor);
    const replaced = selected.map((note) => {
      const from = factor < 0 ? a + b - (note.start + note.length) : note.start;
      return {
        ...note,
        start: clampStart(a + (from - a) * f),
        length: clampLength(note.length * f),
      };
    });
    const length = loop && context.length ? clampLength(context.length * f) : undefined;
    const end = length ?? context.length;
    const past = end === null ? 0 : replaced.filter((note) => note.start >= end).length;
    const run = {
      replaced,
      sentence: () => {
        if (selected.length === 0) return "Nothing to stretch";
        const [was, is] = [b - a, (b - a) * f].map((t) => figure(ticksToMs(t, context.tempo)));
        const beyond = past ? `, ${past} now past the loop's end` : "";
        return `${counted(selected.length, context)}: ${was} ms became ${is} ms${beyond}`;
      },
    };
    return length === undefined ? run : { ...run, length };
  },
});
