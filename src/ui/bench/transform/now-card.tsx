"use client";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { plural } from "@/core/base";
import type { Params } from "@/core/params";
import { type PartAddress, type Project, partOf } from "@/core/score";
import { PRESETS, transformOf } from "@/core/transforms";
import { applyAsked, resultOn, startingParams } from "../../commands/tracks/chain";
import { SwitchField } from "../../controls/labelled";
import { useDesk, useSession } from "../../session/context";
import { selectedTracks } from "../../state/selected";
import { useRequest } from "../../session/requested";
import { shownFields } from "./fields";
import { ParamFields } from "../../fields/param-fields";
import { Presets } from "../shared/presets";
import { type Scope, movesHarmony } from "../../commands/tracks/scopes";
import { BypassButton } from "./bypass-button";
import { ShapePicture } from "./shape-picture";

interface Props {
  transform: string;
  scope: Scope;
  onDone(): void;
}

/** A transform that is applied now, with its values set first. */
export function NowCard({ transform: id, scope: chosenScope, onDone }: Props) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const transform = transformOf(id);
  const [params, setParams] = useState<Params>(() =>
    startingParams(store.getState(), id, chosenScope),
  );
  const bent = chosenScope.places.some((at) => partOf(project, at).bend);
  const fields = shownFields(id, params, bent);
  const [along, setAlong] = useState(true);
  const asksAlong = movesHarmony(id, chosenScope);
  const scope = useMemo(
    () => (asksAlong ? { ...chosenScope, harmony: along } : chosenScope),
    [chosenScope, asksAlong, along],
  );
  const would = useMemo(() => {
    try {
      const { project: result, message } = resultOn(project, id, params, scope);
      return { sentence: `Previewed: ${message}`, result };
    } catch (error) {
      return { sentence: (error as Error).message, result: null };
    }
  }, [project, id, params, scope]);
  const { result } = would;
  const chosen = useSession((state) => selectedTracks(state).length > 0 && !state.onlyTouched);
  useEffect(() => {
    const asked = { transform: id, params, places: scope.places, lane: scope.lane };
    store.getState().setHearing({ trial: result && { of: project, result, asked } });
  }, [store, project, result, id, params, scope]);
  useEffect(() => () => store.getState().setHearing({ trial: null, bypassed: false }), [store]);
  useRequest("end-trial", onDone);
  const card = useRef<HTMLElement>(null);
  useEffect(() => card.current?.focus(), []);

  const apply = () => {
    if (!result) return;
    applyAsked(store, id, params, scope);
    onDone();
  };

  /** Enter applies and escape gives back, wherever in the card; in a field they first end what is typed. */
  const onKeyDown = (event: KeyboardEvent) => {
    const { target } = event;
    const field =
      target instanceof HTMLElement && target.matches("input:not([type=range]), select");
    if (field) {
      if (event.key === "Enter" || event.key === "Escape") {
        event.stopPropagation();
        card.current?.focus();
      }
      return;
    }
    const own = target instanceof HTMLElement && target.matches("button:focus-visible");
    if (event.key === "Enter" && !own) apply();
    else if (event.key === "Escape") onDone();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <section
      ref={card}
      tabIndex={-1}
      aria-label={`Apply ${transform.label}`}
      onKeyDown={onKeyDown}
      className="rounded-box flex flex-col gap-1 border border-primary bg-base-100 px-3 py-2.5 text-[12px]"
    >
      <h3 className="text-[13px] font-semibold">
        {transform.label} <span className="quiet text-[12px] font-normal">{scope.label}</span>
      </h3>
      <ParamFields
        names={fields.map(([name]) => name)}
        about={Object.fromEntries(fields)}
        values={params}
        reset={transform.defaults}
        onChange={(name, value) => setParams({ ...params, [name]: value })}
      />
      {asksAlong && (
        <SwitchField label="Key and chords go along" value={along} onChange={setAlong} />
      )}
      {transform.picture && result && <ShapePicture transform={id} params={params} />}
      <Presets
        of={id}
        shipped={PRESETS[id] ?? []}
        params={params}
        onTake={(taken) => setParams({ ...transform.defaults, ...taken })}
      />
      <p
        className={`figure text-[12px] leading-snug ${result === null ? "text-error" : "quiet"}`}
        role="status"
      >
        {would.sentence}
      </p>
      <div className="mt-1 flex gap-2">
        <button className="btn btn-sm flex-1" onClick={onDone}>
          Cancel
        </button>
        <BypassButton title="Hold to hear and see the notes without it" />
      </div>
      <div className="flex gap-2">
        <button className="btn btn-primary btn-sm flex-1" disabled={!result} onClick={apply}>
          {applyLabel(project, scope, chosen)}
        </button>
      </div>
    </section>
  );
}

/** What the button says: how much is changed where that is more than one part, or than what is `chosen`. */
function applyLabel(project: Project, { places, ids, lane }: Scope, chosen: boolean): string {
  const notesAt = (at: PartAddress) =>
    ids?.[places.indexOf(at)]?.length ??
    partOf(project, at).notes.filter((note) => lane === undefined || note.pitch === lane).length;
  const filled = places.filter((at) => notesAt(at) > 0);
  const notes = plural(
    filled.reduce((sum, at) => sum + notesAt(at), 0),
    "note",
  );
  if (filled.length < 2) return chosen && !ids ? `Apply to ${notes}` : "Apply";
  const count = (of: string[]) => new Set(of).size;
  const patterns = count(filled.map((at) => at.pattern));
  const tracks = plural(count(filled.map((at) => at.track)), "track");
  const where = patterns > 1 ? `${tracks}, ${plural(patterns, "pattern")}` : tracks;
  return `Apply to ${where}, ${notes}`;
}
