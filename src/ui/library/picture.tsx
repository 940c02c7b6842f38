import { type Picture as PictureData, unpackPicture } from "@/core/analysis";

const [WIDTH, HEIGHT] = [380, 128];
/** How high a picture is, as a share of its width. */
export const PICTURE_HEIGHT = HEIGHT / WIDTH;

/** The real notes of the first pattern, drawn as on the sheet; empty until the page is there. */
export function Picture({ picture }: { picture: PictureData | null }) {
  const { rows, bars, marks } = picture ? unpackPicture(picture) : { rows: 1, bars: 1, marks: [] };
  const gap = (HEIGHT - 28) / Math.max(1, rows - 1);
  const x = (share: number) => 14 + share * (WIDTH - 28);
  const y = (row: number) => (rows === 1 ? HEIGHT / 2 : 14 + row * gap);
  const shown = Math.min(bars, 64);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full bg-[var(--sheet)]" aria-hidden>
      {Array.from({ length: shown }, (_, i) => (
        <rect
          key={i}
          x={x(i / shown)}
          y={0}
          width={(WIDTH - 28) / shown / 2}
          height={HEIGHT}
          fill="var(--sheet-beat)"
        />
      ))}
      {[...new Set(marks.map((mark) => mark.track))].map((track) => {
        const own = marks.filter((mark) => mark.track === track);
        // One shape for all marks of a track: a page of these is drawn at once.
        return (
          <g key={track} fill={`var(--track-${track % 8})`}>
            <path
              opacity={0.45}
              d={own
                .filter((mark) => mark.kind === "melody")
                .map((mark) => bar(x(mark.at), y(mark.row), mark.width * (WIDTH - 28) - 1))
                .join("")}
            />
            <path
              d={own.map((mark) => dot(x(mark.at), y(mark.row), 0.9 + 2.6 * mark.size)).join("")}
              data-testid="marks"
            />
          </g>
        );
      })}
    </svg>
  );
}

const short = (value: number) => value.toFixed(1);
const bar = (x: number, y: number, width: number) =>
  `M${short(x)} ${short(y - 1)}h${short(Math.max(0, width))}v2H${short(x)}z`;
const dot = (x: number, y: number, r: number) => {
  const half = `a${short(r)} ${short(r)} 0 1 0`;
  return `M${short(x - r)} ${short(y)}${half} ${short(2 * r)} 0${half} ${short(-2 * r)} 0z`;
};
