import * as edits from "@/core/edits";
import { plural, nth, must, lastOf } from "@/core/base";
import { MAX_EARLY, msToTicks } from "@/core/time";
import {
  type BendPoint,
  type Note,
  type PartAddress,
  type Project,
  fromMiddle,
  makeNote,
  trackOf,
} from "@/core/score";
import {
  type LoopOf,
  type PlayedBend,
  type PlayedNote,
  placeInLoop,
  loopCountOf,
  startInLoop,
  laneStepTicks,
  tickInPart,
} from "@/core/perform";
import { nanoid } from "nanoid";
import { currentTicks } from "../../state/current";
import type { Desk } from "../../session/desk";
import { wallClock, type PlayEvent } from "../../session/player";
import { playFrom } from "../transport/play";
import { settings } from "../../person/settings";

/** How often what is played over is cleared and bends are written, in ms. */
const STEP_MS = 80;
/** Replacing, and taking, in what they are called. */
const LABELS = { overdub: "Record", replace: "Record over", take: "Record a take" } as const;

/** Starts recording, with a count-in from stop and at once while the loop plays; or ends it. */
export async function toggleRecord(desk: Desk): Promise<void> {
  const { store, engine } = desk;
  const {
    perform,
    setPerform,
    track,
    playStart,
    pattern,
    plays: what,
    patternLoop,
    setHearing,
  } = store.getState();
  if (perform.recording) {
    perform.recording.finish();
    return;
  }
  if (!track || perform.starting) return;
  let from = playStart;
  // What is recorded goes into a pattern's rounds: the whole of it plays, and by itself.
  if (engine.isPlaying && what === "pattern" && patternLoop?.pattern !== pattern) {
    const now = engine.playedAt(performance.now());
    if (!now || now.pattern !== pattern) return;
    from = Math.max(0, now.tick);
  } else {
    from = Math.min(playStart, currentTicks(store.getState()) - 1);
    setPerform({ starting: true });
    const plays = await playFrom(desk, from, settings().countIn).finally(() =>
      setPerform({ starting: false }),
    );
    if (!plays) return;
  }
  setHearing({ preview: null });
  setPerform({ recording: new Recorder(desk, from) });
}

/** Undoes the last loop of a recording, which goes on. */
export function undoLastLoop({ store }: Desk): void {
  const { history, undo, announce } = store.getState();
  const last = history.past.at(-1);
  if (!last || !Object.values<string>(LABELS).includes(last.label)) {
    announce("No recorded loop to undo");
    return;
  }
  undo();
  store.getState().announce("Last loop undone");
}

/** Where in the loop something was played; `loopOf` finds the part it belongs to. */
const loopPlaceOf = ({ loop }: Pick<PlayedNote, "loop">) => must(loop, "a loop it was played to");

/** What was played over in one loop of a part. */
interface Over {
  loop: number;
  from: number;
  pitches: Set<number>;
}

/** One recording: hears what is played and writes it into the parts, loop by loop. */
class Recorder {
  private readonly run: number;
  readonly mode = settings().record;
  private readonly pattern: string;
  private readonly stops: (() => void)[] = [];
  /** Recorded notes with the loop they belong to; those that are held. */
  private readonly mine = new Map<string, number>();
  private readonly held = new Map<PlayedNote, PartAddress>();
  private readonly over = new Map<string, Over>();
  private readonly bends = new Map<string, { round: number; points: BendPoint[] }>();
  private readonly taken: PlayedNote[] = [];
  private readonly takenBends: (BendPoint & { track: string })[] = [];
  private count = 0;
  private done = false;

  constructor(
    private readonly desk: Desk,
    private readonly from: number,
  ) {
    const { store, engine, player } = desk;
    this.run = engine.runs;
    this.pattern = store.getState().pattern;
    this.stops.push(player.listen((event) => this.hear(event)));
    const timer = setInterval(() => this.step(), STEP_MS);
    this.stops.push(() => clearInterval(timer));
    this.stops.push(
      store.subscribe((now, before) => {
        if (before.playing && !now.playing) this.finish();
      }),
    );
    store.getState().announce(this.mode === "take" ? "Recording a take" : "Recording");
  }

  /** Ends it: what is held ends here, what is unwritten is written. */
  finish(): void {
    if (this.done) return;
    this.done = true;
    this.step("last");
    for (const note of this.held.keys()) this.ended(note, wallClock());
    for (const track of this.bends.keys()) this.writeBend(track);
    if (this.mode === "take") this.putTake();
    for (const stop of this.stops) stop();
    const { store } = this.desk;
    const { setPerform, announce } = store.getState();
    setPerform({ recording: null });
    announce(this.message());
  }

