"use client";
import { plural } from "@/core/base";
import type { PartAddress } from "@/core/score";
import { PAST_LOOP, settlePastLoop } from "../commands/notes/past-loop";
import { Menu } from "../controls/menu";
import { RULER_HEIGHT, type Block } from "../geometry/layout";
import { xOf, type View } from "../geometry/view";
import { notesPastLoop } from "@/core/playback";
import { useDesk, useSession } from "../session/context";

/** Room the mark takes at the right edge of the sheet, in CSS pixels. */
const WIDTH = 62;

/** How many notes of a track begin past the end of their loop, and what can be done with them. */
export function PastLoopMark({ block, view, total }: { block: Block; view: View; total: number }) {
  const { store } = useDesk();
  const pattern = useSession((state) => state.pattern);
  const place: PartAddress = { pattern, track: block.track.id };
  const count = useSession((state) =>
    state.project.patterns.some(({ id }) => id === pattern) &&
    state.project.tracks.some(({ id }) => id === block.track.id)
      ? notesPastLoop(state.project, place).length
      : 0,
  );
  if (count === 0) return null;
  const left = Math.max(4, Math.min(xOf(view, total) + 4, view.width - WIDTH));
  const what = `${plural(count, "note")} past the end of the loop`;
  return (
    <div
      className="absolute"
      style={{ left, top: block.y - view.top + RULER_HEIGHT + 3 }}
      // What is pressed here, in the menu too, is no stroke on the sheet.
      onPointerDown={(event) => event.stopPropagation()}
    >
      <Menu
        label={`${block.track.name}: ${what}`}
        trigger={
          <button
            className="figure h-6 rounded-full border border-base-content bg-base-100 px-2 text-[12px] whitespace-nowrap"
            aria-label={`${block.track.name}: ${what}`}
            title={`${what}, not heard: press to lengthen it, wrap them round, or delete them`}
          >
            {count} past
          </button>
        }
        items={PAST_LOOP.map((one) => ({
          label: one.label,
          run: () => settlePastLoop(store, place, one),
        }))}
      />
    </div>
  );
}
