import { memo } from "react";
import { type Metre, barTicks } from "@/core/time";
import type { Note } from "@/core/score";

interface Props {
  notes: readonly Note[];
  bars: number;
  metre: Metre;
  colour: string;
}

const [WIDTH, HEIGHT] = [244, 46];
const fixed = (count: number) => count.toFixed(1);

/** A line of notes drawn small: bars, stones sized by velocity, tails by length. */
export const ScorePicture = memo(function ScorePicture({ notes, bars, metre, colour }: Props) {
  const total = bars * barTicks(metre);
  const pitches = notes.map((note) => note.pitch);
  const low = Math.min(...pitches);
  const span = Math.max(5, Math.max(...pitches) - low);
  const x = (tick: number) => 4 + (tick / total) * (WIDTH - 8);
  const y = (pitch: number) => HEIGHT - 6 - ((pitch - low) / span) * (HEIGHT - 12);
  // Three paths for all notes: an element for each would make a sheet of ideas slow to show.
  let [lines, tails, stones] = ["", "", ""];
  for (let bar = 0; bar < bars; bar++) lines += `M${fixed(x(bar * barTicks(metre)))} 0V${HEIGHT}`;
  for (const { start, length, pitch, velocity } of notes) {
    const [left, middle] = [fixed(x(start)), fixed(y(pitch))];
    tails += `M${left} ${middle}H${fixed(Math.max(x(start), x(start + length) - 1))}`;
    const r = fixed(1 + (2.2 * velocity) / 127);
    stones += `M${left} ${middle}m-${r} 0a${r} ${r} 0 1 0 ${2 * Number(r)} 0a${r} ${r} 0 1 0 ${-2 * Number(r)} 0`;
  }
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden>
      <path d={lines} stroke="var(--sheet-line)" fill="none" />
      <path d={tails} stroke={colour} strokeWidth={2.4} opacity={0.45} fill="none" />
      <path d={stones} fill={colour} />
    </svg>
  );
});
