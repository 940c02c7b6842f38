"use client";
import { ENTRY_VALUES, toggleKind } from "../commands/perform/entry";
import { Choice } from "../controls/choice";
import { RULER_HEIGHT, type SheetLayout } from "../geometry/layout";
import { PAD, type View } from "../geometry/view";
import { useDesk, useSession } from "../session/context";

const WIDTH = 336;
const HEIGHT = 34;

/**
 * The note values of step entry, over the rows that are entered: a stair from the longest to the shortest, with
 * triplet and dot at its foot. It stays where it is, so that one value after another can be pressed.
 */
export function ValueLadder({
  layout,
  view,
}: {
  layout: SheetLayout;
  view: Pick<View, "top" | "width">;
}) {
  const { store } = useDesk();
  const entry = useSession((state) => state.entry);
  const track = useSession((state) => state.track);
  const block = layout.blocks.find((block) => block.track.id === track);
  const row = block?.rows[0];
  if (!entry || entry.mode !== "notes" || !row || view.width === 0) return null;
  // Above the track where there is room, so that its rows stay free.
  const top = Math.max(RULER_HEIGHT + 2, row.y - view.top + RULER_HEIGHT - HEIGHT - 4);
  const { setEntry } = store.getState();
  const kind = (which: "triplet" | "dotted", label: string, key: string) => (
    <button
      className={`grid h-[24px] w-[24px] place-items-center rounded-full border text-[12px] ${
        entry.kind === which ? "border-primary bg-primary/20 font-semibold" : "border-transparent"
      }`}
      aria-label={label}
      aria-pressed={entry.kind === which}
      title={`${label} (${key})`}
      onClick={() => toggleKind(store, which)}
    >
      {which === "triplet" ? "3" : "•"}
    </button>
  );
  return (
    <div
      className="absolute z-10 flex items-end gap-0.5 rounded-full border border-base-300 bg-base-100/95 px-2 shadow-sm"
      style={{ left: PAD, top, height: HEIGHT, width: WIDTH }}
      data-testid="value-ladder"
      // What is pressed here is not pressed on the sheet below.
      onPointerDown={(event) => event.stopPropagation()}
      onPointerUp={(event) => event.stopPropagation()}
    >
      <Choice
        label="Note value"
        className="flex h-full items-end gap-0.5"
        optionClass="group flex h-full w-[32px] flex-col items-center justify-end border-transparent pb-0.5 leading-none"
        value={String(entry.value)}
        options={ENTRY_VALUES.map((value, i) => ({
          value: String(value),
          label: `1/${value}`,
          title: `1/${value} (key ${i + 1})`,
          shown: (
            <>
              <span
                className="mb-0.5 w-[18px] rounded-t-sm bg-base-content/40 group-data-[state=checked]:bg-primary"
                style={{ height: 15 - 1.8 * i }}
              />
              <span className="figure text-[12px]">{value}</span>
            </>
          ),
        }))}
        onChange={(value) => setEntry({ value: Number(value) })}
      />
      <span className="mb-1 ml-1 flex gap-0.5">
        {kind("triplet", "Triplet", "9")}
        {kind("dotted", "Dotted", "0")}
      </span>
    </div>
  );
}
