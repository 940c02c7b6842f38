import { nanoid } from "nanoid";
import * as edits from "@/core/edits";
import { plural } from "@/core/base";
import type { Params } from "@/core/params";
import { MAX_EARLY } from "@/core/time";
import {
  type BendPoint,
  type Note,
  type Project,
  changePart,
  partOf,
  patternOf,
  sortNotes,
  trackOf,
} from "@/core/score";
import { contextOf, transformOf } from "@/core/transforms";
import { mergeProjects } from "@/core/stored";
import { currentPlace } from "../../state/current";
import type { Outcome } from "../../state/editing";
import type { SessionStore } from "../../state/store";
import { placesOfStep } from "../tracks/scopes";
import { type PartNotes, changeEach, selectedByPart } from "./by-part";

/** What one press to release does to the current part: one undo step, which grows or is replaced while it goes on. */
export class GestureEdit {
  private readonly group = `gesture-${nanoid(6)}`;
  private base: Project;
  private produced: Project;

  constructor(private readonly store: SessionStore) {
    this.base = this.produced = store.getState().project;
  }

  /** What is selected, its notes as they were when the gesture began. */
  selectedBefore(): PartNotes[] {
    return selectedByPart(this.store.getState()).map((of) => {
      const notes = partOf(this.base, of.at).notes.filter((note) => of.ids.has(note.id));
      return { ...of, notes };
    });
  }

  /** Puts notes in place of those that it put before. */
  putNotes(label: string, notes: readonly Note[], { select = false } = {}): void {
    const at = currentPlace(this.store.getState());
    this.replace(
      label,
      (project) => edits.addNotes(project, at, notes),
      select ? { selection: notes.map((note) => note.id), touch: true } : {},
    );
  }

  /** Changes notes as they were when the gesture began. */
  changeNotes(
    label: string,
    held: readonly PartNotes[],
    change: (note: Note, of: PartNotes) => Note,
  ): void {
    this.replace(label, (project) => changeEach(project, held, change));
  }

  /** Deletes notes. */
  deleteNotes(label: string, ids: ReadonlySet<string>): void {
    const at = currentPlace(this.store.getState());
    this.replace(label, (project) => edits.deleteNotes(project, at, ids), { selection: [] });
  }

  /** Adds a hit to those that were painted. */
  paint(note: Note): void {
    const at = currentPlace(this.store.getState());
    this.grow("Paint hits", (project) => edits.addNotes(project, at, [note]), {
      selection: [note.id],
      touch: true,
    });
  }

  /** Deletes more notes, those deleted before staying so. */
  erase(ids: ReadonlySet<string>): void {
    const at = currentPlace(this.store.getState());
    this.grow("Erase", (project) => edits.deleteNotes(project, at, ids), { selection: [] });
  }

  /** Lays a line over the bend of the current part, over what was drawn before. */
  drawBend(drawn: readonly BendPoint[]): void {
    const at = currentPlace(this.store.getState());
    this.grow("Draw bend", (project) => edits.drawBend(project, at, drawn), {});
  }

  /** Cuts notes at a tick of their part, after `before` that the stroke has cut already; gives the later pieces. */
  cut(ids: ReadonlySet<string>, tick: number, before: number): string[] {
    const at = currentPlace(this.store.getState());
    const { project } = this.store.getState();
    const { fresh, project: cut } = edits.cutNotes(project, at, { ids, tick }, () => nanoid(8));
    const count = fresh.length + before / 2;
    if (fresh.length > 0)
      this.grow("Cut notes", () => cut, {
        selection: [...this.store.getState().selection, ...ids, ...fresh],
        message: `${plural(count, "note")} cut in two`,
      });
    else if (before === 0) this.store.getState().announce("No note crosses this place: none cut");
    return fresh;
  }

  /**
   * Stretches notes within `[from, to)` by a factor, which turns them about below 0, and moves them by so many ticks.
   * Gives what was done, in words.
   */
  stretch(
    ids: ReadonlySet<string>,
    [from, to]: readonly [from: number, to: number],
    { factor, shift }: { factor: number; shift: number },
  ): string {
    const state = this.store.getState();
    let done = "";
    this.replace("Stretch", (project) =>
      changePart(project, currentPlace(state), (part) => {
        const pattern = patternOf(project, state.pattern);
        const context = contextOf(project, trackOf(project, state.track), part, pattern);
        const { notes, effect } = transformOf("stretch").apply(
          part.notes,
          { factor },
          { ...context, selection: ids, range: [from, to] },
        );
        done = effect.sentence;
        const moved = notes.map((note) =>
          ids.has(note.id)
            ? { ...note, start: Math.max(-MAX_EARLY, Math.round(note.start + shift)) }
            : note,
        );
        return { ...part, notes: sortNotes(moved) };
      }),
    );
    return done;
  }

  /** Gives a card other values, in every part that has it. */
  changeStep(label: string, step: string, params: Params): void {
    this.replace(label, (project) =>
      placesOfStep(project, step).reduce(
        (all, at) => edits.changeStep(all, at, step, { params }),
        project,
      ),
    );
  }

  /** Takes back what the gesture did, the history of it too. */
  cancel(): void {
    this.replace("Cancelled", (project) => project, { selection: [], message: "Cancelled" });
  }

  /**
   * Makes the project what `change` makes of its state at the start of the gesture. What came in
   * meanwhile from another tab is kept.
   */
  private replace(
    label: string,
    change: (project: Project) => Project,
    outcome: Outcome = {},
  ): void {
    const now = this.store.getState().project;
    if (now !== this.produced) this.base = mergeProjects(this.produced, this.base, now);
    const next = change(this.base);
    this.store.getState().edit(label, () => next, { ...outcome, group: this.group });
    this.produced = this.store.getState().project;
  }

  /** Adds to what the gesture has done so far. */
  private grow(label: string, change: (project: Project) => Project, outcome: Outcome): void {
    this.store.getState().edit(label, change, { ...outcome, group: this.group });
    this.produced = this.store.getState().project;
  }
}
