"use client";
import { nanoid } from "nanoid";
import { useMemo, useState } from "react";
import { TRANSFORMS, edits, type Params, type Project } from "@/core";
import { useDesk, useSession } from "../session/context";
import { shownFields } from "./fields";
import { ParamControl } from "./param-control";
import { Presets } from "./presets";
import type { Scope } from "../commands/scopes";
import { ShapePicture, isPictured } from "./shape-picture";

interface Props {
  transform: string;
  scope: Scope;
  onDone(): void;
}

/** What a transform would make of a scope, at once. Throws a RangeError for wrong values. */
function done(project: Project, id: string, params: Params, scope: Scope) {
  const idOf = () => nanoid(8);
  const [only] = scope.places;
  if (scope.places.length > 1 || !only) {
    const all = edits.transformParts(project, scope.places, id, params, idOf);
    return { project: all.project, sentence: all.sentence, fresh: [] as string[] };
  }
  const on = {
    selection: scope.ids && new Set(scope.ids),
    lane: scope.lane ?? null,
    range: null,
  };
  const one = edits.transformPart(project, only, id, params, on, idOf);
  return { project: one.project, sentence: one.effect.sentence, fresh: one.fresh };
}

/** A transform done at once, with its values set first. */
export function NowCard({ transform: id, scope, onDone }: Props) {
  const { store } = useDesk();
  const project = useSession((s) => s.project);
  const transform = TRANSFORMS[id]!;
  const [params, setParams] = useState<Params>({ ...transform.defaults });
  const fields = shownFields(id, params);
  const would = useMemo(() => {
    try {
      return { sentence: done(project, id, params, scope).sentence, wrong: false };
    } catch (error) {
      return { sentence: (error as Error).message, wrong: true };
    }
  }, [project, id, params, scope]);

  const apply = () => {
    const state = store.getState();
    let made = { sentence: "", fresh: [] as string[] };
    state.edit(transform.label, (p) => {
      const result = done(p, id, params, scope);
      made = result;
      return result.project;
    });
    const selection = scope.ids ? new Set([...scope.ids, ...made.fresh]) : state.selection;
    store.setState({ said: made.sentence, selection });
    onDone();
  };

  return (
    <section
      aria-label={`${transform.label} at once`}
      className="rounded-box flex flex-col gap-1 border border-primary bg-base-100 px-3 py-2.5 text-[12px]"
    >
      <h3 className="text-[13px] font-semibold">
        {transform.label} <span className="quiet text-[11px] font-normal">{scope.label}</span>
      </h3>
      {fields.map(([name, about]) => (
        <ParamControl
          key={name}
          name={name}
          about={about}
          value={params[name]!}
          reset={transform.defaults[name]!}
          onChange={(value) => setParams({ ...params, [name]: value })}
        />
      ))}
      {isPictured(id) && !would.wrong && <ShapePicture transform={id} params={params} />}
      <Presets
        transform={id}
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
          Not now
        </button>
        <button className="btn btn-primary btn-sm flex-1" disabled={would.wrong} onClick={apply}>
          Do it
        </button>
      </div>
    </section>
  );
}