  /** What it left: loops may have been undone meanwhile. */
  private message(): string {
    if (this.count === 0) return "Recording ended: nothing played";
    const left = this.mode === "take" ? this.count : this.notesLeft();
    if (left === 0) return "Recording ended: all of it was undone";
    return `${plural(left, "note")} recorded`;
  }

  private notesLeft(): number {
    const { project } = this.desk.store.getState();
    const parts = project.patterns.find(({ id }) => id === this.pattern)?.parts ?? [];
    const there = new Set(parts.flatMap((part) => part.notes.map(({ id }) => id)));
    // A hit on a place where one was stands for it.
    return [...this.mine.keys()].filter((id) => there.has(id)).length;
  }

  private hear(event: PlayEvent): void {
    if (event.type === "began") this.began(event.note);
    else if (event.type === "ended") this.ended(event.note);
    else if (event.type === "bent") this.bent(event.bend);
  }

  /** Where a note of this recording was played; null for one of another run, or of the count-in. */
  private loopOf({ track, loop }: Pick<PlayedNote, "track" | "loop">): LoopOf | null {
    const { project } = this.desk.store.getState();
    if (loop?.run !== this.run || loop.tick < this.from - MAX_EARLY) return null;
    const pattern = project.patterns.find((pattern) => pattern.id === loop.pattern);
    const part = pattern?.parts.find((part) => part.track === track);
    if (!pattern || !part) return null;
    return { project, pattern, track: trackOf(project, track), part };
  }

  private began(played: PlayedNote): void {
    const loop = this.loopOf(played);
    if (!loop) return;
    this.count++;
    if (this.mode === "take") {
      this.taken.push(played);
      return;
    }
    const { tick } = loopPlaceOf(played);
    const start = startInLoop(loop, played.pitch, tick);
    if (start === null) return;
    const place = { pattern: loop.pattern.id, track: played.track };
    // An early hit belongs to the loop that it leads into.
    const round = loopCountOf(loop, tick) + (start < 0 && tick >= 0 ? 1 : 0);
    this.mine.set(played.id, round);
    const { pitch, velocity } = played;
    const length = laneStepTicks(loop, pitch);
    const note = makeNote({ id: played.id, start, length, pitch, velocity });
    if (this.mode === "replace") this.playedOver(loop, place, round, pitch);
    this.edit(round, (project) =>
      edits.addNotes(this.cleared(project, place, tick), place, [note]),
    );
    if (loop.track.kind === "melody") this.held.set(played, place);
  }

  /** A held note comes to its end: its length is known. */
  private ended(played: PlayedNote, at?: number): void {
    const place = this.held.get(played);
    this.held.delete(played);
    const loop = place && this.loopOf(played);
    if (!loop) return;
    const { over } = settings();
    const held = played.ticks ?? msToTicks((at ?? played.at) - played.at, loopPlaceOf(played).bpm);
    const placed = placeInLoop(loop, { ...played, ticks: Math.max(1, held) }, over);
    if (!placed) return;
    this.edit(this.mine.get(played.id) ?? 0, (project) =>
      edits.changeNotes(project, place, new Set([played.id]), (note) => ({
        ...note,
        length: placed.length,
      })),
    );
  }

  private edit(round: number, change: (project: Project) => Project): void {
    const group = `record-${this.run}-${this.from}-${round}`;
    this.desk.store.getState().edit(LABELS[this.mode], change, { group });
  }

  /** Notes what is played over; what the loop before has still to clear is cleared first. */
  private playedOver(loop: LoopOf, place: PartAddress, round: number, pitch: number): void {
    const known = this.over.get(place.track);
    if (known?.loop === round) {
      known.pitches.add(pitch);
      return;
    }
    if (known) this.edit(known.loop, (project) => this.clearedTo(project, place, known, Infinity));
    const first = loopCountOf(loop, this.from) === round;
    const from = first ? tickInPart(loop, this.from) : 0;
    this.over.set(place.track, { loop: round, from, pitches: new Set([pitch]) });
  }

  private cleared(project: Project, place: PartAddress, tick: number): Project {
    const over = this.over.get(place.track);
    const loop = this.loopOf({
      track: place.track,
      loop: { pattern: place.pattern, run: this.run, tick, bpm: 0 },
    });
    if (!over || !loop) return project;
    const ahead = loopCountOf(loop, tick) - over.loop;
    const to = ahead > 0 ? Infinity : ahead < 0 ? 0 : tickInPart(loop, tick);
    return this.clearedTo(project, place, over, to);
  }

  private clearedTo(
    project: Project,
    place: PartAddress,
    { loop, from, pitches }: Over,
    to: number,
  ): Project {
    const kit = trackOf(project, place.track).kind === "drums";
    const spared = (id: string) => (this.mine.get(id) ?? -1) >= loop;
    return edits.clearPlayedOver(
      project,
      place,
      { from, to, pitches: kit ? pitches : null },
      spared,
    );
  }

