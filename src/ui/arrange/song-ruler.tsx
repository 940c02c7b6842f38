"use client";
import { must } from "@/core/base";
import { useRef, useState, type PointerEvent } from "react";
import { loopSong, playSongAt, setSongStart } from "../commands/song/song";
import { clockText, type SongBox, type SongLine } from "../geometry/song-line";
import { useDesk, useSession } from "../session/context";
import { type Project, timeMap } from "@/core/score";

/** Bars of the song: press to start playing there, drag to loop a stretch, press the loop to let it go. */
export function SongRuler({
  axis,
  boxes,
  project,
}: {
  axis: SongLine;
  /** Sections that are seen. */
  boxes: readonly SongBox[];
  project: Project;
}) {
  const desk = useDesk();
  const { store } = desk;
  const loop = useSession((state) => state.songLoop);
  const start = useSession((state) => state.songStart);
  const [drawn, setDrawn] = useState<[number, number] | null>(null);
  /** The same, told at once: a fast stroke ends before it is drawn. */
  const stretch = useRef<[number, number] | null>(null);
  const press = useRef<{ x: number; tick: number } | null>(null);
  const area = useRef<HTMLDivElement>(null);
  const tickAt = (event: PointerEvent) => {
    const { left } = must(area.current).getBoundingClientRect();
    return axis.barNear(axis.tickOf(event.clientX - left));
  };
  const map = timeMap(project);
  const shown = drawn ?? loop;
  const end = () => {
    press.current = null;
    stretch.current = null;
    setDrawn(null);
  };
  return (
    <div
      ref={area}
      role="presentation"
      data-testid="song-ruler"
      title="Press: play from here. Drag: loop a stretch. Press twice: loop nothing"
      className="absolute inset-x-0 top-0 h-[18px] cursor-text touch-none select-none"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        press.current = { x: event.clientX, tick: tickAt(event) };
      }}
      onPointerMove={(event) => {
        const from = press.current;
        if (!from || (Math.abs(event.clientX - from.x) < 5 && !stretch.current)) return;
        const at = tickAt(event);
        stretch.current = [Math.min(from.tick, at), Math.max(from.tick, at)];
        setDrawn(stretch.current);
      }}
      onPointerUp={(event) => {
        const from = press.current;
        if (!from) return;
        if (stretch.current) loopSong(store, stretch.current);
        else if (event.detail < 2) {
          setSongStart(store, from.tick);
          playSongAt(desk, from.tick);
        }
        end();
      }}
      onPointerCancel={end}
      onDoubleClick={() => loopSong(store, null)}
    >
      {shown && shown[1] > shown[0] && (
        <div
          data-testid="song-loop"
          className="absolute top-[2px] h-[14px] rounded-sm bg-primary/25"
          style={{ left: axis.xOf(shown[0]), width: axis.xOf(shown[1]) - axis.xOf(shown[0]) }}
        />
      )}
      {boxes.map(({ section, x, width, bar }) => (
        <span
          key={section.at}
          className="figure quiet pointer-events-none absolute top-0 flex h-[18px] items-center gap-1.5 overflow-hidden border-l border-base-300 pl-1 text-[12px] whitespace-nowrap"
          style={{ left: x, width }}
        >
          <span className="text-base-content">{Math.round(bar) + 1}</span>
          {width > 62 && <span>{clockText(map.secondsAt(section.at))}</span>}
        </span>
      ))}
      <div
        data-testid="song-start"
        className="pointer-events-none absolute top-[10px] h-0 w-0 border-x-[4px] border-t-[7px] border-x-transparent border-t-[var(--squall)]"
        style={{ left: axis.xOf(Math.min(start, axis.total)) - 4 }}
        hidden={start === 0}
      />
    </div>
  );
}
