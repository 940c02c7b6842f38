import { describe, expect, test } from "vitest";
import {
  bandsOf,
  beatOf,
  drumHits,
  hitNotes,
  lineNotes,
  listenTo,
  onsetsOf,
  pitchLine,
  rhythmNotes,
  slicesOf,
  tickAt,
} from "@/core/listen";
import { recordedLoop, type Loop } from "./recorded.test-helper";

/** An onset within this of one that was played is found (as the MIREX onset detection task has it). */
const NEAR = 0.05;

const KITS = ["harbour", "foghorn", "tin-roof", "pebble", "ropewalk"];
const TEMPI = [84, 120, 150];

function heard(loop: Loop) {
  const listened = listenTo(loop.samples, loop.rate);
  const onsets = onsetsOf(listened);
  return {
    listened,
    onsets,
    hits: drumHits(
      listened.bands,
      onsets.map(({ time }) => time),
    ),
  };
}

/** Found, too many, and missed; and of the found ones how many are of a kind that was played. */
function score(loop: Loop) {
  const { onsets, hits, listened } = heard(loop);
  const truth = [...new Set(loop.hits.map(({ time }) => time))].sort((a, b) => a - b);
  const used = new Set<number>();
  let right = 0;
  for (const { time } of onsets) {
    const at = truth.findIndex((t, i) => !used.has(i) && Math.abs(t - time) <= NEAR);
    if (at < 0) continue;
    used.add(at);
    const kinds = new Set(loop.hits.filter((h) => h.time === truth[at]).map(({ kind }) => kind));
    const own = hits.filter((hit) => hit.time === time);
    // What was hit hardest of those found there; a kick is named first.
    const main = own.reduce((a, b) => (a.kind === "low" || b.velocity <= a.velocity ? a : b));
    if (kinds.has(main.kind)) right++;
  }
  const found = used.size;
  return {
    found,
    extra: onsets.length - found,
    missed: truth.length - found,
    right,
    listened,
    hits,
  };
}

describe("loops of our own kits are heard as they were played", () => {
  for (const room of [0, 0.8])
    test(room ? "in a room" : "dry", { timeout: 120_000 }, () => {
      let [found, extra, missed, right, tempi, firsts, loops] = [0, 0, 0, 0, 0, 0, 0];
      for (const kit of KITS)
        for (const tempo of TEMPI)
          for (const swing of [50, 60]) {
            // Echoes cost most of the time: in a room every other loop.
            if (room && swing === 50 && tempo !== 120) continue;
            const lead = swing === 50 ? 0 : 0.37;
            const loop = recordedLoop({ kit, tempo, swing, room, lead, seed: tempo + swing });
            const own = score(loop);
            found += own.found;
            extra += own.extra;
            missed += own.missed;
            right += own.right;
            loops++;
            const beat = beatOf(own.hits, own.listened.length)!;
            // An octave too high or low is wrong.
            if (Math.abs(beat.tempo / tempo - 1) < 0.01) tempi++;
            if (Math.abs(beat.first - loop.first) < NEAR) firsts++;
          }
      const f = (2 * found) / (2 * found + extra + missed);
      const kinds = right / found;
      expect(f).toBeGreaterThan(0.95);
      expect(kinds).toBeGreaterThan(0.9);
      expect(tempi / loops).toBeGreaterThanOrEqual(0.9);
      expect(firsts / loops).toBeGreaterThanOrEqual(0.9);
    });
});

test(
  "bars of six, seven and five are heard as such, with their tempo in quarters",
  { timeout: 120_000 },
  () => {
    const bars = [
      { metre: { beats: 6, unit: 8 }, bar: { steps: 12, backbeat: [6] } },
      { metre: { beats: 7, unit: 8 }, bar: { steps: 14, backbeat: [4, 10] } },
      { metre: { beats: 5, unit: 4 }, bar: { steps: 20, backbeat: [4, 12] } },
    ];
    let [right, loops] = [0, 0];
    for (const { metre, bar } of bars)
      for (const kit of ["tin-roof", "pebble"])
        for (const tempo of [80, 160]) {
          const lead = kit === "pebble" ? 0 : 0.37;
          const loop = recordedLoop({ kit, tempo, bar, lead, seed: tempo, rate: 22_050 });
          const { hits, listened } = heard(loop);
          const beat = beatOf(hits, listened.length, metre)!;
          loops++;
          if (Math.abs(beat.tempo / tempo - 1) < 0.01 && Math.abs(beat.first - loop.first) < NEAR)
            right++;
        }
    expect(right / loops).toBeGreaterThanOrEqual(0.9);
  },
);

test("a tempo that is told as certain is right", { timeout: 120_000 }, () => {
  let [sure, right] = [0, 0];
  for (let seed = 0; seed < 40; seed++) {
    const tempo = 70 + ((seed * 13) % 100);
    const kit = KITS[seed % KITS.length]!;
    const loop = recordedLoop({ kit, tempo, seed, swing: seed % 3 ? 50 : 62, rate: 22_050 });
    const { hits, listened } = heard(loop);
    const beat = beatOf(hits, listened.length)!;
    if (beat.certainty < 0.9) continue;
    sure++;
    if (Math.abs(beat.tempo / tempo - 1) < 0.01) right++;
  }
  expect(sure).toBeGreaterThan(20);
  expect(right / sure).toBeGreaterThan(0.95);
});

