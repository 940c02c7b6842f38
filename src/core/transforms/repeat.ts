import { clamp } from "../base";
import { barTicks, beatTicks } from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { counted, counter, defineTransform, pieceIds, spanOf, type TransformContext } from "./kit";

const UNITS = ["as long as the notes", "whole beats", "whole bars"] as const;
const UNTIL = ["a number of times", "the pattern is full"] as const;

/** Never more copies than this, however short the unit. */
const MAX = 1024;

/**
 * Puts copies end to end: `times` in all, or until the pattern is full. The unit is the selected
 * range, else from the first start to the last end, widened to whole beats or bars if asked.
 */
export const repeat = defineTransform({
  label: "Repeat",
  family: "rhythm",
  example: {
    notes: [
      [0, 240, 60, 110],
      [480, 240, 60, 80],
      [720, 240, 60, 90],
    ],
    params: { until: UNTIL[1], unit: UNITS[0] },
    context: { length: 960 },
  },
  about: "Puts copies end to end, a number of times or until the pattern is full",
  schema: params({
    until: param.choice("Until", UNTIL),
    times: param.whole("Times in all", 1, 64, {
      when: { param: "until", is: ["a number of times"] },
    }),
    unit: param.choice("Each copy", UNITS),
    loop: param.flag("Loop length too"),
  }),
  defaults: {
    until: "a number of times" as string,
    times: 2,
    unit: "whole bars" as string,
    loop: true,
  },
  starts: { until: UNTIL[1] },
  time(selected, p, context) {
    const { a, width, times, end } = copiesOf(selected, p, context);
    const put = Array.from({ length: times }, (_, i) => {
      const at = a + i * width;
      return { from: a, to: a + Math.min(width, Math.max(0, end - at)), at, scale: 1 };
    });
    return { from: a, to: a + width, put };
  },
  run(selected, p, context, all) {
    const { a, width, times, end } = copiesOf(selected, p, context);
    counter(context)(selected.length * times);
    const pieceId = pieceIds(all);
    const extra: Note[] = [];
    for (let copy = 1; copy < times; copy++) {
      for (const note of selected) {
        const start = note.start + copy * width;
        if (start < end) extra.push({ ...note, id: pieceId(note.id, copy), start });
      }
    }
    const last = Math.min(end, a + times * width);
    const longer = p.loop && context.length !== null && last > context.length && times > 1;
    const run = {
      replaced: selected,
      extra,
      sentence: () =>
        selected.length === 0
          ? "Nothing to repeat"
          : `${counted(selected.length, context)} ${times} times over, ${extra.length} added`,
    };
    return longer ? { ...run, length: last } : run;
  },
});

/** Where the unit begins and how long it is, how often it comes in all, and where the last copy is cut off. */
function copiesOf(
  selected: readonly Note[],
  { until, times: asked, unit }: { until: string; times: number; unit: string },
  context: TransformContext,
) {
  const [a, b] = unitOf(spanOf(selected, context), unit, context);
  const width = b - a;
  const fills = until === "the pattern is full";
  const full = context.patternLength ?? context.length ?? b;
  const wanted = fills ? Math.ceil((full - a) / width) : asked;
  const times = selected.length === 0 || width <= 0 ? 1 : clamp(wanted, 1, MAX);
  return { a, width, times, end: fills ? full : Infinity };
}

function unitOf(
  [a, b]: readonly [number, number],
  unit: string,
  context: { metre: { beats: number; unit: number }; range: readonly [number, number] | null },
): [number, number] {
  if (context.range || unit === "as long as the notes") return [a, b];
  const step = unit === "whole bars" ? barTicks(context.metre) : beatTicks(context.metre);
  // An early first hit belongs to the unit it leads into.
  const from = Math.max(0, Math.floor(a / step) * step);
  return [from, Math.max(from + step, Math.ceil(b / step) * step)];
}
