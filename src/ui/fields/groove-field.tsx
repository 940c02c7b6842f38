"use client";
import { toast } from "sonner";
import { useShallow } from "zustand/react/shallow";
import { parseGroove, sourceOfGroove } from "@/core/groove";
import { FileButton } from "../controls/file-button";
import { grooveFrom, grooveOfFile, grooveSources } from "../commands/tracks/grooves";
import { nth } from "@/core/base";
import { useDesk, useSession } from "../session/context";

interface Props {
  label: string;
  value: string;
  onChange(value: string): void;
}

const [WIDTH, HEIGHT] = [236, 58];
/** No MIDI file that a groove is taken from is larger. */
const MAX_BYTES = 8_000_000;

/** A groove as it is felt: each step leans as early or late as it lies, and stands as high as it is loud. */
export function GrooveField({ label, value, onChange }: Props) {
  const { store } = useDesk();
  const labels = useSession(
    useShallow((s) => grooveSources(s).flatMap(({ id, label: text }) => [id, text])),
  );
  const sources = labels.flatMap((id, i) =>
    i % 2 === 0 ? [{ id, label: nth(labels, i + 1) }] : [],
  );
  const source = sourceOfGroove(value);
  const read = async (chosen: File) => {
    try {
      if (chosen.size > MAX_BYTES) throw new Error("The file is larger than 8 MB");
      onChange(grooveOfFile(new Uint8Array(await chosen.arrayBuffer()), chosen.name));
    } catch (error) {
      toast.error(`No groove from ${chosen.name}: ${(error as Error).message}`);
    }
  };
  return (
    <div className="flex flex-col gap-1" role="group" aria-label={label}>
      <GroovePicture text={value} />
      <div className="flex gap-1">
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="Groove from a part"
          value=""
          onChange={(event) => {
            const text = grooveFrom(store.getState(), event.target.value);
            if (text) onChange(text);
          }}
        >
          <option value="">{source ? `From ${source}` : "From a part …"}</option>
          {sources.map(({ id, label: text }) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
        <FileButton
          file="MIDI file for the groove"
          className="btn btn-xs h-6 min-h-0"
          title="Groove from a MIDI file"
          accept=".mid,.midi,audio/midi"
          onFiles={([chosen]) => void read(chosen)}
        >
          MIDI file
        </FileButton>
      </div>
    </div>
  );
}

function GroovePicture({ text }: { text: string }) {
  const groove = parseGroove(text);
  if (!groove) return null;
  const { steps } = groove;
  const cell = (WIDTH - 12) / steps.length;
  const most = Math.max(60, ...steps.map(({ offset }) => Math.abs(offset ?? 0)));
  const lean = Math.min(cell * 0.45, 14);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full rounded-lg bg-[var(--sheet)]"
      role="img"
      aria-label={`${steps.length} steps of 1/${groove.value}`}
      data-testid="groove-picture"
    >
      {steps.map(({ offset, velocity, spread }, i) => {
        const x = 6 + (i + 0.5) * cell;
        if (offset === null && velocity === null)
          return <circle key={i} cx={x} cy={HEIGHT - 6} r={1} fill="var(--sheet-dimple)" />;
        const at = x + ((offset ?? 0) / most) * lean;
        const top = HEIGHT - 8 - ((velocity ?? 64) / 127) * (HEIGHT - 18);
        return (
          <g key={i}>
            <line x1={x} x2={x} y1={HEIGHT - 6} y2={HEIGHT - 10} stroke="var(--sheet-dimple)" />
            <line
              x1={x}
              y1={HEIGHT - 6}
              x2={at}
              y2={top}
              stroke="var(--color-primary)"
              strokeWidth={1.5}
            />
            {spread > 0 && (
              <line
                x1={at - (spread / most) * lean}
                x2={at + (spread / most) * lean}
                y1={top}
                y2={top}
                stroke="var(--color-primary)"
                opacity={0.5}
              />
            )}
            <circle
              cx={at}
              cy={top}
              r={2.6}
              fill={velocity === null ? "var(--sheet)" : "var(--color-primary)"}
              stroke="var(--color-primary)"
            />
          </g>
        );
      })}
    </svg>
  );
}
