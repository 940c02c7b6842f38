"use client";
import { clamp, mustGet, must } from "@/core/base";
import { useSize } from "../controls/use-size";
import { ownIds } from "../commands/notes/notes";
import { useEffect, useMemo, useRef, type PointerEvent } from "react";
import { nanoid } from "nanoid";
import { type Note, patternOf, patternTicks } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { currentPart, effectiveCurrent } from "../state/current";
import { useTheme } from "../person/theme";
import { prepareCanvas } from "../controls/canvas";
import { readColours, trackColour } from "../controls/colours";
import { useTimeView } from "../session/time-view";
import { profileFor, type Profile } from "../geometry/profiles";
import { paintValues } from "../commands/notes/values";
import { xOf } from "../geometry/view";

const HEIGHT = 60;
const FLOOR = HEIGHT - 4;
const CEILING = 7;
const REACH = 9;

const yOf = ({ min, max }: Profile, value: number) =>
  FLOOR - ((clamp(value, min, max) - min) / (max - min)) * (FLOOR - CEILING);
const valueAt = ({ min, max }: Profile, y: number) =>
  clamp(min + ((FLOOR - y) / (FLOOR - CEILING)) * (max - min), min, max);

interface Mark {
  x: number;
  y: number;
  selected: boolean;
}

/** From so many values in view on, each column of pixels shows one. */
const CROWD = 400;
/** Heads to a path: one path over the whole width would take many times as long to fill. */
const CHUNK = 40;

function drawMarks(
  ctx: CanvasRenderingContext2D,
  seen: readonly Mark[],
  base: number,
  ink: string,
  ring: string,
): void {
  ctx.fillStyle = ink;
  ctx.globalAlpha = 0.75;
  for (const { x, y } of seen) ctx.fillRect(x - 0.75, Math.min(y, base), 1.5, Math.abs(base - y));
  ctx.globalAlpha = 1;
  ctx.strokeStyle = ring;
  ctx.lineWidth = 1.4;
  for (let from = 0; from < seen.length; from += CHUNK) {
    const [heads, rings] = [new Path2D(), new Path2D()];
    for (const { x, y, selected } of seen.slice(from, from + CHUNK)) {
      heads.moveTo(x + 3.5, y);
      heads.arc(x, y, 3.5, 0, 7);
      if (!selected) continue;
      rings.moveTo(x + 6, y);
      rings.arc(x, y, 6, 0, 7);
    }
    ctx.fill(heads);
    ctx.stroke(rings);
  }
}

/** The value farthest from the base in each column of pixels. */
function drawCrowd(
  ctx: CanvasRenderingContext2D,
  seen: readonly Mark[],
  base: number,
  inkOf: (selected: boolean) => string,
): void {
  const columns = new Map<number, Mark>();
  for (const mark of seen) {
    const x = Math.round(mark.x);
    const other = columns.get(x);
    if (!other || Math.abs(mark.y - base) > Math.abs(other.y - base)) columns.set(x, mark);
  }
  for (const selected of [false, true]) {
    ctx.fillStyle = inkOf(selected);
    for (const [x, mark] of columns) {
      if (mark.selected !== selected) continue;
      ctx.fillRect(x, Math.min(mark.y, base), 1, Math.max(1, Math.abs(base - mark.y)));
    }
  }
}

/** A profile of the current lane (or melodic track), on the sheet's time axis. Draw to set. */
export function ProfileView() {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const pattern = useSession((state) => state.pattern);
  const track = useSession((state) => state.track);
  const pitch = useSession((state) => state.caret.pitch);
  const selection = useSession((state) => state.selection);
  const heard = useSession(effectiveCurrent);
  const kind = useSession((state) => state.profile);
  const theme = useTheme();
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);

  const index = project.tracks.findIndex((t) => t.id === track);
  const drums = project.tracks[index]?.kind === "drums";
  const [, profile] = profileFor(drums ? "drums" : "melody", kind);
  const view = useTimeView(width, patternTicks(project, patternOf(project, pattern)));
  const notes = useMemo(
    () => heard.notes.filter((note) => !drums || note.pitch === pitch),
    [heard, drums, pitch],
  );
  const { zoom, scroll } = view;

  useEffect(() => {
    if (width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
      if (!ctx) return;
      const colours = readColours();
      ctx.clearRect(0, 0, width, HEIGHT);
      ctx.fillStyle = colours.line;
      const base = yOf(profile, profile.base);
      ctx.fillRect(0, base, width, 1);
      const ink = trackColour(colours, Math.max(0, index));
      const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
      const seen: Mark[] = [];
      for (const note of notes) {
        const x = xOf(at, note.start);
        if (x < -8 || x > width + 8) continue;
        seen.push({ x, y: yOf(profile, profile.read(note)), selected: selection.has(note.id) });
      }
      const inkOf = (selected: boolean) => (selected ? colours.text : ink);
      if (seen.length > CROWD) drawCrowd(ctx, seen, base, inkOf);
      else drawMarks(ctx, seen, base, ink, colours.text);
    });
    return () => cancelAnimationFrame(frame);
  }, [width, zoom, scroll, notes, selection, index, theme, profile]);

  const stroke = useRef<{ x: number; y: number; group: string } | null>(null);
  const pointOf = (event: PointerEvent) => {
    const frame = must(area.current).getBoundingClientRect();
    return { x: event.clientX - frame.left, y: event.clientY - frame.top };
  };
  /** Sets what the stroke passed between two points, along the line between them. */
  const draw = (from: { x: number; y: number }, to: { x: number; y: number }, group: string) => {
    const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const reach = left === right ? REACH : 2;
    const values = new Map<string, number>();
    for (const note of notes) {
      const x = xOf(at, note.start);
      if (x < left - reach || x > right + reach) continue;
      const share = right === left ? 1 : (x - from.x) / (to.x - from.x);
      const y = from.y + clamp(share, 0, 1) * (to.y - from.y);
      for (const id of ownIds([note.id])) values.set(id, valueAt(profile, y));
    }
    if (values.size === 0) return;
    const change = (note: Note) => profile.write(note, mustGet(values, note.id));
    paintValues(store, new Set(values.keys()), change, { label: profile.label, group });
  };
  const onDown = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const point = pointOf(event);
    stroke.current = { ...point, group: `profile-${nanoid(6)}` };
    draw(point, point, stroke.current.group);
  };
  const onMove = (event: PointerEvent) => {
    const from = stroke.current;
    if (!from) return;
    const point = pointOf(event);
    draw(from, point, from.group);
    stroke.current = { ...from, ...point };
  };
  const onUp = () => {
    const state = store.getState();
    stroke.current = null;
    const own = currentPart(state).notes;
    const first = own.find((note) => state.selection.has(note.id));
    if (first) state.setTouched({ velocity: first.velocity });
  };

  return (
    <div
      ref={area}
      data-testid="velocity-profile"
      className="relative min-w-0 flex-1 cursor-crosshair touch-none"
      style={{ height: HEIGHT }}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden />
    </div>
  );
}
