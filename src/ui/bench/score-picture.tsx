import { barTicks, type Metre, type Note } from "@/core";

/** A line of notes drawn small: bars, stones sized by velocity, tails by length. */
export function ScorePicture({
  notes,
  bars,
  metre,
  ink,
}: {
  notes: readonly Note[];
  bars: number;
  metre: Metre;
  ink: string;
}) {
  const [width, height] = [244, 46];
  const total = bars * barTicks(metre);
  const pitches = notes.map((n) => n.pitch);
  const low = Math.min(...pitches);
  const span = Math.max(5, Math.max(...pitches) - low);
  const x = (tick: number) => 4 + (tick / total) * (width - 8);
  const y = (pitch: number) => height - 6 - ((pitch - low) / span) * (height - 12);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="block w-full" aria-hidden>
      {Array.from({ length: bars }, (_, i) => (
        <line
          key={i}
          x1={x(i * barTicks(metre))}
          x2={x(i * barTicks(metre))}
          y1={0}
          y2={height}
          stroke="var(--sheet-line)"
        />
      ))}
      {notes.map((note) => (
        <g key={note.id} fill={ink}>
          <rect
            x={x(note.start)}
            y={y(note.pitch) - 1.2}
            width={Math.max(0, x(note.start + note.length) - x(note.start) - 1)}
            height={2.4}
            opacity={0.45}
          />
          <circle cx={x(note.start)} cy={y(note.pitch)} r={1 + (2.2 * note.velocity) / 127} />
        </g>
      ))}
    </svg>
  );
}
