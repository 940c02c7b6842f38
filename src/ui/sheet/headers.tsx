"use client";
import { dragWords } from "../controls/drag-words";
import { clamp, must } from "@/core/base";
import { formatLoop } from "@/core/time";
import { degreeLabel, pitchName } from "@/core/pitch";
import { type Project, type Lane, type Track, patternOf } from "@/core/score";
import { loopChoices, setPartLoop } from "../commands/tracks/loops";
import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import { ChevronDown, ChevronRight, Lock as LockIcon, PenLine, Plus } from "lucide-react";
import { memo, useMemo, useRef, useState, type MouseEvent } from "react";
import { SOUNDS } from "@/audio/sounds";
import { useDesk, useSession } from "../session/context";
import { resizeRows } from "../commands/notes/rows";
import { droppedFile, putSample } from "../commands/files/sample";
import { DEGREE, WINDOW_HEIGHTS } from "../geometry/pitch-window";
import { Switch } from "../controls/switch";
import { LevelMeter } from "../session/level-meter";
import { GridPicker } from "./grid-picker";
import { Handle, type Dragged } from "./handle";
import { useStroke } from "../controls/stroke";
import { LaneMenu, TrackMenu } from "./menus";
import { moveLane, setLaneSteps } from "../commands/tracks/lanes";
import { moveTrack, addTrack } from "../commands/tracks/tracks";
import { currentMetre } from "../state/current";
import { flipSwitch } from "../commands/tracks/switches";
import { setGrid } from "../commands/tracks/grids";
import { TAPS, type Block, type Row, type SheetLayout } from "../geometry/layout";

interface HeadersProps {
  layout: SheetLayout;
}

const sameHeaders = ({ layout: a }: HeadersProps, { layout: b }: HeadersProps) =>
  a.height === b.height &&
  a.blocks.length === b.blocks.length &&
  a.blocks.every((block, i) => {
    const other = b.blocks[i];
    return other !== undefined && sameHeader({ block }, { block: other });
  });

/** Names, switches and grids of tracks and lanes, beside the rows they belong to. */
export const Headers = memo(function Headers({ layout }: HeadersProps) {
  const { store } = useDesk();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const stroke = useStroke();
  const drop = (event: DragEndEvent) => {
    const delta = stroke.way(event);
    const dragged = event.active.data.current as Dragged | undefined;
    if (!dragged) return;
    if (dragged.lane) {
      const { track, lane, index, height } = dragged;
      const to = index + Math.round(delta.y / height);
      moveLane(store, track, lane, to);
      return;
    }
    // A track goes where its head comes to lie among the others.
    const own = must(layout.blocks.find((block) => block.track.id === dragged.track));
    const y = own.y + delta.y;
    const to = layout.blocks.filter(
      (block) => block !== own && block.y + block.height / 2 < y,
    ).length;
    moveTrack(store, dragged.track, to);
  };
  return (
    <DndContext
      id="headers"
      sensors={sensors}
      onDragEnd={drop}
      accessibility={dragWords((id) => nameOfDragged(store.getState().project, id))}
    >
      <div className="relative" style={{ height: layout.height + 44 }}>
        {layout.blocks.map((block) => (
          <TrackHeader key={block.track.id} block={block} />
        ))}
        <AddTrack top={layout.height} />
      </div>
    </DndContext>
  );
}, sameHeaders);

/** What a header shows of its block: not its notes, which change with every edit. */
const sameHeader = ({ block: a }: { block: Block }, { block: b }: { block: Block }) =>
  a.track === b.track &&
  a.index === b.index &&
  a.y === b.y &&
  a.height === b.height &&
  a.open === b.open &&
  a.part.grid === b.part.grid &&
  a.part.length === b.part.length &&
  a.rows.length === b.rows.length &&
  a.rows.every((row, i) => sameRow(row, b.rows[i]));

const sameRow = (a: Row, b: Row | undefined) =>
  b !== undefined &&
  a.pitch === b.pitch &&
  a.y === b.y &&
  a.height === b.height &&
  a.lane === b.lane &&
  a.name === b.name &&
  a.quiet === b.quiet &&
  a.inKey === b.inKey &&
  a.root === b.root &&
  a.between === b.between;

