"use client";
import { formatDistanceToNow } from "date-fns";
import { Copy, PenLine, Trash2 } from "lucide-react";
import Link from "next/link";
import { useRef, useState, type ReactNode } from "react";
import { plural } from "@/core/base";
import { keyName } from "@/core/pitch";
import { LIMITS } from "@/core/score";
import type { ProjectCard as CardData } from "@/core/stored";
import { useMounted } from "../controls/use-mounted";
import { api, rawExport } from "../saving/api";
import { HearButton } from "./hear-button";
import type { Listening } from "./listening";
import { Picture } from "./picture";

interface Props {
  card: CardData;
  listening: Listening;
  onRename(name: string): void;
  onDuplicate(): void;
  onDelete(): void;
  /** Brings a deleted project back; null where it is none. */
  onRestore: (() => void) | null;
}

/** A project in the library: a picture of its notes, its name, and what can be done with it. */
export function ProjectCard({
  card,
  listening,
  onRename,
  onDuplicate,
  onDelete,
  onRestore,
}: Props) {
  const [renaming, setRenaming] = useState(false);
  const left = useRef(false);
  // The time since the last change is told by this machine's clock, so only once the page is here.
  const mounted = useMounted();
  const picture = <Picture picture={mounted ? card.picture : null} />;
  const finish = (name: string) => {
    setRenaming(false);
    if (!left.current && name.trim() && name.trim() !== card.name) onRename(name.trim());
  };
  return (
    <div
      role="listitem"
      className="rounded-box relative flex flex-col overflow-hidden border border-base-300 bg-base-100 focus-within:border-primary hover:border-base-content"
    >
      {card.problem && (
        <div className="pointer-events-none absolute inset-x-0 top-0 z-10 px-4 pt-3 text-[12px]">
          <p className="line-clamp-4 text-error" title={card.problem}>
            Cannot be opened. {card.problem}
          </p>
          <a className="link pointer-events-auto" href={rawExport(card.id)} download>
            Export it as it is kept
          </a>
        </div>
      )}
      {onRestore ? (
        picture
      ) : (
        <Link
          href={`/p/${card.id}`}
          prefetch={false}
          className="block"
          aria-label={`Open ${card.name}`}
        >
          {picture}
        </Link>
      )}
      {!onRestore && !card.problem && (
        <HearButton
          listening={listening}
          id={card.id}
          name={card.name}
          project={async () => (await api.read(card.id)).project}
          className="absolute top-2 right-2"
        />
      )}
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
        {onRestore ? (
          <button className="btn btn-sm" aria-label={`Bring ${card.name} back`} onClick={onRestore}>
            Bring back
          </button>
        ) : (
          <div className="flex shrink-0">
            <Tool
              label={`Rename ${card.name}`}
              title="Rename"
              onPress={() => {
                left.current = false;
                setRenaming(true);
              }}
            >
              <PenLine size={15} />
            </Tool>
            <Tool label={`Duplicate ${card.name}`} title="Duplicate" onPress={onDuplicate}>
              <Copy size={15} />
            </Tool>
            <Tool label={`Delete ${card.name}`} title="Delete" onPress={onDelete}>
              <Trash2 size={15} />
            </Tool>
          </div>
        )}
      </div>
      <div className="px-4 pb-3">
        <p className="figure quiet mt-1 text-[12px]">
          {card.tempo} BPM · {card.metre.beats}/{card.metre.unit} · {keyName(card.key)} ·{" "}
          {card.bars === null ? "…" : plural(card.bars, "bar")}
        </p>
        <p className="quiet mt-0.5 text-[12px]">
          Changed {mounted ? formatDistanceToNow(card.updatedAt, { addSuffix: true }) : "…"}
        </p>
      </div>
    </div>
  );
}

interface ToolProps {
  label: string;
  title: string;
  onPress(): void;
  children: ReactNode;
}

function Tool({ label, title, onPress, children }: ToolProps) {
  return (
    <button
      className="btn btn-ghost btn-sm px-1.5"
      aria-label={label}
      title={title}
      onClick={onPress}
    >
      {children}
    </button>
  );
}
