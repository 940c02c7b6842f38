"use client";
import {
  driftOf,
  edits,
  formatLength,
  formatPosition,
  padName,
  parseLength,
  parsePitch,
  parsePosition,
  partOf,
  pitchName,
  rollRate,
  ticksToMs,
  type Note,
} from "@/core";
import type { ReactNode } from "react";
import { gridOfNote, ownIds } from "../commands/notes";
import { toggleSlide } from "../commands/selected";
import { panText, parsePan } from "../controls/pan-text";
import { ValueField } from "../controls/value-field";
import { Surface } from "../entry/surface";
import { HEADER_WIDTH } from "../geometry/layout";
import { useDesk, useSession } from "../session/context";
import { place, type ProfileKind } from "../session/store";
import { CutField } from "./cut-field";
import { LaneStrip } from "./lane-strip";
import { PROFILES, ProfileView } from "./profile";

/** Exact values of the selection, and the velocity profile of the lane in hand. */
export function Foot() {
  const drums = useSession((s) => s.project.tracks.find((t) => t.id === s.track)?.kind === "drums");
  const lane = useSession((s) => {
    const track = s.project.tracks.find((t) => t.id === s.track);
    if (!track) return "";
    if (track.kind === "melody") return track.name;
    return track.lanes.find((l) => l.pitch === s.caret.pitch)?.name ?? padName(s.caret.pitch);
  });
  const any = useSession((s) => s.track !== "");
  const entering = useSession((s) => s.entry !== null);
  if (!any) return null;
  return (
    <footer className="shrink-0 border-t border-base-300 bg-base-100" aria-label="Exact values">
      {entering ? (
        <Surface />
      ) : (
        <div className="flex">
          <div
            className="quiet shrink-0 pt-2 pl-4 text-[12px] leading-tight"
            style={{ width: HEADER_WIDTH }}
          >
            <ProfileChoice drums={drums} />
            <div className="truncate font-medium text-base-content">{lane}</div>
          </div>
          <ProfileView />
        </div>
      )}
      <LaneStrip />
      <Values drums={drums} />
    </footer>
  );
}

