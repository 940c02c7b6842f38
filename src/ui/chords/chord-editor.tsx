"use client";
import { Trash2 } from "lucide-react";
import { nanoid } from "nanoid";
import { useState } from "react";
import { formatPosition } from "@/core/time";
import { chordText, readChord } from "@/core/pitch";
import type { ChordMark } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { hearChord } from "../commands/ideas/hear-chord";
import { currentMetre } from "../state/current";
import { ChordVoicing, ChordsOfKey } from "./chord-choices";

interface Props {
  /** The chord that stands there, or null for a new one. */
  mark: ChordMark | null;
  start: number;
  onPut(mark: ChordMark): void;
  onDelete(id: string): void;
  /** Left out where the current track takes no notes of a chord. */
  onHold?(mark: ChordMark): void;
  onClose(): void;
}

const HELP = "Type a name such as Dm7 or F/A, or a degree such as 2, 2 7 or V7.";

/** Name, degree, inversion and spread of one chord of the line. */
export function ChordEditor({ mark, start, onPut, onDelete, onHold, onClose }: Props) {
  const desk = useDesk();
  const key = useSession((state) => state.project.key);
  const metre = useSession(currentMetre);
  const [text, setText] = useState(mark ? chordText(mark.name) : "");
  const [wrong, setWrong] = useState("");

  const put = (change: Partial<ChordMark>) => {
    const fresh: ChordMark = { id: nanoid(8), start, name: "", inversion: 0, spread: "close" };
    const next = { ...(mark ?? fresh), ...change };
    onPut(next);
    if (!desk.store.getState().playing) hearChord(desk, next);
  };
  const choose = (name: string) => {
    setWrong("");
    setText(chordText(name));
    put({ name, inversion: 0 });
  };
  const submit = () => {
    const name = readChord(text, key);
    if (name === null) setWrong(`“${text}” is no chord. ${HELP}`);
    else {
      choose(name);
      onClose();
    }
  };

  return (
    <>
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <span className="figure quiet">{formatPosition(start, metre)}</span>
        <input
          className="input input-sm min-w-0 flex-1 font-semibold"
          aria-label="Chord name"
          aria-invalid={wrong !== ""}
          placeholder="Dm7, F/A, 2, V7"
          autoFocus
          maxLength={24}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <button className="btn btn-primary btn-sm">{mark ? "Change" : "Add"}</button>
      </form>
      {wrong && (
        <p role="alert" className="text-error">
          {wrong}
        </p>
      )}
      <ChordsOfKey {...(mark && { now: mark.name })} onChoose={choose} />
      {mark && (
        <ChordVoicing
          mark={mark}
          onPut={put}
          onHear={() => hearChord(desk, mark)}
          {...(onHold && { onHold })}
        />
      )}
      <div className="flex justify-between">
        <button className="btn btn-ghost btn-xs" onClick={() => choose("")}>
          No chord (N.C.)
        </button>
        {mark && (
          <button
            className="btn btn-ghost btn-xs gap-1"
            aria-label="Delete the chord"
            title="Delete it: the previous chord holds on"
            onClick={() => onDelete(mark.id)}
          >
            <Trash2 size={13} /> Delete
          </button>
        )}
      </div>
    </>
  );
}
