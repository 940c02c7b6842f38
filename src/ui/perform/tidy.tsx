"use client";
import { Brush } from "lucide-react";
import { useState } from "react";
import type { ParamMeta } from "@/core/params";
import { transformOf } from "@/core/transforms";
import { onKit } from "../commands/perform/entry";
import { TIDYINGS, setTidy, tidyCard, toggleTidy, type Tidying } from "../commands/perform/tidy";
import { Popover } from "../controls/popover";
import { SliderField } from "../controls/slider-field";
import { Toggle } from "../controls/toggle";
import { useRequest } from "../session/requested";
import { useDesk, useSession } from "../session/context";
import { currentPart, effectiveCurrent } from "../state/current";

/** Tidying a take: each thing is a card of the chain, seen on the sheet and heard at once, and the take stays. */
export function Tidy() {
  const [open, setOpen] = useState(false);
  useRequest("tidy", () => setOpen(true));
  return (
    <Popover
      label="Tidy up"
      open={open}
      onOpenChange={setOpen}
      side="top"
      className="w-[330px] gap-2 p-3"
      trigger={
        <button
          className="btn btn-ghost btn-xs h-[26px] min-h-0 px-1.5"
          aria-label="Tidy up"
          title="Tidy up what was played: quantize, level, delete stray notes, as cards of the chain"
        >
          <Brush size={14} />
        </button>
      }
    >
      <Cards />
    </Popover>
  );
}

function Cards() {
  const kit = useSession(onKit);
  const any = useSession((state) => state.track !== "");
  const name = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.name ?? "",
  );
  if (!any) return null;
  return (
    <>
      <p className="quiet">
        On all of {name}. What was played stays; each is a card of the chain, its places dashed on
        the sheet.
      </p>
      {TIDYINGS.filter(({ melody }) => !melody || !kit).map((tidying) => (
        <Card key={tidying.transform} tidying={tidying} />
      ))}
    </>
  );
}

function Card({ tidying }: { tidying: Tidying }) {
  const { store } = useDesk();
  const card = useSession((state) => tidyCard(state, tidying));
  const message = useSession((state) => {
    if (!card) return "";
    const at = currentPart(state).chain.findIndex((step) => step.id === card.id);
    return effectiveCurrent(state).effects[at]?.sentence ?? "";
  });
  const fields = transformOf(tidying.transform).schema.fields;
  return (
    <div className="flex flex-col gap-1">
      <div className="flex items-center justify-between gap-2">
        <Toggle
          label={tidying.label}
          on={card !== undefined}
          onClick={() => toggleTidy(store, tidying)}
        />
        <span className="quiet truncate text-[12px]" role="status" title={message}>
          {message}
        </span>
      </div>
      {card &&
        tidying.fields.map((name) => {
          const { label, meta } = (
            fields[name] as unknown as {
              spec: { label: string; meta: ParamMeta & { min: number; max: number } };
            }
          ).spec;
          return (
            <SliderField
              key={name}
              label={`${tidying.label}: ${label.toLowerCase()}`}
              shown={label}
              value={Number(card.params[name])}
              min={meta.min}
              max={meta.max}
              reset={Number(transformOf(tidying.transform).defaults[name])}
              format={(value) => (meta.unit ? `${value} ${meta.unit}` : String(value))}
              onChange={(value) => setTidy(store, tidying, name, Math.round(value))}
            />
          );
        })}
    </div>
  );
}
