import { type Random, type Ticks, seeded, nth } from "../base";
import { type Metre, barTicks } from "../time";
import { type Note, shapeOf, sortNotes } from "../score";
import { topLine, type Idea } from "./common/idea";

/** Two ideas of one track that are to have children. */
export interface Pair {
  first: readonly Note[];
  second: readonly Note[];
  kind: "drums" | "melody";
  metre: Metre;
  bars: number;
  count: number;
  seed: number;
}

/** So many in a row that are there already mean that there are no others. */
const MAX_ALIKE = 40;

/**
 * Children of two ideas, none alike and none a parent: bars of the one and of the other; the rhythm of one with the
 * pitches of the other; of drums, lanes of either. Each says what it has of whom. The same pair and seed give the
 * same children.
 */
export function childrenOf(pair: Pair): Idea[] {
  const known = new Set([shapeOf(pair.first), shapeOf(pair.second)]);
  const children: Idea[] = [];
  for (let i = 0, alike = 0; children.length < pair.count && alike < MAX_ALIKE; i++) {
    const seed = (pair.seed + i) % 2 ** 31;
    const random = seeded(seed);
    const ways = pair.kind === "drums" ? [byBars, byLanes] : [byBars, crossed];
    const child = nth(ways, Math.floor(random() * ways.length))(pair, random);
    const notes = sortNotes(child.notes.map((note, n) => ({ ...note, id: `g${seed}-${n + 1}` })));
    const shape = shapeOf(notes);
    if (known.has(shape) || notes.length === 0) alike++;
    else {
      alike = 0;
      children.push({ seed, notes: [...notes], description: child.says });
    }
    known.add(shape);
  }
  return children;
}

interface Child {
  notes: readonly Note[];
  says: string;
}

type Parent = "first" | "second";

/** Bars in turn of either; of a single bar its halves. */
function byBars({ first, second, metre, bars }: Pair, random: Random): Child {
  const bar = barTicks(metre);
  const size = bars > 1 ? bar : bar / 2;
  const pieces = bars > 1 ? bars : 2;
  const of = Array.from({ length: pieces }, (): Parent => (random() < 0.5 ? "first" : "second"));
  // Each gives something.
  if (of.every((one) => one === of[0]))
    of[Math.floor(random() * pieces)] = of[0] === "first" ? "second" : "first";
  const at = ({ start }: Note) => Math.min(pieces - 1, Math.floor(Math.max(0, start) / size));
  const cut = (notes: readonly Note[], parent: Parent) =>
    notes
      .filter((note) => of[at(note)] === parent)
      // Nothing sounds on into a piece of the other.
      .map((note) => {
        const piece = at(note);
        let end = piece + 1;
        while (end < pieces && of[end] === parent) end++;
        const until = end >= pieces ? Infinity : end * size;
        return { ...note, length: Math.max(1, Math.min(note.length, until - note.start)) };
      });
  const list = (parent: Parent) =>
    of.flatMap((own, i) => (own === parent ? [i + 1] : [])).join(", ");
  const what = bars > 1 ? "bars" : "halves";
  return {
    notes: [...cut(first, "first"), ...cut(second, "second")],
    says: `${what} ${list("first")} of the first, ${list("second")} of the second`,
  };
}

/** The rhythm of one with the pitches that the other has at the time. */
function crossed({ first, second, bars, metre }: Pair, random: Random): Child {
  const turned = random() < 0.5;
  const [rhythm, pitches] = turned ? [second, first] : [first, second];
  const whole = bars * barTicks(metre);
  // A little later in the other is another child.
  const shift = Math.floor(random() * 4) * (whole / 8);
  const line = topLine(pitches);
  const pitchAt = (tick: Ticks) => {
    const wanted = (tick + shift) % whole;
    const now = line.findLast(({ start }) => start <= wanted) ?? line[0];
    return now?.pitch ?? null;
  };
  const notes = topLine(rhythm).flatMap((note) => {
    const pitch = pitchAt(Math.max(0, note.start));
    return pitch === null ? [] : [{ ...note, pitch }];
  });
  const [a, b] = turned ? ["second", "first"] : ["first", "second"];
  return { notes, says: `rhythm of the ${a}, pitches of the ${b}${shift > 0 ? ", moved" : ""}` };
}

/** Each lane of either. */
function byLanes({ first, second }: Pair, random: Random): Child {
  const lanes = [...new Set([...first, ...second].map(({ pitch }) => pitch))];
  const of = new Map(lanes.map((pitch) => [pitch, random() < 0.5]));
  if (lanes.length > 1 && [...of.values()].every((x) => x === of.get(nth(lanes, 0))))
    of.set(nth(lanes, Math.floor(random() * lanes.length)), !of.get(nth(lanes, 0)));
  const notes = [
    ...first.filter(({ pitch }) => of.get(pitch)),
    ...second.filter(({ pitch }) => !of.get(pitch)),
  ];
  const mine = [...of.values()].filter(Boolean).length;
  return { notes, says: `${mine} of ${lanes.length} lanes of the first, the others of the second` };
}
