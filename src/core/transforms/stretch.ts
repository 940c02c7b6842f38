import type { Ticks } from "../base";
import { PPQ, ticksToMs } from "../time";
import { param, params } from "../params";
import { clampLength, clampStart, counted, defineTransform, figure, spanOf } from "./kit";

const WAYS = ["by a factor", "to a length"] as const;

/**
 * `start' = a + (start − a) · f`, `length' = max(1, length · f)`. Double tempo is f = ½, half
 * tempo f = 2; or f is what makes the span so many beats long. Below 0 the notes are reversed in their span first, then stretched by |f|.
 */
export const stretch = defineTransform({
  label: "Stretch",
  family: "line",
  about: "Makes the notes faster or slower: ½ doubles their tempo, 2 halves it",
  schema: params({
    way: param.choice("Stretch", WAYS),
    factor: param
      .number("Factor", -8, 8, { step: 0.05, unit: "×", when: { param: "way", is: [WAYS[0]] } })
      .test("nonzero", "must not be 0", (value) => value !== 0),
    beats: param.number("Length in beats", 0.0625, 256, {
      step: 0.25,
      when: { param: "way", is: [WAYS[1]] },
    }),
    loop: param.flag("Loop length too"),
  }),
  defaults: { way: WAYS[0] as string, factor: 0.5, beats: 4, loop: false },
  time(selected, params, context) {
    const [from, to] = spanOf(selected, context);
    return { from, to, put: [{ from, to, at: from, scale: factorOf(params, to - from) }] };
  },
  run(selected, params, context) {
    const [a, b] = spanOf(selected, context);
    const asked = factorOf(params, b - a);
    const f = Math.abs(asked);
    const replaced = selected.map((note) => {
      const from = asked < 0 ? a + b - (note.start + note.length) : note.start;
      return {
        ...note,
        start: clampStart(a + (from - a) * f),
        length: clampLength(note.length * f),
      };
    });
    const length = params.loop && context.length ? clampLength(context.length * f) : undefined;
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

/** How many times as long the notes of a span become; turned about where below 0. */
const factorOf = (
  { way, factor, beats }: { way: string; factor: number; beats: number },
  span: Ticks,
): number => (way === WAYS[0] ? factor : (beats * PPQ) / Math.max(1, span));
