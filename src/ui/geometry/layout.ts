import { DEGREE, OUTSIDE, firstWindow, windowPitches, type PitchWindow } from "./pitch-window";
import type { Grid } from "@/core/time";
import { inKey, padName } from "@/core/pitch";
import {
  type BendPoint,
  type Lane,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Track,
  partOf,
  patternOf,
  patternTicks,
} from "@/core/score";
import { effectivePart } from "@/core/transforms";
import { lanePeriod } from "@/core/playback";
import { must, nth, lastOf } from "@/core/base";

/** One row of an open track: a drum lane, or a pitch. Heights and places in CSS pixels. */
export interface Row {
  pitch: number;
  name: string;
  y: number;
  height: number;
  grid: Grid;
  /** Loop length of this row in ticks. */
  period: number;
  lane: Lane | null;
  /** False for a pitch outside the key. */
  inKey: boolean;
  /** Whether it lies between two rows and over both: a pitch outside the key that is used. */
  between?: boolean;
  root: boolean;
  quiet: boolean;
}

/** Pitch of the row for tapped hits that have no pitch yet. */
export const TAPS = -1;

/** The row a note lies in: its pitch's, or the one for taps. */
export const rowOf = (note: Pick<Note, "pitch" | "unpitched">): number =>
  note.unpitched ? TAPS : note.pitch;

/** A track on the sheet: open with its rows, or slim. */
export interface Block {
  track: Track;
  index: number;
  part: Part;
  effective: readonly Note[];
  /** Loop length of the part as heard. */
  period: number;
  /** Bend curve of the part as heard; empty where it has none. */
  bend: readonly BendPoint[];
  open: boolean;
  y: number;
  height: number;
  rows: Row[];
  /** Notes of pitches above and below the rows that are seen. */
  above: readonly Note[];
  below: readonly Note[];
}

/** How melodic tracks are looked at. */
export interface RowsLook {
  open: ReadonlySet<string>;
  /** Whether lanes are higher, for large screens. */
  tall?: boolean;
  /** Whether all twelve pitches of an octave have rows, or those of the key. */
  allRows?: boolean;
  /** Which rows are seen, by track; where none is set, those about the notes. */
  windows?: Readonly<Record<string, PitchWindow>>;
}

/**
 * Where everything lies on the sheet; `total` is the pattern’s length in ticks, heights are in CSS
 * pixels.
 */
export interface SheetLayout {
  pattern: Pattern;
  total: number;
  blocks: Block[];
  height: number;
}

export const HEADER_WIDTH = 240;
export const RULER_HEIGHT = 28;
const TRACK_HEAD = 30;
const LANE = 31;
const TALL_LANE = 44;
const TAP_ROW = 26;
const SLIM = 62;
const GAP = 10;
/** Room under the last row of an open track. */
const BLOCK_FOOT = 8;

/** Places everything on the sheet from top to bottom. Pure: drawing and pointing both read it. */
export function layOut(project: Project, patternId: string, look: RowsLook): SheetLayout {
  const pattern = patternOf(project, patternId);
  const total = patternTicks(project, pattern);
  let y = 4;
  const blocks = project.tracks.map((track, index): Block => {
    const part = partOf(project, { pattern: patternId, track: track.id });
    const effective = effectivePart(project, track, part, pattern);
    const isOpen = look.open.has(track.id);
    const top = y + TRACK_HEAD;
    const rows = !isOpen
      ? []
      : track.kind === "drums"
        ? laneRows(
            track,
            part,
            effective.notes,
            effective.length,
            top,
            look.tall ? TALL_LANE : LANE,
          )
        : degreeRows(project, track, part, effective.notes, effective.length, top, look);
    const last = rows[rows.length - 1];
    // Rows of unlike height do not fill a window exactly: it stays as high as it is.
    const held = isOpen && track.kind === "melody" ? windowOf(project, track, look).height : 0;
    const end = last ? Math.max(last.y + last.height, top + held) : 0;
    const height = last ? end - y + BLOCK_FOOT : SLIM;
    const block = {
      track,
      index,
      part,
      effective: effective.notes,
      period: effective.length,
      bend: effective.bend,
      open: isOpen,
      y,
      height,
      rows,
      ...outsideOf(track, rows, effective.notes),
    };
    y += height + GAP;
    return block;
  });
  return { pattern, total, blocks, height: y };
}

const NOBODY: readonly Note[] = [];

/** Notes of an open melodic track whose pitches are above or below its rows. */
function outsideOf(
  track: Track,
  rows: readonly Row[],
  notes: readonly Note[],
): Pick<Block, "above" | "below"> {
  const pitched = rows.filter((row) => row.pitch !== TAPS);
  const [high, low] = [pitched[0]?.pitch, pitched[pitched.length - 1]?.pitch];
  if (track.kind === "drums" || high === undefined || low === undefined) {
    return { above: NOBODY, below: NOBODY };
  }
  const out = (is: (pitch: number) => boolean) => {
    const found = notes.filter((note) => !note.unpitched && is(note.pitch));
    return found.length > 0 ? found : NOBODY;
  };
  return { above: out((pitch) => pitch > high), below: out((pitch) => pitch < low) };
}

