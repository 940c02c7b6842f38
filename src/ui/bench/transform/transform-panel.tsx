"use client";
import { dragWords } from "../../controls/drag-words";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { useMemo, useState } from "react";
import { plural, nth } from "@/core/base";
import { padName } from "@/core/pitch";
import {
  type ChainStep,
  type Part,
  type Project,
  type Track,
  patternOf,
  trackOf,
} from "@/core/score";
import { effectivePart, transformOf } from "@/core/transforms";
import { useRequest } from "../../session/requested";
import { useDesk, useWork } from "../../session/context";
import { useStroke } from "../../controls/stroke";
import { currentPart, type Work } from "../../state/current";
import { BypassButton } from "./bypass-button";
import { NowCard } from "./now-card";
import { addToChain, linkedPlaces, writeChain, moveStep } from "../../commands/tracks/chain";
import { Choice } from "../../controls/choice";
import { placesOfStep, scopesOf, type Scope, type ScopeKind } from "../../commands/tracks/scopes";
import { StepCard } from "./step-card";
import { TransformTiles } from "./transform-tiles";

/** The card under the hand: an open one is many times as high as a folded one, its middle says nothing. */
const underHand: CollisionDetection = (args) => {
  const within = pointerWithin(args);
  return within.length > 0 ? within : closestCenter(args);
};

/** Whether a transform becomes a card, or changes the notes themselves. */
type How = "chain" | "now";

/** A scope that was chosen, and what was selected when it was. */
interface Wanted extends Pick<Work, "selection" | "track" | "pattern"> {
  kind: ScopeKind;
}

/** The chain of the current part, and what can be added to it. */
export function TransformPanel() {
  const { store } = useDesk();
  const state = useWork();
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const [how, setHow] = useState<How>("chain");
  const [now, setNow] = useState<string | null>(null);
  useRequest("apply-humanize", () => setNow("humanize"));
  const scopes = useMemo(() => (state.track ? scopesOf(state, currentPart(state)) : []), [state]);
  if (!state.track) return <p className="quiet p-4">Add a track first, on the left.</p>;

  const part = currentPart(state);
  const { selection, track, pattern } = state;
  // What was chosen holds for what was in hand then, and for one use.
  const holds =
    wanted?.selection === selection && wanted.track === track && wanted.pattern === pattern;
  const scope = (holds && scopes.find(({ kind }) => kind === wanted.kind)) || nth(scopes, 0);
  const empty = part.chain.length === 0;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      {!empty && (
        <div className="max-h-[55%] shrink-0 overflow-y-auto border-b border-base-300 px-3.5 py-2">
          <Chain state={state} part={part} />
        </div>
      )}
      {!empty && <ChainButtons state={state} />}
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto px-3.5 py-2.5">
        {now ? (
          <NowCard
            key={now}
            transform={now}
            scope={scope}
            onDone={() => {
              setNow(null);
              setWanted(null);
              store.getState().request("sheet");
            }}
          />
        ) : (
          <TransformList
            scopes={scopes}
            scope={scope}
            onScope={(kind) => setWanted({ kind, selection, track, pattern })}
            how={how}
            onHow={setHow}
            onChoose={(id) => {
              if (how === "now") {
                setNow(id);
                return;
              }
              addToChain(store, id, scope);
              setWanted(null);
            }}
          />
        )}
      </div>
    </div>
  );
}

/** The cards of a chain, in order; dragged to another place. */
function Chain({ state, part }: { state: Work; part: Part }) {
  const { store } = useDesk();
  const stroke = useStroke();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const track = trackOf(state.project, state.track);
  const pattern = patternOf(state.project, state.pattern);
  const { effects } = effectivePart(state.project, track, part, pattern);
  const ids = part.chain.map(({ id }) => id);
  // One card lies open: the one added last, until another is opened or it is folded.
  const [shown, setShown] = useState({ open: ids.at(-1) ?? null, ids });
  if (ids.length !== shown.ids.length || ids.some((id) => !shown.ids.includes(id))) {
    const fresh = ids.filter((id) => !shown.ids.includes(id)).at(-1);
    setShown({ open: fresh ?? shown.open, ids });
  }
  const drop = (event: DragEndEvent) => {
    const over = stroke.over(event, "data-step");
    const id = String(event.active.id);
    const to = part.chain.findIndex((step) => step.id === over);
    if (to < 0 || id === over) return;
    moveStep(store, id, to);
  };
  return (
    <DndContext
      id="chain"
      accessibility={dragWords((id) => {
        const step = part.chain.find((one) => one.id === id);
        return step ? transformOf(step.transform).label : null;
      })}
      sensors={sensors}
      collisionDetection={underHand}
      onDragEnd={drop}
    >
      <SortableContext
        items={part.chain.map((step) => step.id)}
        strategy={verticalListSortingStrategy}
      >
        <ol className="flex flex-col gap-1" aria-label={`Chain of ${track.name}`}>
          {part.chain.map((step, i) => (
            <StepCard
              key={step.id}
              open={shown.open === step.id}
              onOpen={(to) => setShown({ open: to ? step.id : null, ids })}
              step={step}
              index={i}
              count={part.chain.length}
              effect={effects[i] ?? null}
              scope={scopeName(state.project, track, step)}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

/** What a card works on, in a word or two. */
function scopeName(project: Project, track: Track, step: ChainStep): string {
  if (step.lane !== undefined) {
    return track.lanes.find((lane) => lane.pitch === step.lane)?.name ?? padName(step.lane);
  }
  const shared = placesOfStep(project, step.id).length;
  if (!step.scope) return shared > 1 ? `${shared} parts` : "all";
  return plural(step.scope.length, track.kind === "drums" ? "hit" : "note");
}

interface ListProps {
  scopes: readonly Scope[];
  scope: Scope;
  onScope(kind: ScopeKind): void;
  how: How;
  onHow(how: How): void;
  onChoose(transform: string): void;
}

/** All transforms, what they are to work on, and whether as a card or now. */
function TransformList({ scopes, scope, onScope, how, onHow, onChoose }: ListProps) {
  return (
    <div className="flex flex-col gap-2">
      <label className="flex items-center gap-2 text-[12px]">
        <span className="quiet shrink-0">Works on</span>
        <select
          className="select select-xs min-w-0 flex-1"
          value={scope.kind}
          onChange={(event) => onScope(event.target.value as ScopeKind)}
        >
          {scopes.map(({ kind, label }) => (
            <option key={kind} value={kind}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <Choice
        label="How"
        className="grid grid-cols-2 gap-1"
        optionClass="h-7 border-base-300"
        value={how}
        options={[
          {
            value: "chain",
            shown: "Add to chain",
            title: "A card in the chain: its values can be changed later",
          },
          {
            value: "now",
            shown: "Apply now",
            title: "Changes the notes themselves, with values set first",
          },
        ]}
        onChange={(to) => onHow(to === "now" ? "now" : "chain")}
      />
      <TransformTiles scope={scope} onChoose={onChoose} />
    </div>
  );
}

/** Bypass while held, and writing the chain into the notes. */
function ChainButtons({ state }: { state: Work }) {
  const { store } = useDesk();
  const linked = linkedPlaces(state);
  return (
    <div className="flex gap-2 border-b border-base-300 px-3.5 py-2">
      <BypassButton title="Hold to bypass the chain: hear and see the notes without it" />
      <button className="btn btn-primary btn-sm flex-1" onClick={() => writeChain(store)}>
        {linked.length > 1 ? `Write in ${plural(linked.length, "part")}` : "Write to notes"}
      </button>
    </div>
  );
}