test("an attack is found within two milliseconds, and louder hits are told as louder", () => {
  const loop = recordedLoop({ kit: "pebble", tempo: 100, seed: 3 });
  const { onsets, hits } = heard(loop);
  const off = loop.hits.map(({ time }) =>
    onsets.reduce((least, o) => Math.min(least, Math.abs(o.time - time)), 1),
  );
  off.sort((a, b) => a - b);
  expect(off[Math.floor(off.length * 0.9)]).toBeLessThan(0.002);
  const pairs = loop.hits.flatMap((played) => {
    const own = hits.find((h) => h.kind === played.kind && Math.abs(h.time - played.time) < 0.01);
    return own ? [[played.velocity, own.velocity] as const] : [];
  });
  const soft = pairs.filter(([v]) => v < 85).map(([, v]) => v);
  const loud = pairs.filter(([v]) => v > 100).map(([, v]) => v);
  const mean = (all: number[]) => all.reduce((a, b) => a + b, 0) / all.length;
  expect(mean(loud)).toBeGreaterThan(mean(soft) + 10);
});

test("silence, a single click and noise are taken as they are", () => {
  const silent = heard({
    samples: new Float32Array(44_100),
    rate: 44_100,
    tempo: 1,
    first: 0,
    hits: [],
  });
  expect(silent.onsets).toEqual([]);
  expect(beatOf(silent.hits, 1)).toBeNull();
  const click = new Float32Array(44_100);
  click[22_050] = 1;
  const one = heard({ samples: click, rate: 44_100, tempo: 1, first: 0, hits: [] });
  expect(one.onsets).toHaveLength(1);
  expect(one.onsets[0]!.time).toBeCloseTo(0.5, 2);
  expect(bandsOf(new Float32Array(0), 44_100).frames).toBe(1);
  expect(pitchLine(new Float32Array(100), 44_100)).toEqual([]);
});

test("a sung line is heard note by note, through its vibrato", () => {
  const rate = 44_100;
  const pitches = [57, 60, 64, 62, 60, 60, 67, 69, 45, 76];
  const samples = new Float32Array(rate * 6);
  pitches.forEach((pitch, i) => {
    const begins = 0.3 + i * 0.5;
    const length = i % 3 === 2 ? 0.5 : 0.42;
    let phase = 0;
    for (let k = 0; k < length * rate; k++) {
      const t = k / rate;
      phase += (440 * 2 ** ((pitch - 69 + 0.2 * Math.sin(2 * Math.PI * 5.5 * t)) / 12)) / rate;
      const swell = Math.min(1, t / 0.03, (length - t) / 0.04);
      for (let h = 1; h <= 8; h++)
        samples[Math.round(begins * rate) + k]! +=
          (0.3 * swell * Math.sin(2 * Math.PI * h * phase)) / h;
    }
  });
  const line = pitchLine(samples, rate);
  expect(line.map(({ pitch }) => pitch)).toEqual(pitches);
  line.forEach(({ time }, i) => expect(Math.abs(time - (0.3 + i * 0.5))).toBeLessThan(0.03));
  const notes = lineNotes(line, { tempo: 120, first: 0.3 });
  expect(Math.abs(notes[1]!.start - 960)).toBeLessThan(60);
});

test("slices lie end to end, begin at zero, and put together are the recording", () => {
  const loop = recordedLoop({ kit: "harbour", tempo: 96, seed: 5 });
  const { onsets } = heard(loop);
  const times = onsets.map(({ time }) => time);
  const slices = slicesOf(loop.samples, loop.rate, times);
  expect(slices).toHaveLength(times.length);
  slices.forEach(({ from, to }, i) => {
    expect(to).toBe(slices[i + 1]?.from ?? loop.samples.length);
    expect(Math.abs(from / loop.rate - times[i]!)).toBeLessThan(0.0041);
    const [here, before] = [loop.samples[from]!, loop.samples[from - 1] ?? 0];
    const at = Math.round(times[i]! * loop.rate);
    const about = loop.samples.subarray(Math.max(0, at - 170), at + 1);
    const least = about.reduce((a, x) => Math.min(a, Math.abs(x)), 1);
    expect(here * before <= 0 || Math.abs(here) <= least).toBe(true);
  });
  // Played at the ticks of a pattern, each stands within half a tick of where it was.
  const laid = { tempo: 96, first: loop.first };
  for (const { from } of slices) {
    const tick = tickAt(laid, from / loop.rate);
    expect(Math.abs(tick * (60 / 96 / 960) - from / loop.rate)).toBeLessThanOrEqual(
      0.5 * (60 / 96 / 960) + 1e-9,
    );
  }
});

test("hits become notes of three pads, a rhythm notes without pitch", () => {
  const laid = { tempo: 120, first: 0.5 };
  const hits = [
    { time: 0.1, kind: "high", velocity: 40 },
    { time: 0.45, kind: "high", velocity: 50 },
    { time: 0.5, kind: "low", velocity: 100 },
    { time: 1, kind: "middle", velocity: 90 },
  ] as const;
  // The first lies before what a pattern can hold; the second is an early hit.
  expect(hitNotes(hits, laid).map(({ start, pitch }) => [start, pitch])).toEqual([
    [-96, 42],
    [0, 36],
    [960, 38],
  ]);
  const rhythm = rhythmNotes(hits.slice(2), laid, 1.2, 60);
  expect(rhythm).toMatchObject([
    { start: 0, length: 960, unpitched: true },
    { start: 960, length: 384, unpitched: true },
  ]);
});
