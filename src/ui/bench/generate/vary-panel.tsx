"use client";
import { trackOf } from "@/core/score";
import { changeVary, vary } from "../../commands/ideas/vary";
import { SwitchField } from "../../controls/labelled";
import { SliderField } from "../../controls/slider-field";
import { useDesk, useSession } from "../../session/context";

const far = (distance: number) =>
  distance < 15 ? "a little" : distance < 40 ? "somewhat" : distance < 70 ? "much" : "a lot";

/** Variations of the part that is there: how far they go, and what stays. */
export function VaryPanel() {
  const { store } = useDesk();
  const { distance, keepStrong, oneLane } = useSession((state) => state.ideas.vary);
  const drums = useSession((state) => trackOf(state.project, state.track).kind === "drums");
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">Vary what is there</legend>
      <SliderField
        label="Distance"
        value={distance}
        min={1}
        max={100}
        step={1}
        format={(value) => `${value} %`}
        onChange={(value) => changeVary(store, { distance: Math.round(value) })}
      />
      <p className="quiet self-end text-[11px]">{far(distance)} changed</p>
      <SwitchField
        label="Keep the beats"
        value={keepStrong}
        className="h-[26px]"
        onChange={(on) => changeVary(store, { keepStrong: on })}
      />
      {drums && (
        <SwitchField
          label="Only the current lane"
          value={oneLane}
          className="h-[26px]"
          onChange={(on) => changeVary(store, { oneLane: on })}
        />
      )}
      <button
        className="btn btn-sm h-7 min-h-0 self-end"
        title="Twelve variations to hear in the loop (alt W)"
        onClick={() => vary(store)}
      >
        Vary
      </button>
    </fieldset>
  );
}
