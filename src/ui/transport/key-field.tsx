"use client";
import { must } from "@/core/base";
import { useRef, useState } from "react";
import { type Key, keyName, pitchClassName } from "@/core/pitch";
import { useDesk, useSession } from "../session/context";
import { Popover } from "../controls/popover";
import { useRequest } from "../session/requested";
import { type KeyChange, setKey, rekeyNotes } from "../commands/song/project";
import { ScalePicker } from "./scale-picker";

const ANSWERS = [
  ["keep", "Keep the notes", "They stay where they are"],
  ["degrees", "Move them by degree", "Each goes to the same degree of the new key"],
  ["snap", "Snap them", "Each goes to the nearest note of the new key"],
] as const;

/** A change of key that notes can still be taken along in. */
interface Change {
  from: Key;
  /** Group of its edits: one step of the history. */
  group: string;
}

/** Root and scale of the project. A change takes hold at once; what becomes of the notes can be chosen then. */
export function KeyField() {
  const { store } = useDesk();
  const key = useSession((state) => state.project.key);
  const [change, setChange] = useState<Change | null>(null);
  const [picking, setPicking] = useState(false);
  useRequest("scale", () => setPicking(true));

  const latest = useRef<Change | null>(null);

  const set = (to: Key) => {
    const { project, history } = store.getState();
    // Changes that follow one another, root and scale, count from where they began.
    const last = history.past[history.past.length - 1];
    const goesOn = latest.current !== null && last?.group === latest.current.group;
    const next = goesOn
      ? must(latest.current)
      : { from: project.key, group: `key-${performance.now()}` };
    latest.current = next;
    setKey(store, to, next.group);
    const melodic = new Set(
      project.tracks.filter((track) => track.kind === "melody").map((track) => track.id),
    );
    const notes = project.patterns.some((pattern) =>
      pattern.parts.some((part) => melodic.has(part.track) && part.notes.length > 0),
    );
    setChange(notes ? next : null);
  };
  const answer = (how: KeyChange) => {
    if (!change) return;
    const { from, group } = change;
    rekeyNotes(store, from, how, group);
    latest.current = null;
    setChange(null);
  };

  return (
    <Popover
      label="Notes in the new key"
      open={change !== null}
      onOpenChange={(open) => !open && setChange(null)}
      className="w-72 p-2"
      anchor={
        <span
          className="figure relative flex w-[112px] gap-1 font-medium max-[1180px]:w-[92px]"
          title={keyName(key)}
        >
          <select
            className="h-[24px] min-w-[24px] cursor-pointer appearance-none bg-transparent"
            aria-label="Root of the key"
            value={key.root}
            onChange={(event) => set({ ...key, root: Number(event.target.value) })}
          >
            {Array.from({ length: 12 }, (_, pitch) => (
              <option key={pitch} value={pitch}>
                {pitchClassName({ ...key, root: pitch }, pitch)}
              </option>
            ))}
          </select>
          <Popover
            label="Scale"
            open={picking}
            onOpenChange={setPicking}
            className="w-[330px] gap-2 p-3"
            trigger={
              <button
                className="min-w-0 flex-1 truncate text-left"
                aria-label={`Scale of the key: ${key.scale}`}
              >
                {key.scale}
              </button>
            }
          >
            <ScalePicker
              value={key}
              onChoose={(scale) => {
                setPicking(false);
                if (scale !== key.scale) set({ ...key, scale });
              }}
            />
          </Popover>
        </span>
      }
    >
      {change && (
        <>
          <p className="quiet px-2 pb-1">
            From {keyName(change.from)} to {keyName(key)}: what happens to the notes?
          </p>
          {ANSWERS.map(([how, label, about]) => (
            <button
              key={how}
              className="rounded-lg px-2 py-1 text-left hover:bg-base-200"
              onClick={() => answer(how)}
            >
              <span className="font-semibold">{label}</span>
              <span className="quiet block">{about}</span>
            </button>
          ))}
        </>
      )}
    </Popover>
  );
}
