"use client";
import { useMemo, useState } from "react";
import type { Params } from "@/core/params";
import { PRESETS, transformOf } from "@/core/transforms";
import { applyTo, resultOn, startingParams } from "../../commands/tracks/chain";
import { useDesk, useSession } from "../../session/context";
import { shownFields } from "./fields";
import { ParamFields } from "../../fields/param-fields";
import { Presets } from "../shared/presets";
import type { Scope } from "../../commands/tracks/scopes";
import { ShapePicture } from "./shape-picture";

interface Props {
  transform: string;
  scope: Scope;
  onDone(): void;
}

/** A transform that is applied now, with its values set first. */
export function NowCard({ transform: id, scope, onDone }: Props) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const transform = transformOf(id);
  const [params, setParams] = useState<Params>(() => startingParams(store.getState(), id));
  const fields = shownFields(id, params);
  const would = useMemo(() => {
    try {
      return { sentence: resultOn(project, id, params, scope).message, wrong: false };
    } catch (error) {
      return { sentence: (error as Error).message, wrong: true };
    }
  }, [project, id, params, scope]);

  const apply = () => {
    applyTo(store, id, params, scope);
    onDone();
  };

  return (
    <section
      aria-label={`Apply ${transform.label}`}
      className="rounded-box flex flex-col gap-1 border border-primary bg-base-100 px-3 py-2.5 text-[12px]"
    >
      <h3 className="text-[13px] font-semibold">
        {transform.label} <span className="quiet text-[11px] font-normal">{scope.label}</span>
      </h3>
      <ParamFields
        names={fields.map(([name]) => name)}
        about={Object.fromEntries(fields)}
        values={params}
        reset={transform.defaults}
        onChange={(name, value) => setParams({ ...params, [name]: value })}
      />
      {transform.picture && !would.wrong && <ShapePicture transform={id} params={params} />}
      <Presets
        of={id}
        shipped={PRESETS[id] ?? []}
        params={params}
        onTake={(taken) => setParams({ ...transform.defaults, ...taken })}
      />
      <p
        className={`figure text-[11px] leading-snug ${would.wrong ? "text-error" : "quiet"}`}
        role="status"
      >
        {would.sentence}
      </p>
      <div className="mt-1 flex gap-2">
        <button className="btn btn-sm flex-1" onClick={onDone}>
          Cancel
        </button>
        <button
          className="btn btn-primary btn-sm flex-1"
          disabled={would.wrong}
          onClick={apply}
          autoFocus
        >
          Apply
        </button>
      </div>
    </section>
  );
}
