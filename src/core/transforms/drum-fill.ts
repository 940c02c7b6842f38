import * as yup from "yup";
import { type MidiPitch, type Ticks, plural, seeded, clampVelocity, nth } from "../base";
import { barTicks, beatTicks, DEFAULT_GRID } from "../time";
import { type Condition, MAX_LOOPS, type Note, makeNote, writtenOut } from "../score";
import { param } from "../params";
import { counter, defineTransform, pieceIds, type TransformContext } from "./kit";

/** What pads are in a fill, by the General MIDI percussion map: from high to low, most wanted first. */
const SNARES = [38, 40, 39, 37] as const;
const TOMS = [50, 48, 47, 45, 43, 41] as const;
const HATS = [42, 44, 46] as const;
const CRASHES = [49, 57, 55, 52] as const;
const KICKS: ReadonlySet<MidiPitch> = new Set([35, 36]);

const SPANS = ["beat", "half a bar", "bar"] as const;
const FEELS = ["straight", "triplet"] as const;
const HEARD = ["every time", "last round of a section"] as const;

/**
 * Ends each phrase with a fill on the kit at hand: the last beat, half bar or bar. It runs from snare or hats
 * over the toms downward, denser and louder toward its end; the kick goes on beneath. A phrase longer than the
 * pattern ends with one of its loops: what the fill replaces is heard in the others. With “last round of a
 * section” in all but that. A crash on the one after such a phrase begins the first one too.
 */
export const drumFill = defineTransform({
  label: "Drum fill",
  family: "rhythm",
  example: {
    notes: [
      [0, 240, 36, 110],
      [960, 240, 38, 100],
      [1920, 240, 36, 110],
      [2880, 240, 38, 100],
    ],
    params: { every: 1, density: 90, crash: false },
    context: {
      laneGrids: { 36: DEFAULT_GRID, 38: DEFAULT_GRID, 45: DEFAULT_GRID, 48: DEFAULT_GRID },
    },
  },
  about: "Ends every few bars with a fill of the kit at hand",
  whole: true,
  schema: yup.object({
    every: param.whole("Every", 1, 16, { unit: "bars" }),
    span: param.choice("Length", SPANS),
    feel: param.choice("In", FEELS),
    density: param.whole("Density", 0, 100, { unit: "%" }),
    rise: param.whole("Rise", 0, 100, { unit: "%" }),
    crash: param.flag("Crash on the one after"),
    heard: param.choice("Heard", HEARD, {
      texts: { "last round of a section": "last loop of a section" },
    }),
    seed: param.whole("Seed", 0, 999_999),
  }),
  defaults: {
    every: 4,
    span: "half a bar",
    feel: "straight",
    density: 70,
    rise: 60,
    crash: true,
    heard: "every time",
    seed: 1,
  },
  run(selected, params, context, all) {
    const pads = padsAtHand(context);
    const bar = barTicks(context.metre);
    const beat = beatTicks(context.metre);
    const loop = context.length ?? bar;
    if (context.kind !== "drums" || pads.length === 0) {
      return { replaced: selected, sentence: () => "For a kit with a snare, toms or hats" };
    }
    const last = params.heard === "last round of a section";
    const most = context.patternLength ?? params.every * bar;
    const wanted = params.every * bar;
    const length = last ? loop : Math.max(loop, Math.min(most, wanted));
    const phrase = last ? loop : Math.min(length, wanted);
    const rounds = last ? 1 : Math.min(MAX_LOOPS, Math.ceil(wanted / length));
    /** In which loops the fill sounds, and what it replaces; left out where in every one. */
    const conditions: { fill?: Condition; rest?: Condition; crash?: Condition } = last
      ? { fill: "last", rest: "not-last" }
      : rounds > 1
        ? { fill: `${rounds}/${rounds}`, rest: `not-${rounds}/${rounds}`, crash: `1/${rounds}` }
        : {};
    const span = Math.min(
      phrase,
      params.span === "bar" ? bar : params.span === "beat" ? beat : halfBar(bar, beat),
    );
    const count = counter(context);
    const ids = pieceIds(all);
    const ends: Ticks[] = [];
    for (let end = phrase; end <= length; end += phrase) ends.push(end);
    const inFill = ({ start, pitch }: Note) =>
      !KICKS.has(pitch) &&
      !(pitch in context.lanePeriods) &&
      ends.some((end) => start >= end - span && start < end);

    /** What becomes of a note that a fill may replace. */
    const kept = (note: Note): Note | null => {
      if (!inFill(note)) return note;
      if (!conditions.rest) return null;
      return note.when === undefined ? { ...note, when: conditions.rest } : note;
    };
    // A loop shorter than the phrase is written out, so that only its last loop ends otherwise.
    const round = all.filter(({ pitch }) => !(pitch in context.lanePeriods));
    const longer = length > loop && round.length > 0;
    if (longer) count(round.length * (Math.ceil(length / loop) - 1));
    const out = longer
      ? writtenOut(round, { period: loop, ticks: length }, ({ id }, k) => ids(id, k))
      : round;
    const first = new Map(out.map((note) => [note.id, note]));
    const written = new Set(round.map(({ id }) => id));
    const extra: Note[] = out.flatMap((note) => (written.has(note.id) ? [] : (kept(note) ?? [])));
    /** What is left of a note in the first loop. */
    const left = (note: Note): Note | null => {
      if (note.pitch in context.lanePeriods) return note;
      const own = first.get(note.id);
      return own ? kept(own) : null;
    };
    // Another fill of the chain has ids of its own.
    let tag = "fill";
    while (all.some((note) => note.id.startsWith(`${tag}-`))) tag += "+";
    let made = 0;
    ends.forEach((end, k) => {
      const random = seeded(params.seed * 31 + k);
      for (const hit of fillHits(end - span, span, params, beat, pads, random)) {
        count(1);
        made++;
        extra.push(
          makeNote({
            ...hit,
            id: `${tag}-${k}-${hit.start - end + span}`,
            ...(conditions.fill && { when: conditions.fill }),
          }),
        );
      }
      const crash = CRASHES.find((pitch) => pitch in context.laneGrids);
      if (!params.crash || crash === undefined || last || crash in context.lanePeriods) return;
      const one = end < length ? end : 0;
      if (all.some((note) => note.pitch === crash && note.start === one)) return;
      const note = { start: one, length: beat, pitch: crash, velocity: 110 };
      const id = `${tag}-${k}-crash`;
      // Before the first loop there was no fill.
      const when = conditions.crash ?? (one === 0 ? "not-first" : undefined);
      extra.push(makeNote({ ...note, id, ...(when && { when }) }));
    });
    return {
      replaced: selected.map(left),
      extra,
      length,
      sentence: () =>
        `${plural(ends.length, "fill")} of ${plural(made, "hit")}${last ? ", heard in a section's last loop" : rounds > 1 ? `, heard every ${rounds} loops` : ""}`,
    };
  },
});

