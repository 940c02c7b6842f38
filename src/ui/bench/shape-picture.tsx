"use client";
import { useMemo } from "react";
import { TRANSFORMS, barTicks, makeNote, sortNotes, type Note, type Params } from "@/core";
import { useSession } from "../session/context";

/** What each pictured transform is shown on, and how much time of it is seen, in ticks. */
const SHOWN: Readonly<
  Record<string, { notes: readonly number[]; window: (bar: number) => number }>
> = {
  strum: { notes: [60, 64, 67, 71], window: () => 480 },
  arpeggiate: { notes: [60, 64, 67], window: (bar) => bar },
  split: { notes: [60], window: (bar) => bar },
};

export const isPictured = (transform: string) => transform in SHOWN;

const [WIDTH, HEIGHT, PAD] = [264, 44, 6];

/** The shape of a strum, an arpeggio or a split on held notes, with these values at this tempo. */
export function ShapePicture({ transform, params }: { transform: string; params: Params }) {
  const tempo = useSession((s) => s.project.tempo);
  const metre = useSession((s) => s.project.metre);
  const picture = useMemo(() => {
    const { notes, window } = SHOWN[transform]!;
    const bar = barTicks(metre);
    const chord = notes.map((pitch, i) =>
      makeNote({ id: `p${i}`, start: 0, length: bar, pitch, velocity: 96 }),
    );
    const after = TRANSFORMS[transform]!.apply(chord, params, { tempo, metre }).notes;
    const last = after.reduce((most, note) => Math.max(most, note.start), 0);
    // A strum that is longer than the window is seen whole.
    const span = Math.max(window(bar), transform === "strum" ? last * 1.15 : 0);
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
      aria-label={`${TRANSFORMS[transform]!.label} on a held ${picture.notes.length === 1 ? "note" : "chord"}`}
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
