"use client";
import { PRESETS } from "@/core/transforms";
import { WITH } from "@/core/generate";
import { A_GROOVE, TAPS, type Settings } from "../../state/ideas";
import { useSession } from "../../session/context";
import { GrooveField } from "../../fields/groove-field";
import { Presets } from "../shared/presets";
import { nth } from "@/core/base";
import { TapsField } from "./taps-field";

const HOW: Readonly<Record<string, string>> = {
  "": "of its own",
  follow: "follows",
  answer: "answers",
  interlock: "interlocks with",
};

interface Props {
  now: Settings;
  onChange(change: Partial<Settings>): void;
}

/** Whether a line has its own rhythm, or goes with that of another track or lane, of taps, or of a groove. */
export function RhythmSourceField({ now, onChange }: Props) {
  const tracks = useSession((state) => state.project.tracks);
  const current = useSession((state) => state.track);
  const others = tracks.filter(({ id }) => id !== current);
  const sources = [
    ...others.flatMap(({ id, name, lanes }) => [
      { id, label: name },
      ...lanes.map((lane) => ({ id: `${id} ${lane.pitch}`, label: `${name}: ${lane.name}` })),
    ]),
    { id: TAPS, label: "what you tap" },
    { id: A_GROOVE, label: "a groove" },
  ];
  const known = sources.some(({ id }) => id === now.source);
  return (
    <>
      <div className="flex items-center gap-2">
        <span className="quiet mr-auto">Rhythm</span>
        <select
          className="select select-xs w-[104px]"
          aria-label="Rhythm"
          value={now.how}
          onChange={(event) =>
            onChange({
              how: event.target.value,
              // The kick is what is mostly gone with.
              ...(!known && {
                source: (sources.find(({ id }) => id.endsWith(" 36")) ?? nth(sources, 0)).id,
              }),
            })
          }
        >
          {["", ...WITH].map((how) => (
            <option key={how} value={how}>
              {HOW[how]}
            </option>
          ))}
        </select>
        {now.how && (
          <select
            className="select select-xs w-[112px]"
            aria-label="Which rhythm it goes with"
            value={now.source}
            onChange={(event) => onChange({ source: event.target.value })}
          >
            {sources.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        )}
      </div>
      {now.how && now.source === TAPS && <TapsField taps={now.taps} />}
      {now.how && now.source === A_GROOVE && (
        <div>
          <GrooveField
            label="Groove for the rhythm"
            value={now.groove}
            onChange={(groove) => onChange({ groove })}
          />
          <Presets
            of="groove"
            label="Grooves"
            shipped={PRESETS.groove}
            params={{ groove: now.groove }}
            onTake={({ groove }) => onChange({ groove: String(groove) })}
          />
        </div>
      )}
    </>
  );
}
