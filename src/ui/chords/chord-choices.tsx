"use client";
import { Volume2 } from "lucide-react";
import { useState } from "react";
import { chordOnDegree, chordText, inversionsOf, parseChord } from "@/core/pitch";
import { type ChordMark, SPREADS, type Spread } from "@/core/score";
import { useSession } from "../session/context";

const INVERSIONS = ["Root position", "1st inversion", "2nd inversion", "3rd inversion"];
const DEGREES = [1, 2, 3, 4, 5, 6, 7];

/** The chords of the key, to be chosen by degree; nothing where the key has none. */
export function ChordsOfKey({ now, onChoose }: { now?: string; onChoose(name: string): void }) {
  const key = useSession((state) => state.project.key);
  const [sevenths, setSevenths] = useState(false);
  const degrees = DEGREES.map((degree) => chordOnDegree(key, degree, sevenths ? 4 : 3));
  if (degrees.every((name) => name === null)) return null;
  return (
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
                  now === name
                    ? "border-primary bg-primary/15"
                    : "border-base-300 hover:border-base-content"
                }`}
                aria-label={`Degree ${i + 1}, ${name}`}
                onClick={() => onChoose(name)}
              >
                <span className="quiet figure mr-1 text-[12px]">{i + 1}</span>
                {chordText(name)}
              </button>
            ),
        )}
      </div>
    </div>
  );
}

interface VoicingProps {
  mark: ChordMark;
  onPut(change: Partial<ChordMark>): void;
  onHear(): void;
  /** Left out where the current track takes no notes of a chord. */
  onHold?(mark: ChordMark): void;
}

/** How the tones of a chord lie, and hearing them. */
export function ChordVoicing({ mark, onPut, onHear, onHold }: VoicingProps) {
  const chord = parseChord(mark.name);
  if (!chord) return null;
  return (
    <div className="flex items-center gap-1.5">
      <select
        className="select select-xs min-w-0 flex-1"
        aria-label="Inversion"
        value={mark.inversion}
        onChange={(event) => onPut({ inversion: Number(event.target.value) })}
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
        onChange={(event) => onPut({ spread: event.target.value as Spread })}
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
        onClick={onHear}
      >
        <Volume2 size={14} />
      </button>
    </div>
  );
}
