"use client";
import { Trash2, Volume2 } from "lucide-react";
import { nanoid } from "nanoid";
import { useState } from "react";
import { formatPosition } from "@/core/time";
import { chordOnDegree, chordText, inversionsOf, parseChord, readChord } from "@/core/pitch";
import { type ChordMark, SPREADS, type Spread } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { hearChord } from "../commands/ideas/hear-chord";
import { currentMetre } from "../state/current";

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

const INVERSIONS = ["Root position", "1st inversion", "2nd inversion", "3rd inversion"];
const HELP = "Type a name such as Dm7 or F/A, or a degree such as 2, 2 7 or V7.";

/** Name, degree, inversion and spread of one chord of the line. */
export function ChordEditor({ mark, start, onPut, onDelete, onHold, onClose }: Props) {
  const desk = useDesk();
  const key = useSession((state) => state.project.key);
  const metre = useSession(currentMetre);
  const [text, setText] = useState(mark ? chordText(mark.name) : "");
  const [wrong, setWrong] = useState("");
  const [sevenths, setSevenths] = useState(false);
  const chord = mark ? parseChord(mark.name) : null;

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
  const degrees = [1, 2, 3, 4, 5, 6, 7].map((d) => chordOnDegree(key, d, sevenths ? 4 : 3));

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
      {degrees.some((name) => name !== null) && (
        <div className="flex flex-col gap-1">
          <label className="flex h-[28px] items-center gap-1">
            <span className="quiet mr-auto">Chords of the key</span>
            <span className="quiet">with sevenths</span>
            <input
              type="checkbox"
              className="toggle toggle-primary toggle-xs"
              checked={sevenths}
              onChange={(event) => setSevenths(event.target.checked)}
            />
          </label>
          <div className="grid grid-cols-4 gap-1">
            {degrees.map(
              (name, i) =>
                name && (
                  <button
                    key={i}
                    className={`h-[28px] rounded-lg border px-1 ${
                      mark?.name === name
                        ? "border-primary bg-primary/15"
                        : "border-base-300 hover:border-base-content"
                    }`}
                    aria-label={`Degree ${i + 1}, ${name}`}
                    onClick={() => choose(name)}
                  >
                    <span className="quiet figure mr-1 text-[10px]">{i + 1}</span>
                    {chordText(name)}
                  </button>
                ),
            )}
          </div>
        </div>
      )}
      {mark && chord && (
        <div className="flex items-center gap-1.5">
          <select
            className="select select-xs min-w-0 flex-1"
            aria-label="Inversion"
            value={mark.inversion}
            onChange={(event) => put({ inversion: Number(event.target.value) })}
          >
            {INVERSIONS.slice(0, inversionsOf(chord) + 1).map((label, i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
          <select
            className="select select-xs w-20"
            aria-label="Spread"
            value={mark.spread}
            onChange={(event) => put({ spread: event.target.value as Spread })}
          >
            {SPREADS.map((spread) => (
              <option key={spread}>{spread}</option>
            ))}
          </select>
          {onHold && (
            <button
              className="btn btn-xs h-[24px] min-h-0 px-1.5"
              title="Add this chord alone as held notes to the current track"
              onClick={() => onHold(mark)}
            >
              Add as notes
            </button>
          )}
          <button
            className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1"
            aria-label="Hear the chord"
            title="Hear the chord"
            onClick={() => hearChord(desk, mark)}
          >
            <Volume2 size={14} />
          </button>
        </div>
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
