import {
  isBass,
  degreeOf,
  degreePitch,
  inKey,
  lanePeriod,
  heardPart,
  padName,
  partOf,
  patternOf,
  patternTicks,
  type Grid,
  type Lane,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Track,
} from "@/core";

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
  heard: readonly Note[];
  /** Loop length of the part as heard. */
  period: number;
  open: boolean;
  y: number;
  height: number;
  rows: Row[];
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

export const HEADER_WIDTH = 222;
export const RULER_HEIGHT = 28;
const TRACK_HEAD = 30;
const LANE = 31;
const DEGREE = 17;
const OUTSIDE = 13;
const TAP_ROW = 26;
const SLIM = 62;
const GAP = 10;

/** Places everything on the sheet from top to bottom. Pure: drawing and pointing both read it. */
export function layOut(
  project: Project,
  patternId: string,
  open: ReadonlySet<string>,
  allRows = false,
): SheetLayout {
  const pattern = patternOf(project, patternId);
  const total = patternTicks(project, pattern);
  let y = 4;
  const blocks = project.tracks.map((track, index): Block => {
    const part = partOf(project, { pattern: patternId, track: track.id });
    const heard = heardPart(project, track, part, pattern.bars);
    const isOpen = open.has(track.id);
    const top = y + TRACK_HEAD;
    const rows = !isOpen
      ? []
      : track.kind === "drums"
        ? laneRows(track, part, heard.notes, heard.length, top)
        : degreeRows(project, track, part, heard.notes, heard.length, top, allRows);
    const last = rows[rows.length - 1];
    const height = last ? last.y + last.height - y + 6 : SLIM;
    const block = {
      track,
      index,
      part,
      heard: heard.notes,
      period: heard.length,
      open: isOpen,
      y,
      height,
      rows,
    };
    y += height + GAP;
    return block;
  });
  return { pattern, total, blocks, height: y };
}

function laneRows(
  track: Track,
  part: Part,
  notes: readonly Note[],
  period: number,
  top: number,
): Row[] {
  const solo = track.lanes.some((lane) => lane.solo);
  const rows = track.lanes.map((lane, i): Row => {
    return {
      pitch: lane.pitch,
      name: lane.name,
      y: top + i * LANE,
      height: LANE,
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
      y: top + rows.length * LANE,
      height: LANE,
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

/** The root of the key at or below a pitch. */
function rootBelow(root: number, pitch: number): number {
  return pitch - ((((pitch - root) % 12) + 12) % 12);
}

/**
 * Rows of the key's pitches in whole octaves from root to root around what is used, and one more at
 * either end; others only where used. Whole octaves, so that rows stay put while notes are drawn.
 */
function degreeRows(
  project: Project,
  track: Track,
  part: Part,
  notes: readonly Note[],
  period: number,
  top: number,
  allRows: boolean,
): Row[] {
  const used = new Set<number>();
  for (const note of notes) if (!note.unpitched) used.add(note.pitch);
  for (const note of part.notes) if (!note.unpitched) used.add(note.pitch);
  const { key } = project;
  const empty = rootBelow(key.root, isBass(track) ? 42 : 64);
  let [lowest, highest] = used.size > 0 ? [127, 0] : [empty, empty];
  for (const pitch of used) {
    lowest = Math.min(lowest, pitch);
    highest = Math.max(highest, pitch);
  }
  const beside = (root: number, degrees: number) =>
    degreePitch(key, degreeOf(key, root).degree + degrees);
  let low = rootBelow(key.root, lowest);
  let high = rootBelow(key.root, highest + 11);
  // The one more row at either end may be all that is needed.
  if (lowest >= beside(low + 12, -1)) low += 12;
  if (highest <= beside(high - 12, 1)) high -= 12;
  high = Math.max(low + 12, high);
  const first = Math.min(127, beside(high, 1));
  const last = Math.max(0, beside(low, -1));
  const rows: Row[] = [];
  let y = top;
  for (let pitch = first; pitch >= last; pitch--) {
    const member = inKey(project.key, pitch);
    if (!member && !allRows && !used.has(pitch)) continue;
    const height = member ? DEGREE : OUTSIDE;
    rows.push({
      pitch,
      name: "",
      y,
      height,
      grid: part.grid,
      period,
      lane: null,
      inKey: member,
      root: (((pitch - project.key.root) % 12) + 12) % 12 === 0,
      quiet: false,
    });
    y += height;
  }
  if (notes.some((note) => note.unpitched) || part.notes.some((note) => note.unpitched)) {
    rows.push({
      pitch: TAPS,
      name: "No pitch yet",
      y,
      height: TAP_ROW,
      grid: part.grid,
      period,
      lane: null,
      inKey: true,
      root: false,
      quiet: true,
    });
  }
  return rows;
}

/** The row at a height of the sheet's content, with its block; null between them. */
export function rowAt(layout: SheetLayout, y: number): { block: Block; row: Row } | null {
  for (const block of layout.blocks) {
    if (y < block.y || y >= block.y + block.height) continue;
    const row = block.rows.find((r) => y >= r.y && y < r.y + r.height);
    return row ? { block, row } : null;
  }
  return null;
}

/** Where the handles for stretching lie: in the head of a track, over its rows. */
export const handleY = (block: Block): number => (block.rows[0]?.y ?? block.y) - 10;

/** The track at a height of the sheet’s content; null between tracks. */
export function blockAt(layout: SheetLayout, y: number): Block | null {
  return layout.blocks.find((b) => y >= b.y && y < b.y + b.height) ?? null;
}
