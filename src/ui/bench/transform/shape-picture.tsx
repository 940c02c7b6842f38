"use client";
import { useMemo } from "react";
import { barTicks } from "@/core/time";
import type { Params } from "@/core/params";
import { type Note, makeNote, sortNotes } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { useSession } from "../../session/context";
import { currentMetre } from "../../state/current";

const [WIDTH, HEIGHT, PAD] = [264, 44, 6];

/** What a transform that has a picture makes of held notes, with these values at this tempo. */
export function ShapePicture({ transform, params }: { transform: string; params: Params }) {
  const tempo = useSession((state) => state.project.tempo);
  const metre = useSession(currentMetre);
  const picture = useMemo(() => {
    const { pitches, held, ticks } = transformOf(transform).picture!;
    const bar = barTicks(metre);
    const length = held ?? bar;
    const chord = pitches.map((pitch, i) =>
      makeNote({ id: `p${i}`, start: 0, length, pitch, velocity: 96 }),
    );
    const after = transformOf(transform).apply(chord, params, { tempo, metre }).notes;
    const span = ticks(bar, after);
    return { notes: sortNotes(after), span };
  }, [transform, params, tempo, metre]);

  const pitches = picture.notes.map((note) => note.pitch);
  const low = Math.min(...pitches, 60);
  const high = Math.max(...pitches, low + 6);
  const x = (tick: number) => PAD + (tick / picture.span) * (WIDTH - 2 * PAD);
  const y = (pitch: number) => HEIGHT - PAD - ((pitch - low) / (high - low)) * (HEIGHT - 2 * PAD);
  const tail = (note: Note) =>
    Math.max(0, Math.min(WIDTH - PAD, x(note.start + note.length)) - x(note.start) - 1);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="rounded-box mt-1.5 block w-full bg-base-200"
      role="img"
      aria-label={`${transformOf(transform).label} on a held ${picture.notes.length === 1 ? "note" : "chord"}`}
      data-testid="shape"
    >
      {picture.notes.map((note) => (
        <g key={note.id} fill="var(--color-primary)">
          <rect
            x={x(note.start)}
            y={y(note.pitch) - 1.3}
            width={tail(note)}
            height={2.6}
            opacity={0.4}
          />
          <circle cx={x(note.start)} cy={y(note.pitch)} r={1.2 + (2.6 * note.velocity) / 127} />
        </g>
      ))}
    </svg>
  );
}
