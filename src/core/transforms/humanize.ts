import { bell, seeded } from "../random";
import { MAX_EARLY, msToTicks, ticksToMs } from "../time/ticks";
import { compareNotes, type Note } from "../score/model";
import {
  clampLength,
  clampVelocity,
  counted,
  defineTransform,
  figure,
  param,
  params,
  roundLoop,
} from "./kit";

/**
 * Velocity ± v, start ± t ms, length ± %: bell-shaped (standard deviation a third of the limit)
 * and never beyond the limit. `bias` moves the middle of the timing: −100 all early by t, 100 all
 * late. Order within a lane (equal pitch) never changes.
 */
export const humanize = defineTransform({
  label: "Humanize",
  about: "Small uneven differences in velocity, timing and length",
  schema: params({
    velocity: param.whole("Velocity", 0, 64, { unit: "±" }),
    timing: param.number("Timing", 0, 60, { unit: "ms" }),
    length: param.number("Length", 0, 100, { unit: "%" }),
    bias: param.number("Early or late", -100, 100, { unit: "%" }),
    seed: param.seed(),
  }),
  defaults: { velocity: 9, timing: 0, length: 0, bias: 0, seed: 1 },
  run(selected, p, context, all) {
    const random = seeded(p.seed);
    const limit = Math.floor(msToTicks(p.timing, context.tempo));
    const lean = p.bias / 100;
    const wanted = selected.map((note) => {
      const velocity = clampVelocity(note.velocity + Math.round(bell(random) * p.velocity));
      const shift = limit * (bell(random) * (1 - Math.abs(lean)) + lean);
      const length = clampLength(note.length * (1 + (bell(random) * p.length) / 100));
      return { ...note, velocity, length, start: note.start + Math.round(shift) };
    });
    if (limit > 0) keepOrder(all, selected, wanted);
    return {
      replaced: wanted.map((note, i) => {
        const start = roundLoop(selected[i]!, note.start, context);
        return start === note.start ? note : { ...note, start };
      }),
      sentence: (c) => {
        const different = wanted.filter(
          (note, i) => note.velocity !== selected[i]!.velocity,
        ).length;
        const times = wanted.map((note, i) => note.start - selected[i]!.start);
        const widest = times.reduce((most, t) => Math.max(most, Math.abs(t)), 0);
        const moved = c.moved
          ? `${c.moved} moved, at most ${figure(ticksToMs(widest, context.tempo))} ms`
          : "none moved";
        return `${counted(different, context)} louder or softer, ${moved}`;
      },
    };
  },
});

/**
 * Holds the wanted starts so that notes of one pitch stay in their order, strictly where they were
 * strictly apart, between notes that do not move. Changes `wanted` (made by the caller) in place.
 */
function keepOrder(all: readonly Note[], selected: readonly Note[], wanted: Note[]): void {
  const lanes: (Slot[] | undefined)[] = [];
  let next = 0;
  for (const note of all) {
    const mine = selected[next] === note;
    const slot = { was: note, now: mine ? wanted[next++]! : null };
    (lanes[note.pitch] ??= []).push(slot);
  }
  for (const lane of lanes) {
    if (!lane) continue;
    if (!isSorted(lane)) lane.sort((a, b) => compareNotes(a.was, b.was));
    arrange(lane);
  }
}

interface Slot {
  was: Note;
  now: Note | null;
}

function isSorted(lane: readonly Slot[]): boolean {
  for (let i = 1; i < lane.length; i++) {
    if (lane[i]!.was.start < lane[i - 1]!.was.start) return false;
  }
  return true;
}

function arrange(lane: readonly Slot[]): void {
  // From the back: no later than what follows allows.
  let ceiling = Infinity;
  let after = Infinity;
  for (let i = lane.length - 1; i >= 0; i--) {
    const { was, now } = lane[i]!;
    const highest = after === was.start ? ceiling : ceiling - 1;
    if (now) now.start = Math.min(now.start, Math.max(highest, -MAX_EARLY));
    ceiling = now ? now.start : was.start;
    after = was.start;
  }
  // From the front: no earlier than what came before allows, and never before the first early tick.
  let floor = -Infinity;
  let before = -Infinity;
  for (const { was, now } of lane) {
    const lowest = before === was.start ? floor : floor + 1;
    if (now) now.start = Math.max(now.start, lowest, -MAX_EARLY);
    floor = now ? now.start : was.start;
    before = was.start;
  }
}