const TrackHeader = memo(function TrackHeader({ block }: { block: Block }) {
  const { store } = useDesk();
  const current = useSession((state) => state.track === block.track.id);
  const locked = useSession((state) => state.locked);
  const { track, rows } = block;
  const melody = track.kind === "melody";
  const toggle = () => store.getState().setOpen(track.id, !block.open);
  return (
    <section
      aria-label={track.name}
      className="absolute inset-x-0"
      style={{ top: block.y, height: block.height }}
    >
      <div
        className="absolute inset-y-0 left-0"
        style={{ width: current ? 6 : 3, background: `var(--track-${block.index % 8})` }}
      />
      <LevelMeter
        track={track.id}
        className="pointer-events-none absolute top-[27px] left-8 h-[3px] w-[182px]"
      />
      <div className="flex h-[30px] items-center gap-0.5 pr-2 pl-1.5">
        <Handle
          dragged={{ track: track.id, lane: null, index: block.index, height: block.height }}
          label={`${track.name}: drag to move, click for more`}
          request={current ? "track-menu" : null}
        >
          {(close) => <TrackMenu track={track} close={close} />}
        </Handle>
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
          onClick={toggle}
          aria-expanded={block.open}
          aria-label={`${block.open ? "Fold" : "Open"} ${track.name}`}
        >
          {block.open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
        </button>
        <button
          className={`min-w-0 flex-1 truncate rounded px-1 text-left text-[13px] ${current ? "font-semibold" : "font-medium"}`}
          onClick={() => store.getState().setTrack(track.id)}
          aria-pressed={current}
          title={`Make ${track.name} the current track`}
        >
          {track.name}
        </button>
        {!melody && block.open && <LoopLength block={block} short />}
        {/* In an open kit the lane that is lit says it, and its name needs the room. */}
        {current && (melody || !block.open || locked) && (
          <span
            className="grid h-[18px] w-[18px] shrink-0 place-items-center rounded-full bg-primary text-[12px] font-semibold text-primary-content"
            title="New notes go here"
          >
            {locked ? <LockIcon size={11} /> : <PenLine size={11} />}
            <span className="sr-only">
              New notes go here{locked ? ", all others are locked" : ""}
            </span>
          </span>
        )}
        <Switches track={track} />
      </div>
      {melody && block.open && (
        <div className="flex flex-col items-start gap-0.5 pl-8">
          <PartGrid block={block} />
          <LoopLength block={block} />
        </div>
      )}
      {!block.open && (
        <div className="pl-8">
          <LoopLength block={block} />
        </div>
      )}
      {melody
        ? rows.map((row) => (
            <DegreeLabel key={row.pitch} row={row} top={block.y} index={block.index} />
          ))
        : rows.map((row, i) => (
            <LaneHeader key={row.pitch} row={row} track={track} index={i} top={row.y - block.y} />
          ))}
      {melody && block.open && <RowsHandle track={track} />}
    </section>
  );
}, sameHeader);

function Switches({ track }: { track: Track }) {
  const { store } = useDesk();
  const flip = (what: "mute" | "solo") => flipSwitch(store, { track: track.id }, what);
  return (
    <span className="flex gap-1">
      <Switch
        on={track.mute}
        letter="M"
        label={`Mute ${track.name}`}
        onClick={() => flip("mute")}
      />
      <Switch
        on={track.solo}
        letter="S"
        label={`Solo ${track.name}`}
        onClick={() => flip("solo")}
      />
    </span>
  );
}

interface LaneProps {
  row: Row;
  track: Track;
  /** Its place among the lanes of its track. */
  index: number;
  /** Where it lies under its track's head, in pixels. */
  top: number;
}

/** What a lane shows of its row: not its hits, which change with every edit. */
const sameLane = (a: LaneProps, b: LaneProps) =>
  a.track === b.track &&
  a.index === b.index &&
  a.top === b.top &&
  a.row.lane === b.row.lane &&
  a.row.name === b.row.name &&
  a.row.height === b.row.height &&
  a.row.quiet === b.row.quiet;

const LaneHeader = memo(function LaneHeader({ row, track, index, top }: LaneProps) {
  const { store, engine } = useDesk();
  const current = useSession(
    (state) => state.track === track.id && state.caret.pitch === row.pitch,
  );
  const { lane } = row;
  const [over, setOver] = useState(false);
  const take = (event: MouseEvent<HTMLButtonElement>) => {
    store.getState().setTrack(track.id, row.pitch);
    // Higher is louder; by the keyboard there is no height.
    const frame = event.currentTarget.getBoundingClientRect();
    const height = 1 - (event.clientY - frame.top) / frame.height;
    const velocity = event.detail === 0 ? 100 : Math.round(20 + 107 * clamp(height, 0, 1));
    if (!store.getState().playing) void engine.audition(track.id, row.pitch, velocity);
  };
  return (
    <div
      className={`absolute inset-x-0 flex items-center gap-0.5 pr-2 pl-1.5 ${
        over ? "bg-primary/25" : current ? "bg-primary/10" : ""
      }`}
      style={{ top, height: row.height }}
      data-current={current || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const file = droppedFile(event.dataTransfer);
        if (file) void putSample(store, track.id, row.pitch, file);
      }}
    >
      {lane ? (
        <Handle
          dragged={{
            track: track.id,
            lane: lane.id,
            index,
            height: row.height,
          }}
          label={`${lane.name}: drag to move, click for more`}
          request={current ? "lane-menu" : null}
        >
          {(close) => <LaneMenu track={track} lane={lane} close={close} />}
        </Handle>
      ) : (
        <span className="w-[24px]" />
      )}
      <button
        className={`min-w-0 flex-1 truncate rounded px-1 text-left text-[13px] ${current ? "font-semibold" : ""} ${row.quiet ? "opacity-60" : ""}`}
        onClick={take}
        aria-pressed={current}
        title={`Make ${row.name} the current lane and hear it: higher is louder`}
      >
        {row.name}
      </button>
      {lane && (
        <>
          {(current || lane.mute || lane.solo) && <LaneSwitches track={track.id} lane={lane} />}
          <GridPicker
            label={`Grid of ${row.name}`}
            grid={lane.grid}
            steps={lane.steps}
            onGrid={(grid) => setGrid(store, { track: track.id, lane: lane.id }, () => grid)}
            onSteps={(steps) => setLaneSteps(store, track.id, lane.id, steps)}
          />
        </>
      )}
    </div>
  );
}, sameLane);