function laneRows(
  track: Track,
  part: Part,
  notes: readonly Note[],
  period: number,
  top: number,
  laneHeight: number,
): Row[] {
  const solo = track.lanes.some((lane) => lane.solo);
  const rows = track.lanes.map((lane, i): Row => {
    return {
      pitch: lane.pitch,
      name: lane.name,
      y: top + i * laneHeight,
      height: laneHeight,
      grid: lane.grid,
      period: lanePeriod(track, lane.pitch, period),
      lane,
      inKey: true,
      root: false,
      quiet: lane.mute || (solo && !lane.solo),
    };
  });
  // Hits on pads without a lane would sound unseen: they get rows of their own.
  const known = new Set(track.lanes.map((lane) => lane.pitch));
  const extra = [...new Set(notes.map((note) => note.pitch))].filter((pitch) => !known.has(pitch));
  for (const pitch of extra) {
    rows.push({
      pitch,
      name: padName(pitch),
      y: top + rows.length * laneHeight,
      height: laneHeight,
      grid: part.grid,
      period,
      lane: null,
      inKey: true,
      root: false,
      quiet: solo,
    });
  }
  return rows;
}

const windowOf = (project: Project, track: Track, { windows }: RowsLook) =>
  windows?.[track.id] ?? firstWindow(project, track);

/**
 * Rows of the key's pitches in the window that is looked through. A pitch outside the key that is used
 * lies between its neighbours and takes no room, so that rows stay put while notes are drawn.
 */
function degreeRows(
  project: Project,
  track: Track,
  part: Part,
  notes: readonly Note[],
  period: number,
  top: number,
  look: RowsLook,
): Row[] {
  const { key } = project;
  const { allRows = false } = look;
  const window = windowOf(project, track, look);
  const row = (pitch: number, y: number, more: Partial<Row> = {}): Row => {
    const member = inKey(key, pitch);
    return {
      pitch,
      name: "",
      y,
      height: member ? DEGREE : OUTSIDE,
      grid: part.grid,
      period,
      lane: null,
      inKey: member,
      root: (((pitch - key.root) % 12) + 12) % 12 === 0,
      quiet: false,
      ...more,
    };
  };
  let y = top;
  const rows = windowPitches(window, key, allRows).map((pitch) => {
    const placed = row(pitch, y);
    y += placed.height;
    return placed;
  });
  if (!allRows)
    addBetween(rows, notes, part.notes, (pitch, at) => row(pitch, at, { between: true }));
  if (notes.some((note) => note.unpitched) || part.notes.some((note) => note.unpitched)) {
    const taps = { name: "No pitch yet", height: TAP_ROW, inKey: true, root: false, quiet: true };
    rows.push(row(TAPS, y, taps));
  }
  return rows;
}

/** Puts rows for used pitches outside the key between those of the key. */
function addBetween(
  rows: Row[],
  effective: readonly Note[],
  written: readonly Note[],
  make: (pitch: number, y: number) => Row,
): void {
  const known = new Set(rows.map((row) => row.pitch));
  const [high, low] = [nth(rows, 0).pitch, lastOf(rows).pitch];
  const used = new Set<number>();
  for (const notes of [effective, written]) {
    for (const { pitch, unpitched } of notes) {
      if (!unpitched && pitch < high && pitch > low && !known.has(pitch)) used.add(pitch);
    }
  }
  for (const pitch of used) {
    const below = rows.findIndex((row) => row.pitch < pitch);
    // Of several between the same two rows each has its share of the way.
    const [upper, lower] = [
      must(rows.slice(0, below).findLast((row) => !row.between)),
      must(rows.slice(below).find((row) => !row.between)),
    ];
    const share = (upper.pitch - pitch) / (upper.pitch - lower.pitch);
    const middle = (row: Row) => row.y + row.height / 2;
    const at = middle(upper) + share * (middle(lower) - middle(upper));
    rows.splice(below, 0, make(pitch, at - OUTSIDE / 2));
  }
}

/** The row at a height of the sheet's content, with its block; null between them. */
export function rowAt(layout: SheetLayout, y: number): { block: Block; row: Row } | null {
  for (const block of layout.blocks) {
    if (y < block.y || y >= block.y + block.height) continue;
    const row = block.rows.find((row) => !row.between && y >= row.y && y < row.y + row.height);
    return row ? { block, row } : null;
  }
  return null;
}

/** The row of a block nearest to a height: its first above them all, its last below. */
export function rowNearest(block: Block, y: number): Row | null {
  const rows = block.rows.filter((row) => !row.between);
  const within = rows.find((row) => y < row.y + row.height);
  return within ?? rows[rows.length - 1] ?? null;
}

/** Where the handles for stretching lie: in the head of a track, over its rows. */
export const handleY = (block: Block): number => (block.rows[0]?.y ?? block.y) - 10;

/** The track at a height of the sheet’s content; null between tracks. */
export function blockAt(layout: SheetLayout, y: number): Block | null {
  return layout.blocks.find((block) => y >= block.y && y < block.y + block.height) ?? null;
}
