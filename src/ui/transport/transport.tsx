"use client";
import { togglePlay } from "../commands/transport/play";
import { BeatSign } from "./beat-sign";
import { undoEdit } from "../commands/perform/entry";
import { tapTempo } from "../commands/transport/tap-tempo";
import {
  CircleHelp,
  Metronome,
  PanelRight,
  Play,
  Redo2,
  Search,
  Settings2,
  SlidersVertical,
  Square,
  Undo2,
} from "lucide-react";
import Link from "next/link";
import { useEffect, useRef, type ReactNode } from "react";
import { tempoOfTold, toldTempo, formatPosition } from "@/core/time";
import { LIMITS, metreOf, songBar, tickInPattern } from "@/core/score";
import { useRequest } from "../session/requested";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";
import { LevelMeter } from "../session/level-meter";
import { Devices } from "../perform/devices";
import { RecordButton } from "../perform/record-button";
import { ValueField } from "../controls/value-field";
import { ExportDialog } from "../files/export-dialog";
import { ImportDialog } from "../files/import-dialog";
import { BeforeNow } from "./before-now";
import { HistoryList } from "./history-list";
import { KeyField } from "./key-field";
import { MetreField } from "./metre-field";
import { renameProject, setTempo } from "../commands/song/project";
import { currentMetre } from "../state/current";

const SAVE_WORDS = {
  opening: "opening",
  saved: "saved",
  saving: "saving",
  waiting: "waiting for the server",
  refused: "not saved",
  forked: "two copies, choose one",
} as const;

/** The bar over the sheet: project, play, tempo, metre, key, position, history; one line from 1,024 px on. */
export function Transport() {
  const desk = useDesk();
  const { store } = desk;
  const playing = useSession((state) => state.playing);
  const past = useSession((state) => state.history.past[state.history.past.length - 1]?.label);
  const future = useSession((state) => state.history.future[0]?.label);
  return (
    <header className="flex min-h-[46px] shrink-0 items-center gap-x-2 border-b border-base-300 bg-base-100 px-3 max-[1023px]:flex-wrap">
      <Link
        href="/"
        className="shrink-0 text-[15px] font-bold tracking-tight"
        aria-label="Hailstep, to the library"
        title="To the library"
      >
        H<span className="max-[1180px]:hidden">ailstep</span>
      </Link>
      <NameAndState />
      <button
        className={`btn btn-circle h-9 min-h-0 w-9 ${playing ? "btn-primary" : "btn-neutral"}`}
        aria-label={playing ? "Stop" : "Play"}
        {...keyed(`${playing ? "Stop" : "Play"}`, "play")}
        onClick={() => void togglePlay(desk)}
      >
        {playing ? (
          <Square size={14} fill="currentColor" />
        ) : (
          <Play size={16} fill="currentColor" />
        )}
      </button>
      <RecordButton />
      <MetronomeSwitch />
      <LevelMeter track={null} className="h-1.5 w-10 shrink-0 max-[1180px]:hidden" />
      <Settings />
      <Position />
      <div className="flex">
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label={past ? `Undo ${past}` : "Undo"}
          {...keyed(past ? `Undo: ${past}` : "Nothing to undo", "undo")}
          disabled={!past}
          onClick={() => undoEdit(store)}
        >
          <Undo2 size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label={future ? `Redo ${future}` : "Redo"}
          {...keyed(future ? `Redo: ${future}` : "Nothing to redo", "redo")}
          disabled={!future}
          onClick={() => store.getState().redo()}
        >
          <Redo2 size={16} />
        </button>
        <HistoryList />
      </div>
      <BeforeNow />
      <div className="ml-auto flex shrink-0 items-center">
        <MixerSwitch />
        <Devices />
        <ExportDialog />
        <ImportDialog />
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="Find an action"
          {...keyed("Find an action by its name", "palette")}
          onClick={() => store.getState().request("palette")}
        >
          <Search size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="Help"
          {...keyed("Help: keys on the controls, and what hands do on the sheet", "help")}
          onClick={() => store.getState().request("help")}
        >
          <CircleHelp size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="Settings"
          {...keyed("Settings: keys, look, new projects, recording", "settings")}
          onClick={() => store.getState().request("settings")}
        >
          <Settings2 size={16} />
        </button>
        <BenchSwitch />
      </div>
    </header>
  );
}

function NameAndState() {
  const { store } = useDesk();
  const name = useSession((state) => state.project.name);
  const save = useSession((state) => state.save);
  const message = useSession((state) => state.saveMessage);
  return (
    <div className="flex max-w-[190px] min-w-[84px] flex-1 flex-col leading-tight">
      <input
        key={name}
        className="w-full truncate rounded bg-transparent text-[13px] font-semibold"
        aria-label="Project name"
        defaultValue={name}
        maxLength={LIMITS.name}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") {
            event.currentTarget.value = name;
            event.currentTarget.blur();
          }
        }}
        onBlur={(event) => {
          renameProject(store, event.target.value);
          event.target.value = store.getState().project.name;
        }}
      />
      <span
        className={`text-[12px] whitespace-nowrap ${save === "refused" || save === "forked" ? "text-error" : "quiet"}`}
        data-testid="save-state"
        role="status"
        title={message}
      >
        {SAVE_WORDS[save]}
      </span>
    </div>
  );
}

