"use client";
import { useCallback, useRef, useState } from "react";
import { edits, keyName, pitchClassName, type Key } from "@/core";
import { useDesk, useSession } from "../session/context";
import { useDismiss } from "../controls/use-dismiss";
import { ScalePicker } from "./scale-picker";

const ANSWERS = [
  ["keep", "Keep the notes", "They stay where they are"],
  ["degrees", "Move them by degree", "Each goes to the same degree of the new key"],
  ["snap", "Snap them", "Each goes to the nearest note of the new key"],
] as const;

/** Root and scale of the project. A change takes hold at once; what becomes of the notes can be chosen then. */
export function KeyField() {
  const { store } = useDesk();
  const key = useSession((s) => s.project.key);
  const [change, setChange] = useState<{ from: Key; group: string } | null>(null);
  const root = useRef<HTMLSpanElement>(null);
  const [picking, setPicking] = useState(false);
  const close = useCallback(() => {
    setChange(null);
    setPicking(false);
  }, []);
  useDismiss(root, change !== null || picking, close);

  const set = (to: Key) => {
    const { project, edit } = store.getState();
    // Changes that follow one another count from where they began.
    const next = change ?? { from: project.key, group: `key-${performance.now()}` };
    edit("Key", (p) => edits.setKey(p, to), next.group);
    const melodic = new Set(project.tracks.filter((t) => t.kind === "melody").map((t) => t.id));
    const notes = project.patterns.some((pattern) =>
      pattern.parts.some((part) => melodic.has(part.track) && part.notes.length > 0),
    );
    setChange(notes ? next : null);
  };
  const answer = (how: edits.KeyChange) => {
    const { from, group } = change!;
    store.getState().edit("Key", (p) => edits.rekeyNotes(p, from, p.key, how), group);
    setChange(null);
  };

  return (
    <span ref={root} className="figure relative flex gap-1 font-medium">
      <select
        className="cursor-pointer appearance-none bg-transparent"
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
      <button
        className="max-w-[124px] truncate text-left"
        aria-label={`Scale of the key: ${key.scale}`}
        aria-haspopup="dialog"
        aria-expanded={picking}
        onClick={() => setPicking(!picking)}
      >
        {key.scale}
      </button>
      {picking && (
        <ScalePicker
          value={key}
          onTake={(scale) => {
            setPicking(false);
            if (scale !== key.scale) set({ ...key, scale });
          }}
          onClose={() => setPicking(false)}
        />
      )}
      {change && (
        <div
          role="dialog"
          aria-label="Notes in the new key"
          className="rounded-box absolute top-7 left-0 z-30 flex w-72 flex-col border border-base-300 bg-base-100 p-2 font-sans text-[12px] font-normal shadow-lg"
        >
          <p className="quiet px-2 pb-1">
            From {keyName(change.from)} to {keyName(key)}: what of the notes?
          </p>
          {ANSWERS.map(([how, label, about]) => (
            <button
              key={how}
              className="rounded-lg px-2 py-1 text-left hover:bg-base-200"
              onClick={() => answer(how)}
            >
              <span className="text-[13px] font-semibold">{label}</span>
              <span className="quiet block">{about}</span>
            </button>
          ))}
        </div>
      )}
    </span>
  );
}
