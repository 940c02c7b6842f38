"use client";
import { Choice } from "../controls/choice";
import { Toggle } from "../controls/toggle";
import { Delete, Minus, Plus, X } from "lucide-react";
import { useRef } from "react";
import { inKey, pitchClassName, trackOf } from "@/core";
import { useDesk, useSession } from "../session/context";
import { Piano } from "../controls/piano";
import {
  DYNAMICS,
  ENTRY_VALUES,
  leaveEntry,
  onKit,
  rest,
  setMode,
  settle,
  stepBack,
  tie,
} from "../commands/entry";
import { tapped } from "../commands/taps";
import type { Entry, EntryMode } from "../session/entry";
import { KEY_PLACES, keyDown, tapUp, useEntryKeys } from "./entry-keys";

const MODES: readonly { id: EntryMode; label: string; about: string }[] = [
  { id: "notes", label: "Notes", about: "Each key enters a note of the value and moves on" },
  {
    id: "tap",
    label: "Tap a rhythm",
    about: "Any key taps against the loop: hits without a pitch",
  },
  { id: "pitches", label: "Set pitches", about: "Each key sets the pitch of the next tapped hit" },
];

/** The playing surface: note values, dynamics and keys, for entering notes step by step. */
export function Surface() {
  const entry = useSession((s) => s.entry);
  useEntryKeys();
  return entry ? <Open entry={entry} /> : null;
}

function Open({ entry }: { entry: Entry }) {
  const desk = useDesk();
  const { store } = desk;
  const key = useSession((s) => s.project.key);
  const inScale = useSession((s) => s.inScale);
  const left = useSession((s) => tapped(s).length);
  const tap = useRef<string | null>(null);
  const change = store.getState().setEntry;
  const kit = useSession(onKit);
  const keyUp = () => {
    if (tap.current) tapUp(desk, tap.current);
    else if (!entry.gather) settle(store);
    tap.current = null;
  };
  return (
    <section
      aria-label="Step entry"
      className="flex gap-4 border-t border-base-300 px-4 py-2 text-[12px]"
    >
      <div className="flex w-[190px] shrink-0 flex-col gap-1">
        <Choice
          label="What the keys do"
          className="flex flex-col"
          optionClass="flex h-[26px] items-center justify-between border-transparent px-2 text-left"
          value={entry.mode}
          options={MODES.filter(({ id }) => !kit || id !== "pitches").map(
            ({ id, label, about }) => ({
              value: id,
              title: `${about} (B goes on to the next)`,
              shown: (
                <>
                  {label}
                  {id === "pitches" && left > 0 && <span className="figure">{left} left</span>}
                </>
              ),
            }),
          )}
          onChange={(mode) => setMode(store, mode)}
        />
        <div className="flex gap-1">
          {entry.mode === "tap" ? (
            <Toggle
              label="Snap taps to grid"
              on={entry.snapTaps}
              onClick={() => change({ snapTaps: !entry.snapTaps })}
            />
          ) : (
            <Toggle
              label={entry.insert ? "Insert" : "Overwrite"}
              title="Insert moves what follows on; overwrite takes its place (M)"
              on={entry.insert}
              onClick={() => change({ insert: !entry.insert })}
            />
          )}
          <button
            className="btn btn-ghost btn-xs h-[24px] min-h-0 gap-1 px-1.5"
            title="Leave step entry (I or esc)"
            onClick={() => leaveEntry(store)}
          >
            <X size={12} /> Leave
          </button>
        </div>
      </div>
      <div className="flex min-w-0 flex-1 flex-col gap-1.5">
        <div className="flex flex-wrap items-center gap-1">
          <Choice
            label="Note value"
            className="flex gap-1"
            optionClass="figure h-[26px] border-base-300 px-1.5 text-[12px]"
            value={String(entry.value)}
            options={ENTRY_VALUES.map((value, i) => ({
              value: String(value),
              shown: `1/${value}`,
              title: `1/${value} (key ${i + 1})`,
            }))}
            onChange={(value) => change({ value: Number(value) })}
          />
        </div>
        <div className="flex flex-wrap items-center gap-1">
          <Choice
            label="Dynamics"
            className="flex gap-1"
            optionClass="h-[26px] min-w-[26px] border-base-300 px-1.5 font-serif italic"
            value={DYNAMICS.find(([, velocity]) => velocity === entry.velocity)?.[0] ?? null}
            options={DYNAMICS.map(([name, velocity]) => ({
              value: name,
              shown: name,
              title: `Velocity ${velocity} (C softer, V louder)`,
            }))}
            onChange={(name) => change({ velocity: Object.fromEntries(DYNAMICS)[name]! })}
          />
          <Toggle
            label="Triplet"
            title="Triplet (9)"
            on={entry.kind === "triplet"}
            onClick={() => change({ kind: entry.kind === "triplet" ? "straight" : "triplet" })}
          />
          <Toggle
            label="Dotted"
            title="Dotted (0)"
            on={entry.kind === "dotted"}
            onClick={() => change({ kind: entry.kind === "dotted" ? "straight" : "dotted" })}
          />
        </div>
        <div className="flex flex-wrap items-center gap-1">
          <Plain label="Rest" title="A step without a note (enter)" onClick={() => rest(store)} />
          <Plain label="Tie" title="Hold the last step on (=)" onClick={() => tie(store)} />
          <button
            className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
            aria-label="Step back"
            title="Delete the last step (backspace)"
            onClick={() => stepBack(store)}
          >
            <Delete size={14} />
          </button>
          <Toggle
            label="Build chord"
            title="Clicked keys stay on one step until Next step"
            on={entry.gather}
            onClick={() => {
              settle(store);
              change({ gather: !entry.gather });
            }}
          />
          {entry.gather && (
            <Plain label="Next step" title="The chord is done" onClick={() => settle(store)} />
          )}
          <span className="ml-auto flex items-center" hidden={kit}>
            <button
              className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
              aria-label="Keys an octave down"
              title="An octave down (Z)"
              onClick={() => change({ low: Math.max(0, entry.low - 12) })}
            >
              <Minus size={12} />
            </button>
            <span className="figure quiet">C{Math.floor(entry.low / 12) - 1}</span>
            <button
              className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
              aria-label="Keys an octave up"
              title="An octave up (X)"
              onClick={() => change({ low: Math.min(96, entry.low + 12) })}
            >
              <Plus size={12} />
            </button>
          </span>
        </div>
      </div>
      <div className="w-[330px] shrink-0">
        {kit ? (
          <Pads
            onDown={(index, velocity) => (tap.current = keyDown(desk, index, velocity))}
            onUp={keyUp}
          />
        ) : (
          <Piano
            low={entry.low}
            octaves={2}
            height={38}
            mark={(p) => (inKey(key, p) ? (p % 12 === key.root ? "root" : "in") : null)}
            caption={(p) => (p % 12 === 0 ? pitchClassName(key, p) : "")}
            onDown={(pitch, velocity) => {
              tap.current = keyDown(desk, pitch - entry.low, velocity);
            }}
            onUp={keyUp}
          />
        )}
        <p className="quiet mt-0.5 text-[11px]">
          {kit
            ? "Keys A, W, S, E, D … are the pads, in the order of the lanes; lower on a pad is louder."
            : `Keys A to L and the row above play${inScale ? ", held to the scale" : ""}; lower on a key of the screen is louder.`}
        </p>
      </div>
    </section>
  );
}

