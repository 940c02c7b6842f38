"use client";
import { useEffect, useMemo, useRef } from "react";
import { plural, clamp, mustGet } from "@/core/base";
import type { Track } from "@/core/score";
import type { PlayedNote } from "@/core/perform";
import {
  dropPlayed,
  hearPlayed,
  playedTempo,
  putAtCaret,
  putWherePlayed,
  putWithTempo,
  keepLastLoop,
} from "../commands/perform/played";
import { prepareCanvas } from "../controls/canvas";
import { readColours, trackColour } from "../controls/colours";
import { useTheme } from "../person/theme";
import { HEADER_WIDTH } from "../geometry/layout";
import { notesBetween, xOfPlayed, type PlayedLine } from "../geometry/played-line";
import { useDesk, useSession } from "../session/context";
import { dragNotes } from "../state/dragged";
import { Tidy } from "./tidy";
import { useStretch } from "./use-stretch";
import { usePlayedLine } from "./use-played-line";
import { keyed } from "../person/keys";

const HEIGHT = 40;

/** What was played in the last thirty minutes, recorded or not, as a small score: any stretch can be heard, put in, or thrown away. */
export function PlayedStrip() {
  const strip = usePlayedLine();
  // It is there before the first note: the sheet would move under the hand that plays it.
  const ready = useSession(
    (state) => state.entry?.mode === "play" || state.perform.recording !== null,
  );
  return strip.spans.length > 0 || ready ? <Strip strip={strip} /> : null;
}

function Strip({ strip }: { strip: PlayedLine }) {
  const desk = useDesk();
  const { area, width, left, range, clear, handlers } = useStretch(strip);
  const selected = useMemo(
    () => (range ? notesBetween(strip, range.from, range.to) : []),
    [strip, range],
  );
  return (
    <div className="shrink-0 border-t border-base-300 bg-base-100 text-[12px]">
      <div className="flex" style={{ height: HEIGHT }}>
        <div
          className="flex shrink-0 items-center justify-between gap-1 pr-2 pl-4"
          style={{ width: HEADER_WIDTH }}
        >
          <span className="quiet" title="The last thirty minutes, recorded or not">
            Played
          </span>
          <button
            className="btn btn-xs h-[26px] min-h-0 px-2 font-normal"
            {...keyed(
              "Put the last loop, or all since the last pause, into the parts where it was played",
              "keep-round",
            )}
            onClick={() => keepLastLoop(desk)}
          >
            Keep last loop
          </button>
          <Tidy />
        </div>
        <div
          ref={area}
          className="relative min-w-0 flex-1 touch-none overflow-hidden"
          role="group"
          tabIndex={0}
          aria-label={`What was played: ${plural(strip.spans.length, "loop")}`}
          data-testid="played-strip"
          {...handlers}
        >
          <Score strip={strip} left={left} width={width} />
          {strip.spans.length === 0 && (
            <p className="quiet flex h-full items-center px-2">
              What you play is remembered here for thirty minutes, recorded or not.
            </p>
          )}
          {range && (
            <div
              className="absolute inset-y-0 cursor-grab rounded border-2 border-primary bg-primary/15"
              style={{ left: range.from - left, width: Math.max(4, range.to - range.from) }}
              draggable
              title="Drag onto a track of the sheet"
              data-testid="played-range"
              onDragStart={(event) => {
                event.dataTransfer.setData("text/plain", plural(selected.length, "played note"));
                event.dataTransfer.effectAllowed = "copy";
                dragNotes(selected);
              }}
              onDragEnd={() => dragNotes(null)}
            />
          )}
        </div>
      </div>
      {range && <Tools selected={selected} done={clear} />}
    </div>
  );
}

