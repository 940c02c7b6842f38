import { msToTicks, ticksToMs } from "../time";
import type { Note } from "../score";
import { param, params } from "../params";
import { clampLength, counted, defineTransform, figure, loopOf, spanOf } from "./kit";
import { onsetRuns } from "./onsets";

const UNTIL = ["the line's end", "the loop's end"] as const;

/**
 * The notes of each onset end where the next onset begins, less a gap; the last ones at the end of
 * the span, or of the loop. Shortens overlaps as well as filling gaps.
 */
export const legato = defineTransform({
  label: "Legato",
  family: "line",
  about: "Notes reach to the next one, without gap or overlap",
  schema: params({
    gap: param.number("Gap", 0, 500, { unit: "ms" }),
    until: param.choice("Last ones to", UNTIL),
  }),
  defaults: { gap: 0, until: UNTIL[0] as string },
  starts: { until: UNTIL[1] },
  run(selected, p, context) {
    const [, last] = spanOf(selected, context);
    const loop = selected[0] ? loopOf(selected[0].pitch, context) : null;
    const toLoop = p.until === UNTIL[1] && loop !== null && !context.range;
    // Notes past the loop's end are not cut back to it.
    const onset = selected.reduce((most, note) => Math.max(most, note.start), -Infinity);
    const end = toLoop && onset < loop ? loop : last;
    const gap = Math.round(msToTicks(p.gap, context.tempo));
    const { order, from } = onsetRuns(selected);
    const at = (k: number) => (order ? order[k]! : k);
    const replaced: Note[] = [...selected];
    let [longer, shorter] = [0, 0];
    for (let group = 0, k = 0; group < from.length; group++) {
      const next = from[group + 1];
      const until = next === undefined ? end : selected[at(next)]!.start - gap;
      for (; k < (next ?? selected.length); k++) {
        const i = at(k);
        const note = selected[i]!;
        // The last notes end together, with nothing after them to leave a gap to.
        const to = next === undefined ? Math.max(until, note.start + 1) : until;
        const length = clampLength(to - note.start);
        if (length === note.length) continue;
        if (length > note.length) longer++;
        else shorter++;
        replaced[i] = { ...note, length };
      }
    }
    return {
      replaced,
      sentence: () =>
        `${counted(longer, context)} longer, ${shorter} shorter${gap ? `, ${figure(ticksToMs(gap, context.tempo))} ms between` : ""}`,
    };
  },
});