/** The pads of the kit, to be pressed: lower on one is louder. */
function Pads({ onDown, onUp }: { onDown(index: number, velocity: number): void; onUp(): void }) {
  const lanes = useSession((s) => trackOf(s.project, s.track).lanes);
  return (
    <div
      className="grid max-h-[92px] grid-cols-4 gap-1 overflow-y-auto"
      role="group"
      aria-label="Pads"
    >
      {lanes.map((lane, i) => (
        <button
          key={lane.id}
          className="h-[28px] touch-none truncate rounded-lg border border-base-300 px-1 text-[11px] active:bg-primary active:text-primary-content"
          title={`${lane.name}${KEY_PLACES[i] ? ` (key ${KEY_PLACES[i].replace("Key", "")})` : ""}`}
          onPointerDown={(event) => {
            const frame = event.currentTarget.getBoundingClientRect();
            const share = Math.min(1, Math.max(0, (event.clientY - frame.top) / frame.height));
            onDown(i, Math.round(30 + 97 * share));
          }}
          onPointerUp={onUp}
          onPointerCancel={onUp}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || event.repeat) return;
            event.preventDefault();
            onDown(i, 96);
            onUp();
          }}
        >
          {lane.name}
        </button>
      ))}
    </div>
  );
}

interface ButtonProps {
  label: string;
  title?: string;
  onClick(): void;
}

const Plain = ({ label, title, onClick }: ButtonProps) => (
  <button className="btn btn-xs h-[24px] min-h-0 px-2" title={title} onClick={onClick}>
    {label}
  </button>
);