/** What can be done with a stretch. */
function Tools({ selected, done }: { selected: readonly PlayedNote[]; done(): void }) {
  const desk = useDesk();
  const track = useSession((state) => state.track);
  const name = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.name ?? "",
  );
  const free = selected.length > 0 && selected.every((note) => note.loop === null);
  const tempo = free ? playedTempo(selected) : null;
  const none = selected.length === 0;
  const button = "btn btn-xs h-[26px] min-h-0 px-2 font-normal";
  const then = (run: () => void) => () => {
    run();
    done();
  };
  return (
    <div
      className="flex flex-wrap items-center gap-1 border-t border-base-300 px-4 py-1"
      role="toolbar"
      aria-label="The selected stretch"
    >
      <span className="quiet mr-1" role="status">
        {plural(selected.length, "note")}
      </span>
      <button className={button} disabled={none} onClick={() => hearPlayed(desk, selected)}>
        Hear over the loop
      </button>
      <button
        className={button}
        disabled={none}
        onClick={then(() => putWherePlayed(desk, selected))}
      >
        Put where it was played
      </button>
      <button className={button} disabled={none} onClick={then(() => putAtCaret(desk, selected))}>
        Put at the caret
      </button>
      {selected.some((note) => note.track !== track) && (
        <button className={button} onClick={then(() => putAtCaret(desk, selected, track))}>
          Put on {name} at the caret
        </button>
      )}
      {tempo && (
        <button
          className={button}
          title="Put at the cursor and take the tempo it was played at for the project's"
          onClick={then(() => putWithTempo(desk, selected, tempo))}
        >
          Take its tempo too: about {tempo.bpm.toFixed(1)}, {Math.round(tempo.certainty * 100)} %
          sure
        </button>
      )}
      <button
        className={`${button} btn-ghost ml-auto`}
        disabled={none}
        onClick={then(() => dropPlayed(desk, selected))}
      >
        Throw away
      </button>
    </div>
  );
}

/** The notes in their tracks' colours, drawn as far as they are in view. */
function Score({ strip, left, width }: { strip: PlayedLine; left: number; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tracks = useSession((state) => state.project.tracks);
  const theme = useTheme();
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
      if (!ctx) return;
      drawPlayed(ctx, strip, left, width, tracks);
    });
    return () => cancelAnimationFrame(frame);
  }, [strip, left, width, tracks, theme]);
  return <canvas ref={canvas} className="absolute inset-0 h-full w-full" />;
}

function drawPlayed(
  ctx: CanvasRenderingContext2D,
  strip: PlayedLine,
  left: number,
  width: number,
  tracks: readonly Track[],
): void {
  const colours = readColours();
  ctx.clearRect(0, 0, width, HEIGHT);
  const places = new Map(tracks.map((track, i) => [track.id, i]));
  const range = pitchRange(strip, tracks);
  for (const span of strip.spans) {
    if (span.x + span.width < left || span.x > left + width) continue;
    // A round of the loop begins with a line, a phrase without one with a dot.
    ctx.fillStyle = colours.line;
    if (span.loop.began !== null) ctx.fillRect(Math.round(span.x - left), 3, 1.5, HEIGHT - 6);
    else {
      ctx.beginPath();
      ctx.arc(span.x - left + 1, HEIGHT / 2, 2, 0, 7);
      ctx.fill();
    }
    for (const note of span.loop.notes) {
      const x = xOfPlayed({ spans: [span], width: 0 }, note.at) - left;
      const ms = note.length ?? 60;
      const long = Math.max(2.5, (ms / Math.max(1, span.to - span.from)) * span.width);
      const track = tracks[places.get(note.track) ?? -1];
      ctx.fillStyle = track ? trackColour(colours, mustGet(places, note.track)) : colours.quiet;
      const y = 5 + (HEIGHT - 12) * (1 - heightOf(track, note.pitch, range));
      ctx.globalAlpha = 0.45 + 0.55 * (note.velocity / 127);
      if (track?.kind === "drums") {
        ctx.beginPath();
        ctx.arc(x + 1.5, y + 1, 1.4 + 1.6 * (note.velocity / 127), 0, 7);
        ctx.fill();
      } else ctx.fillRect(x, y, long, 2.5);
      ctx.globalAlpha = 1;
    }
  }
}

type Pitches = readonly [low: number, high: number];

/** The lowest and highest pitch that was played on melodic tracks, two octaves apart at least. */
function pitchRange({ spans }: PlayedLine, tracks: readonly Track[]): Pitches {
  const melodic = new Set(
    tracks.filter((track) => track.kind === "melody").map((track) => track.id),
  );
  let [low, high] = [127, 0];
  for (const { loop } of spans) {
    for (const { track, pitch } of loop.notes) {
      if (!melodic.has(track)) continue;
      if (pitch < low) low = pitch;
      if (pitch > high) high = pitch;
    }
  }
  const more = Math.max(0, 24 - (high - low)) / 2;
  return [low - more, high + more];
}

/** How high on the strip a note lies, 0–1: pads by their lane, pitches over the range that was played. */
function heightOf(track: Track | undefined, pitch: number, [low, high]: Pitches): number {
  if (track?.kind === "drums") {
    const at = track.lanes.findIndex((lane) => lane.pitch === pitch);
    return 1 - (at < 0 ? 0.5 : at / Math.max(1, track.lanes.length - 1));
  }
  return clamp((pitch - low) / (high - low), 0, 1);
}
