"use client";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { nanoid } from "nanoid";
import { useState } from "react";
import {
  TRANSFORMS,
  edits,
  heardPart,
  padName,
  partOf,
  patternOf,
  trackOf,
  type ChainStep,
  type Part,
} from "@/core";
import { useDesk, useSession } from "../session/context";
import { place, type Session } from "../session/store";
import { ownIds } from "../sheet/editing";
import { StepCard } from "./step-card";

type ScopeKind = "selection" | "lane" | "part";

interface Scope {
  kind: ScopeKind;
  label: string;
  /** Note ids, or null for all of the lane or part. */
  ids: string[] | null;
  /** The lane it stays with, hits put on later included. */
  lane?: number;
}

/** What a new transform can work on, the likeliest first. */
function scopesOf(state: Session, part: Part): Scope[] {
  const track = trackOf(state.project, state.track);
  const drums = track.kind === "drums";
  const word = (n: number) => `${n} ${drums ? "hit" : "note"}${n === 1 ? "" : "s"}`;
  const scopes: Scope[] = [];
  const selected = ownIds(state.selection);
  const inPart = part.notes.filter((note) => selected.has(note.id));
  if (inPart.length > 0) {
    const ids = inPart.map((note) => note.id);
    scopes.push({ kind: "selection", label: `Selection, ${word(ids.length)}`, ids });
  }
  if (drums) {
    const { pitch } = state.caret;
    const count = part.notes.filter((note) => note.pitch === pitch).length;
    const name = track.lanes.find((l) => l.pitch === pitch)?.name ?? padName(pitch);
    const label = `Lane ${name}, ${word(count)}`;
    scopes.push({ kind: "lane", label, ids: null, lane: pitch });
  }
  scopes.push({
    kind: "part",
    label: `All of ${track.name}, ${word(part.notes.length)}`,
    ids: null,
  });
  return scopes;
}

/** The chain of the part in hand, and what can be added to it. */
export function TransformPanel() {
  const { store } = useDesk();
  const state = useSession((s) => s);
  const [wanted, setWanted] = useState<ScopeKind | null>(null);
  const [adding, setAdding] = useState(false);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  if (!state.track) return <p className="quiet p-4">Add a track first, on the left.</p>;

  const track = trackOf(state.project, state.track);
  const part = partOf(state.project, place(state));
  const scopes = scopesOf(state, part);
  const scope = scopes.find((s) => s.kind === wanted) ?? scopes[0]!;
  const { effects } = heardPart(
    state.project,
    track,
    part,
    patternOf(state.project, state.pattern).bars,
  );

  const add = (id: string) => {
    const step = {
      id: nanoid(8),
      transform: id,
      on: true,
      params: { ...TRANSFORMS[id]!.defaults },
      scope: scope.ids,
      ...(scope.lane !== undefined && { lane: scope.lane }),
    };
    state.edit(`Add ${TRANSFORMS[id]!.label}`, (p) => edits.addStep(p, place(state), step));
    setAdding(false);
  };
  const empty = part.chain.length === 0;
  const choosing = adding || empty;
  const write = () => {
    const name =
      part.chain.length === 1 ? TRANSFORMS[part.chain[0]!.transform]!.label : "the chain";
    state.edit(`Write ${name} to notes`, (p) => edits.writeChain(p, place(state)));
    store.setState({ selection: new Set(), said: "Written to notes" });
  };
  const compare = (comparing: boolean) => store.setState({ comparing });
  const scopeName = (step: ChainStep) => {
    if (step.lane !== undefined) {
      return track.lanes.find((l) => l.pitch === step.lane)?.name ?? padName(step.lane);
    }
    if (!step.scope) return "all";
    const { length } = step.scope;
    return `${length} ${track.kind === "drums" ? "hit" : "note"}${length === 1 ? "" : "s"}`;
  };
  const drop = ({ active, over }: DragEndEvent) => {
    const to = part.chain.findIndex((step) => step.id === over?.id);
    if (to < 0 || active.id === over?.id) return;
    state.edit("Reorder", (p) => edits.moveStep(p, place(state), String(active.id), to));
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto p-3.5">
        {!empty && (
          <DndContext
            id="chain"
            sensors={sensors}
            collisionDetection={closestCenter}
            onDragEnd={drop}
          >
            <SortableContext
              items={part.chain.map((step) => step.id)}
              strategy={verticalListSortingStrategy}
            >
              <ol className="flex flex-col gap-2.5" aria-label={`Chain of ${track.name}`}>
                {part.chain.map((step, i) => (
                  <StepCard
                    key={step.id}
                    step={step}
                    index={i}
                    count={part.chain.length}
                    effect={effects[i] ?? null}
                    scope={scopeName(step)}
                  />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
        )}
        {choosing ? (
          <div className="flex flex-col gap-2">
            <label className="flex items-center gap-2 text-[12px]">
              <span className="quiet shrink-0">Works on</span>
              <select
                className="select select-xs min-w-0 flex-1"
                value={scope.kind}
                onChange={(event) => setWanted(event.target.value as ScopeKind)}
              >
                {scopes.map((s) => (
                  <option key={s.kind} value={s.kind}>
                    {s.label}
                  </option>
                ))}
              </select>
            </label>
            <ul className="flex flex-col" aria-label="Transforms">
              {Object.entries(TRANSFORMS).map(([id, transform]) => (
                <li key={id}>
                  <button
                    className="w-full rounded-lg px-2 py-1 text-left leading-tight hover:bg-base-200"
                    title={transform.about}
                    onClick={() => add(id)}
                  >
                    <span className="text-[13px] font-semibold">{transform.label}</span>
                    <span className="quiet block truncate text-[12px]">{transform.about}</span>
                  </button>
                </li>
              ))}
            </ul>
          </div>
        ) : (
          <button
            className="quiet rounded-box border border-dashed border-base-300 py-2 text-[13px] hover:border-base-content hover:text-base-content"
            onClick={() => setAdding(true)}
          >
            Add a transform
          </button>
        )}
      </div>
      {!empty && (
        <div className="flex gap-2 border-t border-base-300 p-3.5">
          <button
            className="btn btn-sm flex-1 select-none"
            title="Hold to hear and see the notes without the chain"
            onPointerDown={() => compare(true)}
            onPointerUp={() => compare(false)}
            onPointerLeave={() => state.comparing && compare(false)}
            onKeyDown={(event) => (event.key === " " || event.key === "Enter") && compare(true)}
            onKeyUp={() => compare(false)}
            onBlur={() => state.comparing && compare(false)}
          >
            Compare before
          </button>
          <button className="btn btn-primary btn-sm flex-1" onClick={write}>
            Write to notes
          </button>
        </div>
      )}
    </div>
  );
}