/** Opens the bench, where the window is too narrow for it to stand beside the sheet. */
function BenchSwitch() {
  const { store } = useDesk();
  const open = useSession((state) => state.benchOpen);
  return (
    <button
      className={`btn btn-sm gap-1 px-2 min-[1100px]:hidden ${open ? "btn-primary" : "btn-ghost"}`}
      aria-expanded={open}
      aria-controls="bench"
      aria-label="Panel"
      title="Panel: transform, generate, sound and measure"
      onClick={() => store.getState().setTools({ benchOpen: !open })}
    >
      <PanelRight size={16} />
    </button>
  );
}

/** Opens the mixer under the sheet. */
function MixerSwitch() {
  const { store } = useDesk();
  const open = useSession((state) => state.mixerOpen);
  return (
    <button
      className={`btn btn-ghost btn-sm px-1.5 ${open ? "text-primary" : ""}`}
      aria-pressed={open}
      aria-label="Mixer"
      {...keyed("Mixer: levels, sends, room and whole mix", "mixer")}
      onClick={() => store.getState().setLook({ mixerOpen: !open })}
    >
      <SlidersVertical size={16} />
    </button>
  );
}

/** The metronome, on or off. */
function MetronomeSwitch() {
  const { store } = useDesk();
  const on = useSession((state) => state.click);
  return (
    <button
      className={`btn btn-ghost btn-sm -ml-2 px-1 ${on ? "text-primary" : ""}`}
      aria-pressed={on}
      aria-label="Metronome"
      {...keyed("Metronome: a click on every beat", "click")}
      onClick={() => store.getState().setHearing({ click: !on })}
    >
      <Metronome size={16} />
    </button>
  );
}

function Settings() {
  const { store } = useDesk();
  const tempo = useSession((state) => state.project.tempo);
  const metre = useSession(currentMetre);
  const told = (bpm: number) => Math.round(toldTempo(bpm, metre) * 100) / 100;
  const tempoField = useRef<HTMLInputElement>(null);
  useRequest("tempo", () => {
    tempoField.current?.focus();
    tempoField.current?.select();
  });
  return (
    <div className="flex shrink-0 items-start gap-3 max-[1180px]:gap-2">
      <Field
        label={
          <>
            Tempo <BeatSign metre={metre} />
          </>
        }
      >
        <span className="flex h-[24px] items-center">
          <ValueField
            label="Tempo"
            inputRef={tempoField}
            className="-ml-1 w-[60px] font-medium"
            value={told(tempo)}
            min={told(LIMITS.tempo.min)}
            max={told(LIMITS.tempo.max)}
            reset={told(120)}
            format={(value) => (Number.isInteger(value * 10) ? value.toFixed(1) : value.toFixed(2))}
            onChange={(value) => setTempo(store, tempoOfTold(value, metre))}
          />
          <button
            className="btn btn-ghost btn-xs -mr-1 px-1 font-normal"
            title="Tap along with the beat, here or with the key above tab"
            aria-label="Tap the tempo"
            // Where the finger comes down is the beat, not where it goes up.
            onPointerDown={(event) => tapTempo(store, event.timeStamp)}
            onClick={(event) => event.detail === 0 && tapTempo(store)}
          >
            Tap
          </button>
        </span>
      </Field>
      <Field label="Metre">
        <MetreField />
      </Field>
      <Field label="Key">
        <KeyField />
      </Field>
    </div>
  );
}

function Field({ label, children }: { label: ReactNode; children: ReactNode }) {
  return (
    <div className="flex shrink-0 flex-col leading-tight">
      <span className="quiet text-[12px] whitespace-nowrap">{label}</span>
      <span className="flex h-[24px] items-center text-[13px] whitespace-nowrap">{children}</span>
    </div>
  );
}

/** Where the loop stands, or the caret when stopped. Written straight to the page, once a frame. */
function Position() {
  const { store, engine } = useDesk();
  const playing = useSession((state) => state.playing);
  const song = useSession((state) => state.plays === "song");
  const caret = useSession((state) => state.caret.tick);
  const metre = useSession(currentMetre);
  const text = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const follow = () => {
      frame = requestAnimationFrame(follow);
      const at = engine.position();
      const { project } = store.getState();
      const counted = engine.countIn();
      if (text.current && counted) text.current.textContent = `−${counted.left}`;
      const pattern = project.patterns.find((pattern) => pattern.id === at?.pattern);
      if (!text.current || !at || !pattern) return;
      const sixteenth = Math.floor(tickInPattern(project, pattern, at.tick) / 240) * 240;
      const own = formatPosition(sixteenth, metreOf(project, pattern));
      const bar = at.song === null ? null : songBar(project, at.song);
      text.current.textContent = bar === null ? own : `${bar} · ${own}`;
    };
    follow();
    return () => cancelAnimationFrame(frame);
  }, [playing, engine, store]);
  return (
    <Field label="Position">
      <span
        // Written by hand while it plays: made anew for what stands there then.
        key={playing ? "position" : "caret"}
        ref={text}
        className="figure inline-block w-[112px] font-medium max-[1180px]:w-[90px] max-[1180px]:text-[12px]"
        data-testid="position"
        title={song ? "Bar of the song, and where in its pattern" : "Bar, beat and sixteenth"}
      >
        {formatPosition(Math.max(0, caret), metre)}
      </span>
    </Field>
  );
}
