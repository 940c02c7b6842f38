"use client";
import { Plus, RotateCcw, X } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { ACTIONS } from "../actions/registry";
import type { Action } from "../actions/action";
import { isOwnKey, keysOf, othersWith } from "../person/keys";
import { plainPress, pressOf, shownPress, type Press } from "../person/presses";
import { setSettings, settings, useSetting } from "../person/settings";

const NAMES = new Map(ACTIONS.map(({ id, label }) => [id, label]));

/** The settings of keys without what was said about some actions. */
const without = (ids: readonly string[]) =>
  Object.fromEntries(Object.entries(settings().keys).filter(([id]) => !ids.includes(id)));

const give = (id: string, presses: readonly Press[]) =>
  setSettings({ keys: { ...settings().keys, [id]: presses } });

/** Gives actions the keys they had at first; what another action was given meanwhile stays, and is said. */
function reset(ids: readonly string[]): void {
  setSettings({ keys: without(ids) });
}

/** The keys of some actions, by group: each can be changed, taken away and set back. */
export function KeyList({ actions }: { actions: readonly Action[] }) {
  const own = useSetting("keys");
  const groups = [...new Set(actions.map(({ group }) => group))];
  return (
    <>
      {groups.map((group) => {
        const all = ACTIONS.filter((action) => action.group === group);
        const changed = all.filter(({ id }) => id in own);
        return (
          <section key={group} aria-label={`Keys: ${group}`} className="mb-5">
            <div className="flex h-8 items-center gap-3">
              <h3 className="text-[13px] font-semibold">{group}</h3>
              {changed.length > 0 && (
                <button
                  className="btn btn-ghost btn-xs gap-1 font-normal"
                  onClick={() => reset(all.map(({ id }) => id))}
                >
                  <RotateCcw size={12} /> Reset the keys of {group}
                </button>
              )}
            </div>
            <ul className="rounded-box border border-base-300 bg-base-100">
              {actions
                .filter((action) => action.group === group)
                .map((action) => (
                  <KeyRow key={action.id} action={action} />
                ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}

/** One action with its keys. */
function KeyRow({ action: { id, label } }: { action: Action }) {
  const [listening, setListening] = useState(false);
  const presses = keysOf(id);
  const clashes = presses.flatMap((press) =>
    othersWith(press, id).map((other) => `${shownPress(press)}: also ${NAMES.get(other)}`),
  );
  return (
    <li className="flex min-h-8 flex-wrap items-center gap-2 border-b border-base-300 px-3 py-0.5 last:border-b-0">
      <span className="min-w-40 flex-1">{label}</span>
      {clashes.length > 0 && <span className="text-[12px] text-error">{clashes.join("; ")}</span>}
      {presses.map((press) => (
        <span
          key={press}
          className="figure flex h-6 items-center gap-1 rounded-lg border border-base-300 pr-0.5 pl-2 text-[12px]"
        >
          {shownPress(press)}
          <button
            className="grid h-[24px] w-[24px] place-items-center rounded hover:bg-base-200"
            aria-label={`Take ${shownPress(press)} from ${label}`}
            title="Take this key away"
            onClick={() =>
              give(
                id,
                presses.filter((one) => one !== press),
              )
            }
          >
            <X size={12} />
          </button>
        </span>
      ))}
      {listening ? (
        <Listener id={id} label={label} onDone={() => setListening(false)} />
      ) : (
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 gap-1 px-1.5 font-normal"
          aria-label={`Change the key of ${label}`}
          title={presses.length > 0 ? "Give it another key" : "Give it a key"}
          onClick={() => setListening(true)}
        >
          <Plus size={12} /> {presses.length > 0 ? "Change" : "Give a key"}
        </button>
      )}
      {isOwnKey(id) && (
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
          aria-label={`Reset the key of ${label}`}
          title="As at first"
          onClick={() => reset([id])}
        >
          <RotateCcw size={12} />
        </button>
      )}
    </li>
  );
}

/** Waits for the press that an action is to have: the next one is it, escape and a press elsewhere give up. */
function Listener({ id, label, onDone }: { id: string; label: string; onDone(): void }) {
  const take = (press: Press) => {
    const others = othersWith(press, id);
    give(id, [press]);
    onDone();
    if (others.length === 0) return;
    const names = others.map((other) => `“${NAMES.get(other)}”`).join(" and ");
    toast(`${shownPress(press)} is also the key of ${names}`, {
      duration: 12_000,
      action: {
        label: "Take it from there",
        onClick: () => {
          for (const other of others)
            give(
              other,
              keysOf(other).filter((one) => plainPress(one) !== plainPress(press)),
            );
        },
      },
    });
  };
  return (
    <input
      readOnly
      autoFocus
      className="input input-xs h-[24px] w-40"
      aria-label={`New key of ${label}`}
      value="Press the new key"
      onBlur={onDone}
      onKeyDown={(event) => {
        // What leads out of the field stays what it is.
        if (event.key === "Tab") return;
        event.preventDefault();
        event.stopPropagation();
        if (event.key === "Escape") return onDone();
        const press = pressOf(event.nativeEvent, settings().keySense);
        if (press) take(press);
      }}
    />
  );
}
