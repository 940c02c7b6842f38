"use client";
import { formatDistanceToNow } from "date-fns";
import { Copy, PenLine, Trash2 } from "lucide-react";
import Link from "next/link";
import { useRef, useState } from "react";
import { LIMITS, keyName, type Project, type Thumbnail } from "@/core";
import { useMounted } from "../controls/use-mounted";

/** What a card of the library shows of a project. */
export interface CardData {
  id: string;
  name: string;
  tempo: number;
  metre: Project["metre"];
  key: Project["key"];
  updatedAt: number;
  thumbnail: Thumbnail;
}

interface Props {
  card: CardData;
  onRename(name: string): void;
  onDuplicate(): void;
  onDelete(): void;
}

/** A project in the library: a picture of its notes, its name, and what can be done with it. */
export function ProjectCard({ card, onRename, onDuplicate, onDelete }: Props) {
  const [renaming, setRenaming] = useState(false);
  const left = useRef(false);
  // The time since the last change is told by this machine's clock, so only once the page is here.
  const mounted = useMounted();
  const finish = (name: string) => {
    setRenaming(false);
    if (!left.current && name.trim() && name.trim() !== card.name) onRename(name.trim());
  };
  return (
    <li className="rounded-box relative flex flex-col overflow-hidden border border-base-300 bg-base-100 focus-within:border-primary hover:border-base-content">
      <Link href={`/p/${card.id}`} className="block" aria-label={`Open ${card.name}`}>
        <Picture thumbnail={card.thumbnail} />
      </Link>
      <div className="flex items-center gap-2 px-4 pt-2">
        <div className="min-w-0 flex-1">
          {renaming ? (
            <input
              className="input input-sm w-full font-semibold"
              aria-label={`New name of ${card.name}`}
              autoFocus
              defaultValue={card.name}
              maxLength={LIMITS.name}
              onFocus={(event) => event.target.select()}
              onKeyDown={(event) => {
                left.current = event.key === "Escape";
                if (event.key === "Enter" || event.key === "Escape") event.currentTarget.blur();
              }}
              onBlur={(event) => finish(event.target.value)}
            />
          ) : (
            <h2 className="truncate text-[15px] font-semibold">{card.name}</h2>
          )}
        </div>
        <div className="flex shrink-0">
          <button
            className="btn btn-ghost btn-sm px-1.5"
            aria-label={`Rename ${card.name}`}
            title="Rename"
            onClick={() => {
              left.current = false;
              setRenaming(true);
            }}
          >
            <PenLine size={15} />
          </button>
          <button
            className="btn btn-ghost btn-sm px-1.5"
            aria-label={`Duplicate ${card.name}`}
            title="Duplicate"
            onClick={onDuplicate}
          >
            <Copy size={15} />
          </button>
          <button
            className="btn btn-ghost btn-sm px-1.5"
            aria-label={`Delete ${card.name}`}
            title="Delete"
            onClick={onDelete}
          >
            <Trash2 size={15} />
          </button>
        </div>
      </div>
      <div className="px-4 pb-3">
        <p className="figure quiet mt-1 text-[12px]">
          {card.tempo} BPM · {card.metre.beats}/{card.metre.unit} · {keyName(card.key)} ·{" "}
          {card.thumbnail.bars === 1 ? "1 bar" : `${card.thumbnail.bars} bars`}
        </p>
        <p className="quiet mt-0.5 text-[12px]">
          Changed {mounted ? formatDistanceToNow(card.updatedAt, { addSuffix: true }) : "…"}
        </p>
      </div>
    </li>
  );
}

const [WIDTH, HEIGHT] = [380, 128];

/** The real notes of the first pattern, drawn as on the sheet. */
function Picture({ thumbnail }: { thumbnail: Thumbnail }) {
  const gap = (HEIGHT - 28) / Math.max(1, thumbnail.rows - 1);
  const x = (share: number) => 14 + share * (WIDTH - 28);
  const y = (row: number) => (thumbnail.rows === 1 ? HEIGHT / 2 : 14 + row * gap);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full bg-[var(--sheet)]" aria-hidden>
      {Array.from({ length: thumbnail.bars }, (_, i) => (
        <rect
          key={i}
          x={x(i / thumbnail.bars)}
          y={0}
          width={(WIDTH - 28) / thumbnail.bars / 2}
          height={HEIGHT}
          fill="var(--sheet-beat)"
        />
      ))}
      {thumbnail.marks.map((mark, i) => (
        <g key={i} fill={`var(--track-${mark.track % 8})`}>
          {mark.kind === "melody" && (
            <rect
              x={x(mark.at)}
              y={y(mark.row) - 1}
              width={Math.max(0, mark.width * (WIDTH - 28) - 1)}
              height={2}
              opacity={0.45}
            />
          )}
          <circle cx={x(mark.at)} cy={y(mark.row)} r={0.9 + 2.6 * mark.size} />
        </g>
      ))}
    </svg>
  );
}
