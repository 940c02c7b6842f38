"use client";
import { togglePlay } from "../commands/play";
import { Download, Metronome, Moon, Play, Redo2, Search, Square, Sun, Undo2 } from "lucide-react";
import Link from "next/link";
import { useCallback, useEffect, useRef, useState } from "react";
import { LIMITS, METRES, edits, formatPosition, patternTicks, type Metre } from "@/core";
import { openPalette } from "../actions/palette";
import { useDesk, useSession } from "../session/context";
import { toggleTheme, useTheme } from "../controls/theme";
import { useDismiss } from "../controls/use-dismiss";
import { LevelMeter } from "../session/level-meter";
import { ValueField } from "../controls/value-field";
import { exportFile } from "../commands/export";
import { HistoryList } from "./history-list";
import { KeyField } from "./key-field";
import { Patterns } from "./patterns";

const SAVE_WORDS = {
  opening: "opening",
  saved: "saved",
  saving: "saving",
  waiting: "waiting for the server",
  refused: "not saved",
} as const;

/** The bar over the sheet: project, play, tempo, metre, key, position, history, patterns. */
export function Transport() {
  const desk = useDesk();
  const { store } = desk;
  const playing = useSession((s) => s.playing);
  const past = useSession((s) => s.history.past[s.history.past.length - 1]?.label);
  const future = useSession((s) => s.history.future[0]?.label);
  const theme = useTheme();
  return (
    <header className="flex h-[54px] shrink-0 items-center gap-3 border-b border-base-300 bg-base-100 px-4">
      <Link href="/" className="text-[16px] font-bold tracking-tight" title="To the library">
        Hailstep
      </Link>
      <NameAndState />
      <button
        className={`btn btn-circle h-9 min-h-0 w-9 ${playing ? "btn-primary" : "btn-neutral"}`}
        aria-label={playing ? "Stop" : "Play"}
        title={`${playing ? "Stop" : "Play"} (space)`}
        onClick={() => void togglePlay(desk)}
      >
        {playing ? (
          <Square size={14} fill="currentColor" />
        ) : (
          <Play size={16} fill="currentColor" />
        )}
      </button>
      <ClickSwitch />
      <LevelMeter track={null} className="h-1.5 w-10" />
      <Settings />
      <Position />
      <div className="flex">
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label={past ? `Undo ${past}` : "Undo"}
          title={past ? `Undo: ${past} (ctrl Z)` : "Nothing to undo"}
          disabled={!past}
          onClick={() => store.getState().undo()}
        >
          <Undo2 size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label={future ? `Redo ${future}` : "Redo"}
          title={future ? `Redo: ${future} (ctrl shift Z)` : "Nothing to redo"}
          disabled={!future}
          onClick={() => store.getState().redo()}
        >
          <Redo2 size={16} />
        </button>
        <HistoryList />
      </div>
      <Kept />
      <Patterns />
      <div className="flex items-center">
        <ExportMenu />
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="All actions"
          title="All actions and their keys (ctrl K)"
          onClick={openPalette}
        >
          <Search size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label={theme === "slate" ? "Light theme" : "Dark theme"}
          title={theme === "slate" ? "Light theme" : "Dark theme"}
          onClick={toggleTheme}
        >
          {theme === "slate" ? <Sun size={16} /> : <Moon size={16} />}
        </button>
      </div>
    </header>
  );
}

function NameAndState() {
  const { store } = useDesk();
  const name = useSession((s) => s.project.name);
  const save = useSession((s) => s.save);
  const message = useSession((s) => s.saveMessage);
  return (
    <div className="flex w-[118px] min-w-0 flex-col leading-tight">
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
          store.getState().edit("Rename", (p) => edits.renameProject(p, event.target.value));
          event.target.value = store.getState().project.name;
        }}
      />
      <span
        className={`text-[11px] whitespace-nowrap ${save === "refused" ? "text-error" : "quiet"}`}
        data-testid="save-state"
        role="status"
        title={message}
      >
        {SAVE_WORDS[save]}
      </span>
    </div>
  );
}

/** The click, on or off. */
function ClickSwitch() {
  const { store } = useDesk();
  const on = useSession((s) => s.click);
  return (
    <button
      className={`btn btn-ghost btn-sm -mx-2 px-1 ${on ? "text-primary" : ""}`}
      aria-pressed={on}
      aria-label="Click"
      title="A click on every beat (shift Q)"
      onClick={() => store.setState({ click: !on })}
    >
      <Metronome size={16} />
    </button>
  );
}