function LaneSwitches({ track, lane }: { track: string; lane: Lane }) {
  const { store } = useDesk();
  const flip = (what: "mute" | "solo") => flipSwitch(store, { track, lane: lane.id }, what);
  return (
    <span className="flex gap-1">
      <Switch on={lane.mute} letter="M" label={`Mute ${lane.name}`} onClick={() => flip("mute")} />
      <Switch on={lane.solo} letter="S" label={`Solo ${lane.name}`} onClick={() => flip("solo")} />
    </span>
  );
}

function PartGrid({ block }: { block: Block }) {
  const { store } = useDesk();
  return (
    <GridPicker
      label={`Grid of ${block.track.name}`}
      grid={block.part.grid}
      steps={null}
      onGrid={(grid) => setGrid(store, { track: block.track.id }, () => grid)}
    />
  );
}

/** How long the part's own loop is; it repeats under the rest of the pattern. */
function LoopLength({ block, short = false }: { block: Block; short?: boolean }) {
  const { store } = useDesk();
  const loop = short ? "" : " loop";
  const bars = useSession(({ project, pattern }) => patternOf(project, pattern).bars);
  const metre = useSession(currentMetre);
  const choices = useMemo(() => loopChoices(bars, metre), [bars, metre]);
  const known = choices.some((choice) => choice.ticks === block.part.length);
  return (
    <select
      className={`quiet h-6 shrink-0 cursor-pointer appearance-none rounded bg-transparent hover:bg-base-300/50 ${
        short ? "text-[12px]" : "px-1 text-[12px]"
      }`}
      aria-label={`Loop length of ${block.track.name}`}
      value={block.part.length}
      onChange={(event) => setPartLoop(store, block.track.id, Number(event.target.value))}
    >
      {!known && (
        <option value={block.part.length}>
          {formatLoop(block.part.length, metre)}
          {loop}
        </option>
      )}
      {choices.map((choice) => (
        <option key={choice.ticks} value={choice.ticks}>
          {choice.label}
          {loop}
        </option>
      ))}
    </select>
  );
}

