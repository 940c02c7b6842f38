"use client";
import { useSize } from "../controls/use-size";
import { ownIds } from "../commands/notes";
import { useEffect, useMemo, useRef, type PointerEvent } from "react";
import { nanoid } from "nanoid";
import { barTicks, edits, partOf, type Note } from "@/core";
import { useDesk, useSession } from "../session/context";
import { heardInHand, place, type ProfileKind } from "../session/store";
import { useTheme } from "../controls/theme";
import { prepareCanvas } from "../controls/canvas";
import { readInks, trackInk } from "../controls/inks";
import { useTimeView } from "../session/time-view";
import { xOf } from "../geometry/view";

const HEIGHT = 60;
const FLOOR = HEIGHT - 4;
const CEILING = 7;
const REACH = 9;

/** Something of each note that can be seen and drawn as a line. One entry adds one. */
interface Profile {
  label: string;
  min: number;
  max: number;
  /** Where stems stand: the bottom, or a middle that values go up and down from. */
  base: number;
  read(note: Note): number;
  write(note: Note, value: number): Note;
  /** Drums only. */
  drums?: boolean;
}

export const PROFILES: Readonly<Record<ProfileKind, Profile>> = {
  velocity: {
    label: "Velocity",
    min: 0,
    max: 127,
    base: 0,
    read: (note) => note.velocity,
    write: (note, value) => ({ ...note, velocity: Math.max(1, Math.round(value)) }),
  },
  tune: {
    label: "Tune",
    min: -12,
    max: 12,
    base: 0,
    read: (note) => note.tune,
    write: (note, value) => ({ ...note, tune: Math.round(value) + 0 }),
    drums: true,
  },
  pan: {
    label: "Pan",
    min: -1,
    max: 1,
    base: 0,
    read: (note) => note.pan,
    // Near the middle is the middle.
    write: (note, value) => ({
      ...note,
      pan: Math.abs(value) < 0.06 ? 0 : Math.round(value * 50) / 50,
    }),
  },
};

const yOf = ({ min, max }: Profile, value: number) =>
  FLOOR - ((Math.min(max, Math.max(min, value)) - min) / (max - min)) * (FLOOR - CEILING);
const valueAt = ({ min, max }: Profile, y: number) =>
  Math.min(max, Math.max(min, min + ((FLOOR - y) / (FLOOR - CEILING)) * (max - min)));

interface Mark {
  x: number;
  y: number;
  chosen: boolean;
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
    for (const { x, y, chosen } of seen.slice(from, from + CHUNK)) {
      heads.moveTo(x + 3.5, y);
      heads.arc(x, y, 3.5, 0, 7);
      if (!chosen) continue;
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
  inkOf: (chosen: boolean) => string,
): void {
  const columns = new Map<number, Mark>();
  for (const mark of seen) {
    const x = Math.round(mark.x);
    const other = columns.get(x);
    if (!other || Math.abs(mark.y - base) > Math.abs(other.y - base)) columns.set(x, mark);
  }
  for (const chosen of [false, true]) {
    ctx.fillStyle = inkOf(chosen);
    for (const [x, mark] of columns) {
      if (mark.chosen !== chosen) continue;
      ctx.fillRect(x, Math.min(mark.y, base), 1, Math.max(1, Math.abs(base - mark.y)));
    }
  }
}

/** Velocity, tune or pan of the lane (or melodic track) in hand, on the sheet's time axis. Draw to set. */
export function ProfileView() {
  const { store } = useDesk();
  const project = useSession((s) => s.project);
  const pattern = useSession((s) => s.pattern);
  const track = useSession((s) => s.track);
  const pitch = useSession((s) => s.caret.pitch);
  const selection = useSession((s) => s.selection);
  const heard = useSession(heardInHand);
  const kind = useSession((s) => s.profile);
  const theme = useTheme();
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);

  const index = project.tracks.findIndex((t) => t.id === track);
  const drums = project.tracks[index]?.kind === "drums";
  const profile = PROFILES[!drums && kind === "tune" ? "velocity" : kind];
  const bars = project.patterns.find((p) => p.id === pattern)?.bars ?? 1;
  const view = useTimeView(width, bars * barTicks(project.metre));
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
      const inks = readInks();
      ctx.clearRect(0, 0, width, HEIGHT);
      ctx.fillStyle = inks.line;
      const base = yOf(profile, profile.base);
      ctx.fillRect(0, base, width, 1);
      const ink = trackInk(inks, Math.max(0, index));
      const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
      const seen: Mark[] = [];
      for (const note of notes) {
        const x = xOf(at, note.start);
        if (x < -8 || x > width + 8) continue;
        seen.push({ x, y: yOf(profile, profile.read(note)), chosen: selection.has(note.id) });
      }
      const inkOf = (chosen: boolean) => (chosen ? inks.text : ink);
      if (seen.length > CROWD) drawCrowd(ctx, seen, base, inkOf);
      else drawMarks(ctx, seen, base, ink, inks.text);
    });
    return () => cancelAnimationFrame(frame);
  }, [width, zoom, scroll, notes, selection, index, theme, profile]);

  const stroke = useRef<{ x: number; y: number; group: string } | null>(null);
  const pointOf = (event: PointerEvent) => {
    const frame = area.current!.getBoundingClientRect();
    return { x: event.clientX - frame.left, y: event.clientY - frame.top };
  };
  /** Sets what the stroke passed between two points, along the line between them. */
  const draw = (from: { x: number; y: number }, to: { x: number; y: number }, group: string) => {
    const state = store.getState();
    const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const reach = left === right ? REACH : 2;
    const values = new Map<string, number>();
    for (const note of notes) {
      const x = xOf(at, note.start);
      if (x < left - reach || x > right + reach) continue;
      const share = right === left ? 1 : (x - from.x) / (to.x - from.x);
      const y = from.y + Math.min(1, Math.max(0, share)) * (to.y - from.y);
      for (const id of ownIds([note.id])) values.set(id, valueAt(profile, y));
    }
    if (values.size === 0) return;
    const change = (note: Note) => profile.write(note, values.get(note.id)!);
    state.edit(
      profile.label,
      (p) => edits.changeNotes(p, place(state), new Set(values.keys()), change),
      group,
    );
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
    const own = partOf(state.project, place(state)).notes;
    const first = own.find((note) => state.selection.has(note.id));
    if (first) store.setState({ touched: { ...state.touched, velocity: first.velocity } });
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
