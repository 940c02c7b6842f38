import { type Random, type Ticks, nth } from "../../base";
import { barTicks } from "../../time";
import { barOf, keptPlaces, type NoteSlot } from "../rhythm/places";
import { fillRhythm, type Slot } from "../rhythm/slots";
import { sharesOf } from "../rhythm/shares";
import { closedBar, LONGER } from "./closing";
import type { PhrasedOptions } from "./options";
import type { BarPlan } from "./plan";

/** So many other rhythms are tried, for a line and for each of its bars; so near to the shares asked, 0–1, is enough. */
const TRIES = [60, 14] as const;
const NEAR = 0.03;
/** How far off the shares a line counts whose last note is not longer than the others, and whose phrases' are not. */
const ENDS_SHORT = 0.15;
const RESTS_SHORT = 0.04;

/** A line's rhythm bar by bar. */
interface Draft {
  /** What a bar has of its own, before it is closed. */
  bars: Slot[][];
  /** As it is played. */
  closed: Slot[][];
  plan: BarPlan[];
}

/**
 * The rhythm of a line that is new: copies have their source's, and phrases come to rest. Of several ways to fill its
 * bars it has the one whose note values are nearest to their shares of the time.
 */
export class LineRhythm {
  private draft: Draft;

  /** `leads` is whether notes before the bar line lead into each phrase. */
  constructor(
    private readonly options: PhrasedOptions,
    private readonly asked: readonly BarPlan[],
    private readonly leads: boolean,
    private readonly random: Random,
  ) {
    this.draft = this.drawn({ bars: [], closed: [], plan: [...asked] }, null);
    // What goes with another part has that one's places.
    if (!options.follow) this.settle();
  }

  /** The plan, as far as its bars could be had. */
  get plan(): readonly BarPlan[] {
    return this.draft.plan;
  }

  get slots(): NoteSlot[][] {
    const { options, draft } = this;
    const bar = barTicks(options.metre);
    return draft.closed.map((slots, b): NoteSlot[] =>
      options.keepBars.includes(b)
        ? keptPlaces(options.kept, b, bar)
        : slots.map((slot) => ({ ...slot, start: slot.start + b * bar, bar: b, velocity: null })),
    );
  }

  /** Draws bars anew, one or two at a time, and keeps what is nearer to what was asked. */
  private settle(): void {
    const free = this.draft.plan.flatMap(({ copies, half, cadence }, b) =>
      !this.options.keepBars.includes(b) && (copies === null || half || cadence !== null)
        ? [b]
        : [],
    );
    let off = this.offOf(this.draft);
    const tries = free.length > 0 ? TRIES[0] + TRIES[1] * free.length : 0;
    for (let left = tries; left > 0 && off > NEAR; left--) {
      const some = Array.from({ length: left % 3 === 0 ? 2 : 1 }, () =>
        nth(free, Math.floor(this.random() * free.length)),
      );
      const other = this.drawn(this.draft, some);
      const now = this.offOf(other);
      if (now <= off) [this.draft, off] = [other, now];
    }
  }

  /** A draft in which some bars are others, and with them those that copy them; with null all are. */
  private drawn(from: Draft, only: readonly number[] | null): Draft {
    const { options, random, leads } = this;
    const plan = [...from.plan];
    const changed: boolean[] = [];
    const bars: Slot[][] = [];
    plan.forEach(({ copies }, b) => {
      changed[b] = only === null || only.includes(b) || (copies !== null && nth(changed, copies));
      bars[b] = nth(changed, b) ? this.barAt(b, bars, plan) : nth(from.bars, b);
    });
    const mean = meanOf(bars.flat());
    const closed = bars.map((slots, b) => {
      if (!nth(changed, b)) return nth(from.closed, b);
      // What goes with another part keeps its places to the end.
      if (nth(plan, b).cadence === null || options.follow || options.keepBars.includes(b))
        return slots;
      const made = closedBar(slots, options, { mean, leads }, random);
      plan[b] = { ...nth(plan, b), pickups: made.pickups };
      return made.slots;
    });
    return { bars, closed, plan };
  }

  /** The rhythm of a bar as its plan has it, from those before it. */
  private barAt(b: number, bars: readonly Slot[][], plan: BarPlan[]): Slot[] {
    const { options, random } = this;
    const bar = barTicks(options.metre);
    // A bar that is kept is a motif for others too.
    if (options.keepBars.includes(b))
      return keptPlaces(options.kept, b, bar).map(({ start, length }) => ({
        start: Math.max(0, start - b * bar),
        length,
      }));
    const { copies, half, otherRhythm } = nth(this.asked, b);
    if (copies === null || options.follow) {
      const own = barOf(options, bar, random, b);
      return own.length > 0 || b > 0 ? own : fillRhythm(bar, options.values, random).slice(0, 1);
    }
    const source = nth(bars, copies);
    if (half) return withHead(source, barOf(options, bar, random, b), bar);
    if (!otherRhythm) return source;
    const other = otherRhythmOf(source, bar);
    plan[b] = { ...nth(plan, b), otherRhythm: other !== null };
    return other ?? source;
  }

  /** How far a draft is from the shares of the time that were asked, 0–1, and from phrases that come to rest. */
  private offOf({ closed, plan }: Draft): number {
    const { values, keepBars } = this.options;
    const own = closed.filter((_, b) => !keepBars.includes(b));
    const all = own.flat();
    const off = Math.max(...sharesOf(all, values).map((share) => share.off));
    const enough = LONGER * meanOf(all);
    let [ends, short] = [0, 0];
    closed.forEach((slots, b) => {
      const { cadence, pickups } = nth(plan, b);
      const close = slots.at(-1 - pickups);
      if (cadence === null || keepBars.includes(b) || !close) return;
      ends++;
      if (close.length >= enough) return;
      short += RESTS_SHORT;
      if (b === closed.length - 1) short += ENDS_SHORT * ends;
    });
    return off + (ends > 0 ? short / ends : 0);
  }
}

const meanOf = (slots: readonly Slot[]): Ticks =>
  slots.reduce((sum, { length }) => sum + length, 0) / Math.max(1, slots.length);

/** The first half of a bar, and the second of another. */
function withHead(head: readonly Slot[], rest: readonly Slot[], bar: Ticks): Slot[] {
  const tail = rest.filter(({ start }) => start >= bar / 2);
  const until = tail[0]?.start ?? bar;
  const first = head.filter(({ start }) => start < bar / 2);
  return [
    ...first.map(({ start, length }) => ({ start, length: Math.min(length, until - start) })),
    ...tail,
  ];
}

/** The lengths of a bar from back to front, or its halves exchanged; null where neither is another rhythm. */
function otherRhythmOf(slots: readonly Slot[], bar: Ticks): Slot[] | null {
  const back = slots
    .map(({ start, length }) => ({ start: bar - start - length, length }))
    .reverse();
  const half = bar / 2;
  const first = slots.filter(({ start }) => start < half);
  const whole = first.every(({ start, length }) => start + length <= half);
  const exchanged = [
    ...slots.slice(first.length).map((slot) => ({ ...slot, start: slot.start - half })),
    ...first.map((slot) => ({ ...slot, start: slot.start + half })),
  ];
  const differs = (other: readonly Slot[]) =>
    other[0]?.start === 0 && other.some(({ start }, i) => start !== nth(slots, i).start);
  return [back, ...(whole ? [exchanged] : [])].find(differs) ?? null;
}
