import { type Note, metreOf } from "@/core/score";
import { rowOf, type Block, type Row } from "../geometry/layout";
import type { Scene } from "./scene";
import { nth } from "@/core/base";
import { selectedOn } from "../geometry/selected-on";

/** A stretch of the sheet's content from top to bottom, in pixels. */
export interface Band {
  top: number;
  bottom: number;
}

const LEAST_ROOM = 1;

/**
 * Where two scenes differ, so that an edit of one lane draws that lane again and no other. Null
 * when everything must be drawn: another view, another layout, another theme.
 */
export function changedBands(before: Scene | null, now: Scene): Band[] | null {
  if (!before || before.view !== now.view || before.colours !== now.colours) return null;
  if (
    metreOf(before.project, before.layout.pattern) !== metreOf(now.project, now.layout.pattern) ||
    before.layout.total !== now.layout.total
  )
    return null;
  if (before.layout.pattern.chords !== now.layout.pattern.chords) return null;
  const [was, is] = [before.layout.blocks, now.layout.blocks];
  if (was.length !== is.length) return null;
  const bands: Band[] = [];
  for (let i = 0; i < is.length; i++) {
    const [a, b] = [nth(was, i), nth(is, i)];
    if (a.track.id !== b.track.id || a.y !== b.y || a.height !== b.height || a.open !== b.open)
      return null;
    const inHand = b.track.id === now.track;
    // Behind its notes lie the others', which may have changed.
    const backdrop =
      b.track.kind === "melody" &&
      inHand &&
      (now.otherTracks !== before.otherTracks ||
        (now.otherTracks && now.project !== before.project));
    const leftOrTaken = before.track !== now.track && (inHand || b.track.id === before.track);
    const outlines = inHand && (before.before !== now.before || now.before !== null);
    const lanes = b.open && b.track.kind === "drums" && !leftOrTaken && !outlines;
    const chosen = [selectedOn(before, b.track.id), selectedOn(now, b.track.id)] as const;
    const rows = lanes ? changedRows(a, b, ...chosen) : null;
    if (rows) bands.push(...rows.map((row) => bandOf(row)));
    else if (leftOrTaken || outlines || backdrop || differs(a, b) || chosen[0] !== chosen[1]) {
      bands.push({ top: b.y - LEAST_ROOM, bottom: b.y + b.height + LEAST_ROOM });
    }
  }
  return bands;
}

const bandOf = (row: Row): Band => ({
  top: row.y - LEAST_ROOM,
  bottom: row.y + row.height + LEAST_ROOM,
});

const differs = (a: Block, block: Block) =>
  a.effective !== block.effective ||
  a.part !== block.part ||
  a.track !== block.track ||
  a.period !== block.period ||
  a.rows.length !== block.rows.length ||
  a.rows[0]?.pitch !== block.rows[0]?.pitch;

/** Lanes whose hits, marks or grid changed; null when the lanes themselves are others. */
function changedRows(
  a: Block,
  block: Block,
  selectedBefore: ReadonlySet<string>,
  selected: ReadonlySet<string>,
): Row[] | null {
  if (a.rows.length !== block.rows.length || a.period !== block.period) return null;
  const pitches = new Set<number>();
  if (a.effective !== block.effective) {
    const old = new Set(a.effective);
    const fresh = new Set(block.effective);
    for (const note of a.effective) if (!fresh.has(note)) pitches.add(rowOf(note));
    for (const note of block.effective) if (!old.has(note)) pitches.add(rowOf(note));
  }
  if (selectedBefore !== selected) {
    const mark = (note: Note) => {
      if (selectedBefore.has(note.id) !== selected.has(note.id)) pitches.add(rowOf(note));
    };
    block.effective.forEach(mark);
  }
  for (let i = 0; i < block.rows.length; i++) {
    const [x, y] = [nth(a.rows, i), nth(block.rows, i)];
    if (x.pitch !== y.pitch || x.y !== y.y || x.height !== y.height) return null;
    if (x.grid !== y.grid || x.period !== y.period || x.quiet !== y.quiet) pitches.add(y.pitch);
  }
  return block.rows.filter((row) => pitches.has(row.pitch));
}

/** Whether a stretch of content touches any band; with no bands everything is drawn. */
export function touches(bands: readonly Band[] | null, top: number, bottom: number): boolean {
  return !bands || bands.some((band) => band.bottom > top && band.top < bottom);
}