/** Half a bar in whole beats; of an odd number of beats the shorter half. */
const halfBar = (bar: Ticks, beat: Ticks): Ticks =>
  Math.max(beat, Math.floor(bar / beat / 2) * beat);

/**
 * The end of a beat as a fill: hits over the pads from high to low in `[from, from + span)`, on those of the lanes that
 * may have it; none where there are no such. What it takes the place of is told by `replaces`.
 */
export function fillOver(
  lanes: readonly MidiPitch[],
  { from, span, beat }: { from: Ticks; span: Ticks; beat: Ticks },
  wish: FillWish,
  random: () => number,
): {
  hits: Pick<Note, "start" | "length" | "pitch" | "velocity">[];
  replaces(note: Note): boolean;
} {
  const pads = padsOf(lanes);
  return {
    hits: pads.length > 0 ? [...fillHits(from, span, wish, beat, pads, random)] : [],
    replaces: ({ pitch, start }) =>
      pads.length > 0 &&
      lanes.includes(pitch) &&
      !KICKS.has(pitch) &&
      start >= from &&
      start < from + span,
  };
}

/** Pads of the kit that a fill runs over, from where it begins to where it ends. */
function padsAtHand({ laneGrids, lanePeriods }: TransformContext): MidiPitch[] {
  return padsOf(
    Object.keys(laneGrids)
      .map(Number)
      .filter((pitch) => !(pitch in lanePeriods)),
  );
}

function padsOf(lanes: readonly MidiPitch[]): MidiPitch[] {
  const free = (list: readonly MidiPitch[]) => list.filter((pitch) => lanes.includes(pitch));
  const snare = free(SNARES).slice(0, 1);
  const toms = free(TOMS).slice(0, 4);
  const run = [...snare, ...toms];
  return run.length > 0 ? run : free(HATS).slice(0, 2);
}

/** How a fill goes: its feel, how dense in percent, and how much denser toward its end. */
export interface FillWish {
  feel: string;
  density: number;
  rise: number;
}

/** The hits of one fill: on a grid of sixteenths or their triplets, with quicker ones where it is dense. */
function* fillHits(
  from: Ticks,
  span: Ticks,
  { feel, density, rise }: FillWish,
  beat: Ticks,
  pads: readonly MidiPitch[],
  random: () => number,
): Generator<Pick<Note, "start" | "length" | "pitch" | "velocity">> {
  const cell = feel === "triplet" ? 160 : 240;
  const cells = Math.max(1, Math.floor(span / cell));
  for (let i = 0; i < cells; i++) {
    const way = cells === 1 ? 1 : i / (cells - 1);
    const onBeat = (i * cell) % beat === 0;
    const wanted = (density / 100) * (1 - (rise / 100) * (1 - way)) + (onBeat ? 0.25 : 0);
    const drawn = [random(), random(), random()] as const;
    // It begins on its first beat and leads into the next bar.
    const needed = i === 0 || i === cells - 1;
    if (!needed && drawn[0] >= wanted) continue;
    // From pad to pad as it goes on, now and then back to the first.
    const along = Math.min(pads.length - 1, Math.floor(way * pads.length));
    const pitch = drawn[1] < 0.15 ? nth(pads, 0) : nth(pads, along);
    const velocity = clampVelocity(66 + 44 * way + (onBeat ? 8 : 0) - 10 * drawn[2]);
    const start = from + i * cell;
    yield { start, length: cell, pitch, velocity };
    // Very dense fills close in half steps.
    if (density > 80 && way > 0.5 && drawn[2] < (density - 80) / 40)
      yield {
        start: start + cell / 2,
        length: cell / 2,
        pitch,
        velocity: clampVelocity(velocity - 14),
      };
  }
}