  /** Time goes on: what is played over is cleared up to now, bends are written. */
  private step(which: "last" | "one" = "one"): void {
    const { engine, store } = this.desk;
    if (engine.runs !== this.run && which !== "last") {
      this.finish();
      return;
    }
    const now = engine.playedAt(performance.now());
    if (now?.pattern === this.pattern) {
      for (const [track, over] of this.over) {
        const place = { pattern: this.pattern, track };
        const { project } = store.getState();
        if (!project.tracks.some((t) => t.id === track)) continue;
        // Most often there is nothing new to clear, and nothing to tell anyone.
        const cleared = this.cleared(project, place, now.tick);
        if (cleared !== project) this.edit(over.loop, () => cleared);
      }
    }
    for (const track of this.bends.keys()) this.writeBend(track);
  }

  private bent({ track, value, loop: place }: PlayedBend): void {
    const loop = this.loopOf({ track, loop: place });
    if (!place || !loop || loop.track.kind === "drums") return;
    if (this.mode === "take") {
      this.takenBends.push({ track, tick: place.tick, value });
      return;
    }
    const tick = tickInPart(loop, place.tick);
    const round = loopCountOf(loop, place.tick);
    let wheel = this.bends.get(track);
    if (wheel && wheel.round !== round) {
      // It stood there to the loop's end, and stands there as the next loop begins.
      const { value: stood } = lastOf(wheel.points);
      wheel.points.push({ tick: loop.part.length - 1, value: stood });
      this.writeBend(track);
      wheel = { round, points: stood === 0 ? [] : [{ tick: 0, value: stood }] };
      this.bends.set(track, wheel);
    }
    if (!wheel) this.bends.set(track, (wheel = { round, points: [] }));
    const point = { tick, value };
    wheel.points.push(...(wheel.points.length === 0 ? fromMiddle([point]) : [point]));
  }

  private writeBend(track: string): void {
    const wheel = this.bends.get(track);
    if (!wheel || wheel.points.length < 2) return;
    const { round, points } = wheel;
    const place = { pattern: this.pattern, track };
    this.edit(round, (project) => edits.recordBend(project, place, points));
    // It stands where it is until it moves.
    wheel.points = points.slice(-1);
    if (nth(wheel.points, 0).value === 0) this.bends.delete(track);
  }

  /** A take is written as a whole: into a part that it lengthens, or its last time into the loop. */
  private putTake(): void {
    const { lengthen, over } = settings();
    for (const track of new Set(this.taken.map((note) => note.track))) {
      const notes = this.taken.filter((note) => note.track === track);
      const loop = this.loopOf(nth(notes, 0));
      if (!loop) continue;
      const place = { pattern: loop.pattern.id, track };
      const base = this.from - tickInPart(loop, this.from);
      const ended = wallClock();
      const ticksOf = (note: PlayedNote) =>
        note.ticks ?? msToTicks(Math.max(1, note.length ?? ended - note.at), loopPlaceOf(note).bpm);
      if (lengthen) {
        const take = notes.map((note) =>
          this.noteAt(note, loopPlaceOf(note).tick - base, ticksOf(note)),
        );
        const positions = this.takenBends
          .filter((bend) => bend.track === track && bend.tick >= base)
          .map(({ tick, value }) => ({ tick: Math.round(tick - base), value }));
        this.edit(0, (project) =>
          edits.recordBend(
            edits.putTake(project, place, take, () => nanoid(8)),
            place,
            fromMiddle(positions),
          ),
        );
        continue;
      }
      const lastRound = Math.max(...notes.map((note) => loopCountOf(loop, loopPlaceOf(note).tick)));
      const kept = notes.flatMap((note) => {
        if (loopCountOf(loop, loopPlaceOf(note).tick) !== lastRound) return [];
        const placed = placeInLoop(loop, { ...note, ticks: ticksOf(note) }, over);
        return placed ? [this.noteAt(note, placed.start, placed.length)] : [];
      });
      const round = this.takenBends
        .filter((bend) => bend.track === track && loopCountOf(loop, bend.tick) === lastRound)
        .map(({ tick, value }) => ({ tick: tickInPart(loop, tick), value }));
      this.edit(0, (project) =>
        edits.recordBend(edits.addNotes(project, place, kept), place, fromMiddle(round)),
      );
    }
  }

  private noteAt({ id, pitch, velocity }: PlayedNote, start: number, length: number): Note {
    return makeNote({
      id,
      start: Math.max(-MAX_EARLY, Math.round(start)),
      length: Math.max(1, Math.round(length)),
      pitch,
      velocity,
    });
  }
}