function ProfileChoice({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const kind = useSession((s) => s.profile);
  return (
    <select
      className="-ml-1 h-6 cursor-pointer appearance-none rounded bg-transparent px-1 hover:bg-base-300/50"
      aria-label="What the profile shows"
      title="What the profile shows and sets: click for tune or pan"
      value={!drums && kind === "tune" ? "velocity" : kind}
      onChange={(event) => store.setState({ profile: event.target.value as ProfileKind })}
    >
      {Object.entries(PROFILES)
        .filter(([, profile]) => drums || !profile.drums)
        .map(([id, profile]) => (
          <option key={id} value={id}>
            {profile.label} ▾
          </option>
        ))}
    </select>
  );
}

function Values({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const selection = useSession((s) => s.selection);
  const project = useSession((s) => s.project);
  const pattern = useSession((s) => s.pattern);
  const track = useSession((s) => s.track);
  const touched = useSession((s) => s.touched);
  const ids = ownIds(selection);
  const at = { pattern, track };
  const notes = track ? partOf(project, at).notes.filter((note) => ids.has(note.id)) : [];
  const first = notes[0];
  const word = drums ? "hit" : "note";

  if (!first) {
    return (
      <div className="flex h-[52px] items-center gap-4 px-4 text-[12px]">
        <span className="quiet">
          {drums
            ? "Click a step to put a hit (with alt a ghost), drag to paint; drag or wheel a hit for velocity; shift-drag to select."
            : "Click to draw a note, drag its end to lengthen, drag it to move, shift-drag to select."}
        </span>
        <span className="quiet ml-auto">
          Next {word}: velocity <b className="figure">{touched.velocity}</b>
          {touched.length !== null && (
            <>
              , length <b className="figure">{formatLength(touched.length)}</b>
            </>
          )}
        </span>
      </div>
    );
  }

  /** Several notes: start, length and pitch change by as much as the first does; the rest as typed. */
  const change = (label: string, edit: (note: Note) => Note) => {
    const state = store.getState();
    state.edit(label, (p) => edits.changeNotes(p, place(state), ids, edit), `foot-${label}`);
  };
  const { metre, key } = project;
  return (
    <div className="flex h-[52px] items-center gap-3.5 overflow-x-auto px-4">
      <Labelled label={notes.length === 1 ? (drums ? "Hit" : "Note") : `${notes.length} ${word}s`}>
        {drums ? (
          <span className="figure px-1 font-medium">{padName(first.pitch)}</span>
        ) : (
          <ValueField
            label="Pitch"
            className="w-16"
            value={first.pitch}
            min={0}
            max={127}
            format={(p) => pitchName(p, key)}
            parse={(text) => parsePitch(text)}
            onChange={(pitch) => {
              const by = pitch - first.pitch;
              change("Pitch", (n) => ({ ...n, pitch: Math.min(127, Math.max(0, n.pitch + by)) }));
            }}
          />
        )}
      </Labelled>
      <Labelled label="Start">
        <ValueField
          label="Start"
          className="w-24"
          value={first.start}
          min={-480}
          max={10_000_000}
          format={(t) => formatPosition(t, metre)}
          parse={(text) => parsePosition(text, metre)}
          onChange={(start) => {
            const by = start - first.start;
            change("Start", (n) => ({ ...n, start: Math.max(-480, n.start + by) }));
          }}
        />
      </Labelled>
      <Labelled label="Length">
        <ValueField
          label="Length"
          className="w-20"
          value={first.length}
          min={1}
          max={10_000_000}
          step={10}
          format={formatLength}
          parse={parseLength}
          onChange={(length) => {
            const by = length - first.length;
            change("Length", (n) => ({ ...n, length: Math.max(1, n.length + by) }));
          }}
        />
      </Labelled>
      <Labelled label="Velocity">
        <ValueField
          label="Velocity"
          className="w-14"
          value={first.velocity}
          min={1}
          max={127}
          reset={96}
          onChange={(v) => {
            const velocity = Math.round(v);
            change("Velocity", (n) => ({ ...n, velocity }));
            store.setState({ touched: { ...touched, velocity } });
          }}
        />
      </Labelled>
      <Labelled label="Pan">
        <ValueField
          label="Pan"
          className="w-[76px]"
          value={Math.round(first.pan * 100)}
          min={-100}
          max={100}
          reset={0}
          format={panText}
          parse={parsePan}
          onChange={(pan) => change("Pan", (n) => ({ ...n, pan: pan / 100 }))}
        />
      </Labelled>
      {drums && (
        <Labelled label="Tune">
          <ValueField
            label="Tune"
            className="w-20"
            value={first.tune}
            min={-48}
            max={48}
            reset={0}
            format={(v) => `${v > 0 ? "+" : ""}${v} st`}
            onChange={(tune) => change("Tune", (n) => ({ ...n, tune }))}
          />
        </Labelled>
      )}
      <Labelled label="Drift">
        <span className="figure px-1 text-[12px] whitespace-nowrap" data-testid="drift">
          {shortDrift(driftOf(gridOfNote(store.getState(), first), first.start), project.tempo)}
        </span>
      </Labelled>
      <Labelled label="Lasts">
        <span className="figure px-1 text-[12px] whitespace-nowrap" data-testid="rate">
          {rollRate(ticksToMs(first.length, project.tempo))}
        </span>
      </Labelled>
      {!drums && (
        <Labelled label="Channel">
          <ValueField
            label="Channel"
            className="w-[64px]"
            value={first.channel ?? 0}
            min={0}
            max={16}
            reset={0}
            format={(c) => (c === 0 ? "track" : String(c))}
            parse={(text) => (/^\s*t/i.test(text) ? 0 : wholeNumber(text))}
            onChange={(channel) =>
              change("Channel", ({ channel: _, ...note }) =>
                channel === 0 ? note : { ...note, channel },
              )
            }
          />
        </Labelled>
      )}
      {!drums && (
        <Labelled label="Slide">
          <button
            className="px-1 text-[13px]"
            aria-pressed={first.slide}
            aria-label="Slide into the next note"
            title="Slide into the next note (Z)"
            onClick={() => toggleSlide(store)}
          >
            {first.slide ? "yes" : "no"}
          </button>
        </Labelled>
      )}
      {drums && (
        <Labelled label="Cut into">
          <CutField />
        </Labelled>
      )}
    </div>
  );
}

/** `+14 t, 10.4 ms` */
function shortDrift(ticks: number, tempo: number): string {
  if (ticks === 0) return "none";
  return `${ticks > 0 ? "+" : "−"}${Math.abs(ticks)} t, ${ticksToMs(Math.abs(ticks), tempo).toFixed(1)} ms`;
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex shrink-0 flex-col">
      <span className="quiet px-1 text-[11px] leading-tight">{label}</span>
      <span className="text-[15px] font-medium">{children}</span>
    </div>
  );
}

const wholeNumber = (text: string) => (/^\s*\d+\s*$/.test(text) ? Number(text) : null);
