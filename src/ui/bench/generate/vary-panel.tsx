"use client";
import { trackOf } from "@/core/score";
import { changeVary, vary } from "../../commands/ideas/vary";
import { IDEA_FIELDS, asSetting } from "../../commands/ideas/fields";
import { ParamFields } from "../../fields/param-fields";
import { USUAL_VARY } from "../../state/ideas";
import { useDesk, useSession } from "../../session/context";
import { keyed } from "../../person/keys";

const far = (distance: number) =>
  distance < 15 ? "a little" : distance < 40 ? "somewhat" : distance < 70 ? "much" : "a lot";

/** Variations of the part that is there: how far they go, and what stays. */
export function VaryPanel() {
  const { store } = useDesk();
  const now = useSession((state) => state.ideas.vary);
  const drums = useSession((state) => trackOf(state.project, state.track).kind === "drums");
  const fields = (names: readonly (keyof typeof IDEA_FIELDS.vary)[]) => (
    <ParamFields
      names={names}
      about={IDEA_FIELDS.vary}
      values={now}
      reset={USUAL_VARY}
      onChange={(name, value) => changeVary(store, { [name]: asSetting(now[name], value) })}
    />
  );
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">Vary what is there</legend>
      {fields(["distance"])}
      <p className="quiet self-end text-[12px]">{far(now.distance)} changed</p>
      {fields(drums ? ["keepStrong", "oneLane"] : ["keepStrong"])}
      <button
        className="btn btn-sm h-7 min-h-0 self-end"
        {...keyed("Twelve variations to hear in the loop", "vary")}
        onClick={() => vary(store)}
      >
        Vary
      </button>
    </fieldset>
  );
}
