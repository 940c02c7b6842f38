import type { Note } from "../score/model";
import { msToTicks, ticksToMs } from "../time/ticks";
import { clampLength, counted, defineTransform, figure, param, params, spanOf } from "./kit";
import { onsetGroups } from "./onsets";

/**
 * The notes of each onset end where the next onset begins, less a gap; the last ones at the end of
 * the span. Shortens overlaps as well as filling gaps.
 */
export const legato = defineTransform({
  label: "Legato",
  about: "Notes reach to the next one, without gap or overlap",
  schema: params({ gap: param.number("Gap", 0, 500, { unit: "ms" }) }),
  defaults: { gap: 0 },
  run(selected, p, context) {
    const [, end] = spanOf(selected, context);
    const gap = Math.round(msToTicks(p.gap, context.tempo));
    const groups = onsetGroups(selected);
    const lengths = new Map<Note, number>();
    groups.forEach((group, i) => {
      const next = groups[i + 1]?.[0]!.start;
      for (const note of group) {
        // The last notes end together, with nothing after them to leave a gap to.
        const to = next === undefined ? Math.max(end, note.start + 1) : next - gap;
        lengths.set(note, clampLength(to - note.start));
      }
    });
    let [longer, shorter] = [0, 0];
    const replaced = selected.map((note) => {
      const length = lengths.get(note)!;
      if (length > note.length) longer++;
      if (length < note.length) shorter++;
      return length === note.length ? note : { ...note, length };
    });
    return {
      replaced,
      sentence: () =>
        `${counted(longer, context)} longer, ${shorter} shorter${gap ? `, ${figure(ticksToMs(gap, context.tempo))} ms between` : ""}`,
    };
  },
});
