import type { Params } from "@/core/params";
import { type PartAddress, type Project, partOf, trackOf } from "@/core/score";
import { contextOf, transformOf } from "@/core/transforms";
import { TAPS, type Block, type SheetLayout } from "./layout";

/** A transform that is being set, on the parts it is for; of one lane where only that is meant. */
export interface AskedTransform {
  transform: string;
  params: Params;
  places: readonly PartAddress[];
  lane?: number | undefined;
}

/** Lines that notes of some rows are pulled to: heights in the sheet's content, ticks of the pattern. */
export interface PullLines {
  top: number;
  bottom: number;
  ticks: readonly number[];
}

/** Where a transform that is being set pulls notes to, on the open tracks it is for: a kit lane by lane. */
export function pullLines(
  project: Project,
  layout: SheetLayout,
  { transform, params, places, lane }: AskedTransform,
): PullLines[] {
  const definition = transformOf(transform);
  return layout.blocks.flatMap((block) => {
    const place = places.find(
      ({ pattern, track }) => pattern === layout.pattern.id && track === block.track.id,
    );
    if (!definition.lines || !place || !block.open) return [];
    const part = partOf(project, place);
    const context = contextOf(project, trackOf(project, place.track), part, layout.pattern);
    return rowsOf(block, lane).map(({ pitch, top, bottom, period }) => {
      const inLoop = definition.lines?.(params, context, pitch) ?? [];
      const ticks: number[] = [];
      for (let at = 0; at < layout.total; at += period)
        for (const tick of inLoop) if (at + tick < layout.total) ticks.push(at + tick);
      return { top, bottom, ticks };
    });
  });
}

/** The rows that have lines of their own: each lane of a kit, all rows of a line together. */
function rowsOf({ track, rows, period }: Block, lane: number | undefined) {
  const own = rows.filter(
    (row) => row.pitch !== TAPS && (lane === undefined || row.pitch === lane),
  );
  const [first, last] = [own[0], own.at(-1)];
  if (!first || !last) return [];
  if (track.kind === "drums")
    return own.map((row) => ({
      pitch: row.pitch,
      top: row.y,
      bottom: row.y + row.height,
      period: row.period,
    }));
  return [{ pitch: first.pitch, top: first.y, bottom: last.y + last.height, period }];
}
