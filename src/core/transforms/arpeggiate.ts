import { type MidiPitch, type Random, type Ticks, seeded, clampVelocity, nth } from "../base";
import { GRID_KINDS, type GridKind, grid, gridTicks, msToTicks, ticksToMs } from "../time";
import { type PatternStep, parseSteps, param, params } from "../params";
import type { Note } from "../score";
import {
  clampLength,
  clampStart,
  counted,
  counter,
  defineTransform,
  figure,
  foldPitch,
  pieceIds,
} from "./kit";
import { TOGETHER, byPitch, onsetGroups } from "./onsets";

const MODES = ["up", "down", "up-down", "as entered", "random", "chord"] as const;
const UNITS = ["note value", "ms"] as const;
const VALUES = ["1", "2", "4", "8", "16", "32", "64", "128"] as const;
/** Never more steps to a chord than this, however fast the rate. */
const MAX = 4096;

/**
 * Chords held become notes one after another at the rate, in the order of the mode, over octaves, each
 * as long as gate × rate; it begins anew with each chord, to which what is still held belongs. `steps` gives each step a share of the
 * velocity and octaves, lets it rest, or ties it to the one before; the order goes on with each note. `change` makes each gap that much longer (or
 * shorter) than the one before.
 */
export const arpeggiate = defineTransform({
  label: "Arpeggiate",
  family: "chords",
  about: "Plays the notes of held chords one after another",
  schema: params({
    mode: param.choice("Order", MODES),
    unit: param.choice("Rate in", UNITS),
    value: param.value("Rate", VALUES, { when: { param: "unit", is: ["note value"] } }),
    kind: param.choice("Kind", GRID_KINDS.slice(0, 3), {
      when: { param: "unit", is: ["note value"] },
    }),
    ms: param.number("Every", 5, 2000, {
      unit: "ms",
      role: "rate",
      when: { param: "unit", is: ["ms"] },
    }),
    octaves: param.whole("Octaves", 1, 5),
    gate: param.number("Gate", 1, 400, { unit: "%" }),
    change: param.number("Slow down", -50, 50, { unit: "%" }),
    steps: param.steps("Steps"),
    seed: param.whole("Seed", 0, 999_999, { when: { param: "mode", is: ["random"] } }),
  }),
  picture: { pitches: [60, 64, 67], ticks: (bar) => bar },
  defaults: {
    mode: "up" as string,
    unit: "note value" as string,
    value: "16" as string,
    kind: "straight" as string,
    ms: 100,
    octaves: 1,
    gate: 80,
    change: 0,
    steps: "",
    seed: 1,
  },
  run(selected, p, context, all) {
    const rate =
      p.unit === "ms"
        ? Math.max(1, msToTicks(p.ms, context.tempo))
        : gridTicks(grid(Number(p.value), p.kind as GridKind));
    const random = seeded(p.seed);
    const making = counter(context);
    const pieceId = pieceIds(all);
    const steps = parseSteps(p.steps);
    const groups = onsetGroups(selected);
    const pieces = new Map<Note, Note[]>();
    let made = 0;
    // Until when the notes of each group are held: as long as its longest.
    const ends = groups.map(endOf);
    // On drums an octave up would be another pad.
    const octaves = context.kind === "drums" ? 1 : p.octaves;
    let holding: number[] = [];
    groups.forEach((group, i) => {
      const from = nth(group, 0).start;
      // What is still held when a chord begins belongs to it, until it is let go; one that only
      // reaches over by what fingers do is let go.
      holding = holding.filter((g) => nth(ends, g) - from >= TOGETHER);
      holding.push(i);
      const held = holding.reduce((end, g) => Math.max(end, nth(ends, g)), -Infinity);
      const to = Math.min(held, groups[i + 1]?.[0]!.start ?? Infinity);
      let order: Voice[] = [];
      // Until when the same notes are held.
      let until = from;
      let [step, played] = [0, 0];
      let gap = rate;
      let last: { piece: Note; until: number }[] = [];
      for (let at = from; at < to && step < MAX; step++) {
        if (at >= until) {
          const sounding = holding.filter((g) => nth(ends, g) > at);
          const chord =
            sounding.length === 1
              ? nth(groups, nth(sounding, 0))
              : sounding.flatMap((g) => nth(groups, g));
          order = orderOf(chord, p.mode, octaves);
          until = sounding.reduce((end, g) => Math.min(end, nth(ends, g)), Infinity);
        }
        const own = steps[step % steps.length] ?? PLAIN_STEP;
        if (own.kind === "tie") {
          // Held through this step too, as far as the gate lets it.
          for (const one of last) {
            one.until += gap;
            const end = one.until - gap * (1 - Math.min(1, p.gate / 100));
            one.piece.length = clampLength(end - one.piece.start);
          }
        } else if (own.kind === "rest") last = [];
        else {
          last = [];
          for (const { note, pitch } of soundingAt(order, played++, p.mode, random)) {
            const list = pieces.get(note) ?? [];
            if (list.length === 0) pieces.set(note, list);
            const piece = {
              ...note,
              id: list.length === 0 ? note.id : pieceId(note.id, list.length),
              pitch: context.kind === "drums" ? pitch : foldPitch(pitch + 12 * own.octave),
              start: clampStart(at),
              length: clampLength(gap * (p.gate / 100)),
              velocity: clampVelocity((note.velocity * own.velocity) / 100),
            };
            making(1);
            list.push(piece);
            last.push({ piece, until: at + gap });
            made++;
          }
        }
        // From the exact place, so that rounding never adds up.
        at += gap;
        gap = Math.max(1, gap * (1 + p.change / 100));
      }
    });
    return {
      replaced: selected.map((note) => pieces.get(note) ?? null),
      sentence: () => {
        if (groups.length === 0) return "No chords to arpeggiate";
        const every = figure(ticksToMs(rate, context.tempo));
        return `${groups.length} chord${groups.length === 1 ? "" : "s"} became ${counted(made, context)}, one every ${every} ms`;
      },
    };
  },
});

/** Where the longest note of a group ends. */
function endOf(group: readonly Note[]): Ticks {
  let end = nth(group, 0).start + 1;
  for (const note of group) end = Math.max(end, note.start + note.length);
  return end;
}

const PLAIN_STEP: PatternStep = { kind: "note", velocity: 100, octave: 0 };

interface Voice {
  note: Note;
  pitch: MidiPitch;
}

/** The notes of a chord over its octaves in the order of a mode; voices out of range are left out. */
function orderOf(group: readonly Note[], mode: string, octaves: number): Voice[] {
  const chord = mode === "as entered" ? group : byPitch(group);
  const voices: Voice[] = [];
  for (let octave = 0; octave < octaves; octave++) {
    for (const note of chord) {
      const pitch = note.pitch + 12 * octave;
      if (pitch <= 127) voices.push({ note, pitch });
    }
  }
  if (mode === "down") return voices.reverse();
  // Up and down again, the ends once.
  if (mode === "up-down") return [...voices, ...voices.slice(1, -1).reverse()];
  return voices;
}

function soundingAt(order: readonly Voice[], step: number, mode: string, random: Random): Voice[] {
  if (mode === "chord") return [...order];
  if (mode === "random") return [nth(order, Math.floor(random() * order.length))];
  return [nth(order, step % order.length)];
}
