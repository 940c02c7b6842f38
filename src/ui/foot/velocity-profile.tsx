"use client";
import { useEffect, useMemo, useRef, type PointerEvent } from "react";
import { nanoid } from "nanoid";
import { barTicks, edits, partOf, type Note } from "@/core";
import { useDesk, useSession } from "../session/context";
import { heardInHand, place } from "../session/store";
import { useTheme } from "../shared/theme";
import { prepareCanvas } from "../sheet/canvas";
import { ownIds } from "../sheet/editing";
import { readInks, trackInk } from "../sheet/inks";
import { useSize, useTimeView } from "../sheet/use-view";
import { xOf } from "../sheet/view";

const HEIGHT = 60;
const FLOOR = HEIGHT - 4;
const CEILING = 7;
const REACH = 9;

const yOf = (velocity: number) => FLOOR - (velocity / 127) * (FLOOR - CEILING);
const velocityAt = (y: number) =>
  Math.min(127, Math.max(1, Math.round(((FLOOR - y) / (FLOOR - CEILING)) * 127)));

/** Velocities of the lane (or melodic track) in hand, on the sheet's own time axis. Drag to set. */
export function VelocityProfile() {
  const { store } = useDesk();
  const project = useSession((s) => s.project);
  const pattern = useSession((s) => s.pattern);
  const track = useSession((s) => s.track);
  const pitch = useSession((s) => s.caret.pitch);
  const selection = useSession((s) => s.selection);
  const heard = useSession(heardInHand);
  const theme = useTheme();
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);

  const index = project.tracks.findIndex((t) => t.id === track);
  const drums = project.tracks[index]?.kind === "drums";
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
      ctx.fillRect(0, FLOOR, width, 1);
      const ink = trackInk(inks, Math.max(0, index));
      const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
      const stems = new Path2D();
      const heads = new Path2D();
      const rings = new Path2D();
      for (const note of notes) {
        const x = xOf(at, note.start);
        if (x < -8 || x > width + 8) continue;
        const y = yOf(note.velocity);
        stems.rect(x - 0.75, y, 1.5, FLOOR - y);
        heads.moveTo(x + 3.5, y);
        heads.arc(x, y, 3.5, 0, 7);
        if (!selection.has(note.id)) continue;
        rings.moveTo(x + 6, y);
        rings.arc(x, y, 6, 0, 7);
      }
      ctx.fillStyle = ink;
      ctx.globalAlpha = 0.75;
      ctx.fill(stems);
      ctx.globalAlpha = 1;
      ctx.fill(heads);
      ctx.strokeStyle = inks.text;
      ctx.lineWidth = 1.4;
      ctx.stroke(rings);
    });
    return () => cancelAnimationFrame(frame);
  }, [width, zoom, scroll, notes, selection, index, theme]);

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
      for (const id of ownIds([note.id])) values.set(id, velocityAt(y));
    }
    if (values.size === 0) return;
    const change = (note: Note) => ({ ...note, velocity: values.get(note.id) ?? note.velocity });
    state.edit(
      "Velocity",
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
