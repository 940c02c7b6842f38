import { memo } from "react";
import type { SketchedNote, TransformSketch } from "@/core/transforms";

const [WIDTH, HEIGHT, PAD] = [60, 24, 4];
const x = (of: number) => PAD + of * (WIDTH - 2 * PAD);
const y = (of: number) => PAD + of * (HEIGHT - 2 * PAD);

const round = (n: number) => Math.round(n * 10) / 10;
const circle = (note: SketchedNote, r: number) =>
  `M${round(x(note.x) - r)} ${round(y(note.y))}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
const radius = (note: SketchedNote) => round(0.8 + (2.1 * note.velocity) / 127);
const tail = (note: SketchedNote) =>
  `M${round(x(note.x))} ${round(y(note.y))}H${round(x(Math.min(1, note.end)))}`;

/** What a transform does, in little: old places dashed, new ones solid. */
export const Sketch = memo(function Sketch({ of: { before, after } }: { of: TransformSketch }) {
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-6 w-[60px] shrink-0"
      aria-hidden
      data-testid="sketch"
    >
      <path d={after.map(tail).join("")} stroke="currentColor" strokeWidth={1.2} opacity={0.45} />
      <path
        d={before.map((note) => circle(note, radius(note) + 0.4)).join("")}
        fill="none"
        stroke="currentColor"
        strokeWidth={0.8}
        strokeDasharray="1.2 1.2"
        opacity={0.75}
      />
      <path d={after.map((note) => circle(note, radius(note))).join("")} fill="currentColor" />
    </svg>
  );
});