function DegreeLabel({ row, top, index }: { row: Row; top: number; index: number }) {
  const key = useSession((state) => state.project.key);
  // One that lies between two rows would lie over their names.
  if (row.between) return null;
  if (row.pitch === TAPS) {
    return (
      <span
        className="quiet absolute right-2 flex items-center text-[12px] italic"
        style={{ top: row.y - top, height: row.height }}
      >
        {row.name}
      </span>
    );
  }
  return (
    <span
      className={`figure absolute right-2 flex items-center gap-1.5 text-[12px] ${row.root ? "font-bold" : "quiet"} ${row.inKey ? "" : "italic"}`}
      style={{
        top: row.y - top,
        height: row.height,
        color: row.root ? `var(--track-${index % 8})` : undefined,
      }}
    >
      <span>{pitchName(row.pitch, key)}</span>
      <span className="w-5 text-right text-[12px]">
        {row.inKey ? degreeLabel(key, row.pitch) : "–"}
      </span>
    </span>
  );
}

/** The lower edge of a melodic track's rows: dragged, or moved by arrow keys, it shows more or fewer. */
function RowsHandle({ track }: { track: Track }) {
  const { store } = useDesk();
  const height = useSession((state) => state.windows[track.id]?.height ?? 0);
  const drag = useRef<{ y: number; height: number } | null>(null);
  return (
    <div
      role="separator"
      tabIndex={0}
      aria-orientation="horizontal"
      aria-label={`Height of the rows of ${track.name}`}
      aria-valuenow={height}
      aria-valuemin={WINDOW_HEIGHTS.min}
      aria-valuemax={WINDOW_HEIGHTS.max}
      title="Drag to show more rows, or fewer"
      className="group absolute inset-x-0 -bottom-3 h-6 cursor-ns-resize touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { y: event.clientY, height };
      }}
      onPointerMove={(event) => {
        const from = drag.current;
        if (from) resizeRows(store, track.id, from.height + event.clientY - from.y);
      }}
      onPointerUp={() => (drag.current = null)}
      onPointerCancel={() => (drag.current = null)}
      onKeyDown={(event) => {
        const rows = { ArrowDown: 1, ArrowUp: -1 }[event.key];
        if (rows === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        resizeRows(store, track.id, height + rows * DEGREE);
      }}
    >
      <div className="mx-auto mt-2 h-[3px] w-10 rounded-full bg-base-300 group-hover:bg-primary" />
    </div>
  );
}

function AddTrack({ top }: { top: number }) {
  const { store } = useDesk();
  const [open, setOpen] = useState(false);
  const add = (sound: string) => {
    addTrack(store, sound);
    setOpen(false);
  };
  return (
    <div className="absolute inset-x-0 px-3" style={{ top }}>
      {open ? (
        <select
          className="select select-xs w-full"
          aria-label="Sound of the new track"
          autoFocus
          defaultValue=""
          onChange={(event) => add(event.target.value)}
          onBlur={() => setOpen(false)}
        >
          <option value="" disabled>
            Choose a sound
          </option>
          {SOUNDS.map((sound) => (
            <option key={sound.id} value={sound.id}>
              {sound.category}: {sound.label}
            </option>
          ))}
        </select>
      ) : (
        <button className="btn btn-ghost btn-xs quiet gap-1" onClick={() => setOpen(true)}>
          <Plus size={13} /> Add a track
        </button>
      )}
    </div>
  );
}

/** What a screen reader calls a dragged head: its track, or its lane. */
function nameOfDragged({ tracks }: Project, id: string): string | null {
  const [track, lane] = id.split("/");
  const own = tracks.find((one) => one.id === track);
  return (lane ? own?.lanes.find((one) => one.id === lane)?.name : own?.name) ?? null;
}
