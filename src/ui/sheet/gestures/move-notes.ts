import { formatLength, formatPosition, gridTicks } from "@/core/time";
import { degreeOf, padName, pitchName } from "@/core/pitch";
import { type Note, trackOf } from "@/core/score";
import {
  farthest,
  gridOfNote,
  pitchAllowed,
  pitchByDegrees,
  startAllowed,
  startByLines,
} from "../../commands/notes/notes";
import { TAPS, rowNearest, type Row } from "../../geometry/layout";
import { currentMetre } from "../../state/current";
import type { Session } from "../../state/editing";
import type { Gesture, Hand, Point } from "./gesture";

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
    const ids = this.hand.selected();
    const own = edit.notesBefore(ids);
    const melody = trackOf(state.project, state.track).kind === "melody";
    const along = this.along(point, own, melody);
    const across = melody ? this.pitches(point, own) : this.lanes(point, own);
    const before = this.hand.firstSelected()?.pitch;
    edit.changeNotes("Move", ids, (note) => across(along(note)));
    const after = this.hand.firstSelected();
    if (!after) return;
    if (after.pitch !== before) host.hear(after.pitch, after.velocity);
    host.readout(movedText(state, this.on.note, this.hand.now(this.on.note) ?? after, melody));
  }

  up(click: boolean): void {
    // Of several selected notes it is this one that is meant.
    if (click) this.hand.state.select([this.on.note.id]);
  }

  /** Moves in time: by lines of each note's grid, or freely; on a kit alt means the lane. */
  private along(point: Point, own: readonly Note[], melody: boolean): (note: Note) => Note {
    const { from, host, state } = this.hand;
    const { grid } = this.on.row;
    const ticks = (point.x - from.x) / host.view().zoom;
    const free = (point.alt && melody) || grid.kind === "off";
    const mayStart = startAllowed(state);
    const startOf = (note: Note, by: number) =>
      free ? note.start + by : startByLines(note, by, gridOfNote(state, note));
    const by = farthest(Math.round(free ? ticks : ticks / gridTicks(grid)), (steps) =>
      own.every((note) => mayStart(note, startOf(note, steps))),
    );
    return (note) => (by === 0 ? note : { ...note, start: startOf(note, by) });
  }

  /** Moves across pitches: by degrees of the key where drawing is held to it, else by semitones. */
  private pitches(point: Point, own: readonly Note[]): (note: Note) => Note {
    const { state } = this.hand;
    const { row } = this.on;
    const { key } = state.project;
    const block = this.hand.block();
    // Above and below the rows the first and the last are meant.
    const to = block ? rowNearest(block, point.y) : null;
    const onto = to && to.pitch !== TAPS ? to : null;
    const fromTaps = row.pitch === TAPS;
    const bothIn = !fromTaps && state.inScale && onto?.inKey && row.inKey;
    const degrees = bothIn ? degreeOf(key, onto.pitch).degree - degreeOf(key, row.pitch).degree : 0;
    const semitones = onto && !bothIn && !fromTaps ? onto.pitch - row.pitch : 0;
    const pitchOf = (note: Note, by: number) =>
      degrees ? pitchByDegrees(state.project, note.pitch, by) : note.pitch + by;
    const up = farthest(degrees || semitones, (by) =>
      own.every((note) => pitchAllowed(pitchOf(note, by))),
    );
    return (note) => {
      // A tapped note that is dragged onto a pitch takes it.
      if (note.unpitched && fromTaps && onto) {
        const { unpitched: _, ...rest } = note;
        return { ...rest, pitch: onto.pitch };
      }
      return { ...note, pitch: pitchOf(note, up) };
    };
  }

  /** Moves hits of a kit from lane to lane, as many lanes as the one that is dragged. */
  private lanes(point: Point, own: readonly Note[]): (note: Note) => Note {
    const block = this.hand.block();
    if (!block) return (note) => note;
    const lanes = block.rows.map((row) => row.pitch);
    const laneOf = (note: Note, by: number) => lanes[lanes.indexOf(note.pitch) + by];
    const to = rowNearest(block, point.y);
    const across = to ? lanes.indexOf(to.pitch) - lanes.indexOf(this.on.row.pitch) : 0;
    const down = farthest(across, (by) => own.every((note) => laneOf(note, by) !== undefined));
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
