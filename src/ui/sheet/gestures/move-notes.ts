import { formatLength, formatPosition, gridTicks } from "@/core/time";
import { degreeOf, padName, pitchName } from "@/core/pitch";
import { type Note, trackOf } from "@/core/score";
import { type PartNotes, everyNote, startBySteps } from "../../commands/notes/by-part";
import { farthest, pitchAllowed, pitchByDegrees } from "../../commands/notes/notes";
import { TAPS, rowNearest, type Row } from "../../geometry/layout";
import { currentMetre } from "../../state/current";
import type { Session } from "../../state/editing";
import type { Gesture, Hand, Point } from "./gesture";

/** What becomes of a note that is moved. */
type Change = (note: Note, of: PartNotes) => Note;

/**
 * Selected notes moved along the time and across the rows by one of them. They go as one and stop at the edges as one:
 * what was selected when the gesture began.
 */
export class MoveNotes implements Gesture {
  readonly touches = true;
  readonly scrolls = true;

  constructor(
    private readonly hand: Hand,
    private readonly on: { note: Note; row: Row },
  ) {}

  move(point: Point): void {
    const { edit, host, state } = this.hand;
    const held = edit.selectedBefore();
    const melody = trackOf(state.project, state.track).kind === "melody";
    const along = this.along(point, held, melody);
    const across = melody ? this.pitches(point, held) : this.lanes(point, held);
    const before = this.hand.firstSelected()?.pitch;
    edit.changeNotes("Move", held, (note, of) => across(along(note, of), of));
    const after = this.hand.firstSelected();
    if (!after) return;
    if (after.pitch !== before) host.hear(after.pitch, after.velocity);
    const moved = movedText(state, this.on.note, this.hand.now(this.on.note) ?? after, melody);
    // With notes of other tracks a hit keeps its lane, and so do hits beside a line.
    const kept = held.length > 1 && held.some(({ drums }) => drums);
    host.readout(kept ? `${moved} · hits keep their lanes` : moved);
  }

  up(click: boolean): void {
    // Of several selected notes it is this one that is meant.
    if (click) this.hand.state.select([this.on.note.id]);
  }

  /** Moves in time: by lines of each note's grid, or freely; on a kit alt means the lane. */
  private along(point: Point, held: readonly PartNotes[], melody: boolean): Change {
    const { from, host } = this.hand;
    const { grid } = this.on.row;
    const ticks = (point.x - from.x) / host.view().zoom;
    const free = (point.alt && melody) || grid.kind === "off";
    const startOf = (note: Note, by: number, of: PartNotes) =>
      free ? note.start + by : startBySteps(note, by, of, held.length > 1 ? grid : null);
    const by = farthest(Math.round(free ? ticks : ticks / gridTicks(grid)), (steps) =>
      everyNote(held, (note, of) => of.mayStart(note, startOf(note, steps, of))),
    );
    return (note, of) => (by === 0 ? note : { ...note, start: startOf(note, by, of) });
  }

  /** Moves across pitches: by degrees of the key where drawing is held to it, else by semitones. */
  private pitches(point: Point, held: readonly PartNotes[]): Change {
    const { state } = this.hand;
    const { row } = this.on;
    const { key } = state.project;
    const block = this.hand.block();
    // Above and below the rows the first and the last are meant.
    // A row between two others lies over both: while the hand stays on it the pitch does.
    const stays = row.between && point.y >= row.y && point.y < row.y + row.height;
    const to = stays ? row : block ? rowNearest(block, point.y) : null;
    const onto = to && to.pitch !== TAPS ? to : null;
    const fromTaps = row.pitch === TAPS;
    const bothIn = !fromTaps && state.inScale && onto?.inKey && row.inKey;
    const degrees = bothIn ? degreeOf(key, onto.pitch).degree - degreeOf(key, row.pitch).degree : 0;
    const semitones = onto && !bothIn && !fromTaps ? onto.pitch - row.pitch : 0;
    const pitchOf = (note: Note, by: number) =>
      degrees ? pitchByDegrees(state.project, note.pitch, by) : note.pitch + by;
    const up = farthest(degrees || semitones, (by) =>
      everyNote(held, (note, { drums }) => drums || pitchAllowed(pitchOf(note, by))),
    );
    return (note, { drums }) => {
      if (drums) return note;
      // A tapped note that is dragged onto a pitch takes it.
      if (note.unpitched && fromTaps && onto) {
        const { unpitched: _, ...rest } = note;
        return { ...rest, pitch: onto.pitch };
      }
      return { ...note, pitch: pitchOf(note, up) };
    };
  }

  /** Moves hits of a kit from lane to lane, as many lanes as the one that is dragged. */
  private lanes(point: Point, held: readonly PartNotes[]): Change {
    const block = this.hand.block();
    if (!block || held.length > 1) return (note) => note;
    const lanes = block.rows.map((row) => row.pitch);
    const laneOf = (note: Note, by: number) => lanes[lanes.indexOf(note.pitch) + by];
    const to = rowNearest(block, point.y);
    const across = to ? lanes.indexOf(to.pitch) - lanes.indexOf(this.on.row.pitch) : 0;
    const down = farthest(across, (by) =>
      everyNote(held, (note) => laneOf(note, by) !== undefined),
    );
    return (note) => ({ ...note, pitch: laneOf(note, down) ?? note.pitch });
  }
}

/** How far a note was moved and where it is: `+3 st · E♭3`, `1.3.1 · +1/16`. */
function movedText(
  { project, pattern }: Pick<Session, "project" | "pattern">,
  was: Note,
  is: Note,
  melody: boolean,
): string {
  const by = is.start - was.start;
  const up = is.pitch - was.pitch;
  const sign = (count: number) => (count > 0 ? "+" : "−");
  return [
    up !== 0 && (melody ? `${sign(up)}${Math.abs(up)} st` : padName(is.pitch)),
    up !== 0 && melody && pitchName(is.pitch, project.key),
    (by !== 0 || up === 0) && formatPosition(is.start, currentMetre({ project, pattern })),
    by !== 0 && `${sign(by)}${formatLength(Math.abs(by))}`,
  ]
    .filter(Boolean)
    .join(" · ");
}
