"use client";
import { Volume2 } from "lucide-react";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import {
  type Key,
  SCALES,
  inKey,
  keyName,
  parsePitch,
  pitchClassName,
  scaleSemitones,
} from "@/core/pitch";
import { useDesk } from "../session/context";
import { Piano } from "../controls/piano";

interface Props {
  value: Key;
  onChoose(scale: string): void;
}

/** All scales by group, found by name or by their notes, seen on a keyboard and heard. */
export function ScalePicker({ value, onChoose }: Props) {
  const { store, engine } = useDesk();
  const [search, setSearch] = useState("");
  const [shown, setShown] = useState(value.scale);
  const timers = useRef<ReturnType<typeof setTimeout>[]>([]);
  useEffect(() => () => timers.current.forEach(clearTimeout), []);

  const found = SCALES.filter(({ name, group }) => matches(name, group, search, value.root));
  const groups = [...new Set(found.map((s) => s.group))];
  const key = { ...value, scale: shown };

  const hear = () => {
    timers.current.forEach(clearTimeout);
    const { project, track } = store.getState();
    const on =
      project.tracks.find((t) => t.id === track && t.kind === "melody") ??
      project.tracks.find((track) => track.kind === "melody");
    if (!on) return;
    const low = 48 + value.root;
    const scalePitches = [...scaleSemitones(shown).map((s) => low + s), low + 12];
    timers.current = scalePitches.map((pitch, i) =>
      setTimeout(() => void engine.audition(on.id, pitch, 90, 0.24), i * 170),
    );
  };
  const step = (by: 1 | -1) => {
    const at = found.findIndex((s) => s.name === shown);
    const next = found[(Math.max(at, by > 0 ? -1 : 0) + by + found.length) % found.length];
    if (next) setShown(next.name);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      step(event.key === "ArrowDown" ? 1 : -1);
    } else if (event.key === "Enter" && found.some((s) => s.name === shown)) onChoose(shown);
  };

  return (
    <div className="flex flex-col gap-2" onKeyDown={onKeyDown}>
      <input
        className="input input-sm w-full"
        aria-label="Find a scale"
        placeholder="A name, or notes such as C D E♭"
        autoFocus
        value={search}
        onChange={(event) => {
          setSearch(event.target.value);
          const first = SCALES.find((s) =>
            matches(s.name, s.group, event.target.value, value.root),
          );
          if (first) setShown(first.name);
        }}
      />
      <div role="listbox" aria-label="Scales" className="max-h-[220px] overflow-y-auto">
        {groups.map((group) => (
          <div key={group} role="group" aria-label={group}>
            <div className="quiet px-2 pt-1 text-[12px]">{group}</div>
            <div className="grid grid-cols-2">
              {found
                .filter((s) => s.group === group)
                .map(({ name }) => (
                  <button
                    key={name}
                    role="option"
                    aria-selected={name === shown}
                    className={`h-[26px] truncate rounded-lg px-2 text-left text-[13px] ${name === shown ? "bg-primary/15" : "hover:bg-base-200"} ${name === value.scale ? "font-semibold" : ""}`}
                    onPointerEnter={() => setShown(name)}
                    onFocus={() => setShown(name)}
                    onClick={() => onChoose(name)}
                  >
                    {name}
                  </button>
                ))}
            </div>
          </div>
        ))}
        {found.length === 0 && <p className="quiet p-2">No matching scale</p>}
      </div>
      <div className="flex items-center gap-3 border-t border-base-300 pt-2">
        <div className="min-w-0 flex-1">
          <Piano
            low={48}
            octaves={2}
            height={32}
            mark={(pitch) => (inKey(key, pitch) ? (pitch % 12 === key.root ? "root" : "in") : null)}
          />
        </div>
        <button className="btn btn-sm gap-1" aria-label={`Hear ${keyName(key)}`} onClick={hear}>
          <Volume2 size={14} /> Hear
        </button>
      </div>
      <p className="quiet">
        {keyName(key)}:{" "}
        {scaleSemitones(shown)
          .map((s) => pitchClassName(key, key.root + s))
          .join(" ")}
      </p>
    </div>
  );
}

/** By name or group; or, where notes are typed, by holding them all. */
function matches(name: string, group: string, search: string, root: number): boolean {
  const words = search.trim().toLowerCase();
  if (words === "") return true;
  const typed = search.trim().split(/[\s,]+/);
  const classes = typed.map((note) => parsePitch(`${note}4`));
  if (typed.length > 1 && classes.every((p) => p !== null)) {
    return classes.every((pitch) => inKey({ root, scale: name }, pitch));
  }
  return `${name} ${group}`.toLowerCase().includes(words);
}