/** Hears the state last kept against the present one, while the loop plays; and keeps another. */
function Kept() {
  const { store } = useDesk();
  const hearing = useSession((s) => s.hearingKept);
  const same = useSession((s) => s.kept === s.project);
  return (
    <div role="group" aria-label="Compare" className="flex items-center text-[12px]">
      {(["A", "B"] as const).map((side) => {
        const on = hearing === (side === "A");
        return (
          <button
            key={side}
            className={`h-[26px] w-[24px] font-semibold first:rounded-l-lg ${on ? "bg-primary/15 text-primary" : "quiet hover:bg-base-200"}`}
            aria-pressed={on}
            aria-label={side === "A" ? "Hear the kept state" : "Hear the present state"}
            title={
              side === "A" ? "Hear and see the kept state (shift X)" : "Hear what is now (shift X)"
            }
            disabled={same && side === "A"}
            onClick={() => store.setState({ hearingKept: side === "A" })}
          >
            {side}
          </button>
        );
      })}
      <button
        className="h-[26px] rounded-r-lg px-1.5 hover:bg-base-200"
        title="Keep what is now as A, to compare with later (shift S)"
        onClick={() =>
          store.setState((s) => ({ kept: s.project, hearingKept: false, said: "Kept as A" }))
        }
      >
        Keep
      </button>
    </div>
  );
}

const metreText = (metre: Metre) => `${metre.beats}/${metre.unit}`;

function Settings() {
  const { store } = useDesk();
  const tempo = useSession((s) => s.project.tempo);
  const metre = useSession((s) => s.project.metre);
  const { edit } = store.getState();
  const metres = METRES.some((m) => metreText(m) === metreText(metre))
    ? METRES
    : [...METRES, metre];
  return (
    <div className="flex items-start gap-3">
      <Field label="Tempo">
        <ValueField
          label="Tempo"
          className="-ml-1 w-[60px] font-medium"
          value={tempo}
          min={LIMITS.tempo.min}
          max={LIMITS.tempo.max}
          reset={120}
          format={(v) => (Number.isInteger(v * 10) ? v.toFixed(1) : v.toFixed(2))}
          onChange={(bpm) => edit("Tempo", (p) => edits.setTempo(p, bpm), "tempo")}
        />
      </Field>
      <Field label="Metre">
        <select
          className="figure -ml-0.5 cursor-pointer appearance-none bg-transparent font-medium"
          aria-label="Metre"
          value={metreText(metre)}
          onChange={(event) => {
            const [beats, unit] = event.target.value.split("/").map(Number);
            edit("Metre", (p) => edits.setMetre(p, { beats: beats!, unit: unit! }));
          }}
        >
          {metres.map((m) => (
            <option key={metreText(m)}>{metreText(m)}</option>
          ))}
        </select>
      </Field>
      <Field label="Key">
        <KeyField />
      </Field>
    </div>
  );
}

function Field({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-col leading-tight">
      <span className="quiet text-[11px]">{label}</span>
      <span className="text-[14px]">{children}</span>
    </div>
  );
}

/** Where the loop stands, or the caret when stopped. Written straight to the page, once a frame. */
function Position() {
  const { store, engine } = useDesk();
  const playing = useSession((s) => s.playing);
  const caret = useSession((s) => s.caret.tick);
  const metre = useSession((s) => s.project.metre);
  const text = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const follow = () => {
      frame = requestAnimationFrame(follow);
      const at = engine.position();
      const { project } = store.getState();
      const pattern = project.patterns.find((p) => p.id === at?.pattern);
      if (!text.current || !at || !pattern) return;
      const total = patternTicks(project, pattern);
      const sixteenth = Math.floor((at.tick % total) / 240) * 240;
      text.current.textContent = formatPosition(sixteenth, project.metre);
    };
    follow();
    return () => cancelAnimationFrame(frame);
  }, [playing, engine, store]);
  return (
    <Field label={playing ? "Position" : "Caret"}>
      <span ref={text} className="figure inline-block w-[74px] font-medium" data-testid="position">
        {formatPosition(Math.max(0, caret), metre)}
      </span>
    </Field>
  );
}

function ExportMenu() {
  const { store } = useDesk();
  const [open, setOpen] = useState(false);
  const root = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setOpen(false), []);
  useDismiss(root, open, close);
  const take = (what: "pattern" | "all" | "json") => {
    setOpen(false);
    exportFile(store.getState(), what);
  };
  return (
    <div ref={root} className="relative">
      <button
        className="btn btn-ghost btn-sm px-1.5"
        aria-label="Take away"
        title="Take away as MIDI or as a project file"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <Download size={16} />
      </button>
      {open && (
        <div
          role="menu"
          aria-label="Take away"
          className="rounded-box absolute right-0 z-30 mt-1 flex w-56 flex-col border border-base-300 bg-base-100 p-1.5 shadow-lg"
        >
          {(
            [
              ["pattern", "This pattern as MIDI"],
              ["all", "All patterns as MIDI"],
              ["json", "The project as a file"],
            ] as const
          ).map(([what, label]) => (
            <button
              key={what}
              role="menuitem"
              className="rounded-lg px-2 py-1.5 text-left hover:bg-base-200"
              onClick={() => take(what)}
            >
              {label}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
